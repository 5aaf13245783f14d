import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { ReelQuestion } from '@mule-tally/core/work';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Reels } from '../state/reels';

/** What does not fit together in what was logged off a reel: asked, never refused. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-reel-questions',
  template: `
    @for (sentence of sentences(); track sentence) {
      <p class="asked">{{ sentence }}</p>
    }
  `,
  styles: `
    .asked {
      margin: 0.2rem 0;
      border-left: 0.4rem solid var(--alert);
      padding-left: 0.6rem;
      font-weight: 600;
    }
  `,
})
export class ReelQuestions {
  private readonly reels = inject(Reels);
  private readonly crew = inject(Crew);
  private readonly derived = inject(Derived);
  readonly reelId = input.required<string>();

  private text(name: string, question: ReelQuestion): string {
    if (question.kind === 'overdrawn') {
      const more = this.derived.units().long(question.byIn);
      return $localize`${more} more came off ${name} than was on it. Count it, or look which reel it was.`;
    }
    const { mark } = this.derived.units();
    const at = question.at
      .map(({ houseId, by }) => {
        const people = by.map((id) => this.crew.nameOf(id)).join(', ');
        const house = this.reels.houseName(houseId);
        return house ? `${people} (${house})` : people;
      })
      .join('; ');
    return question.kind === 'two-houses'
      ? $localize`${name} was taken from in two houses on ${question.day}, by ${at}. One of them had another reel.`
      : $localize`Marks ${mark(question.from)} to ${mark(question.to)} of ${name} were logged twice, by ${at}. One of them had another reel.`;
  }

  protected readonly sentences = computed(() => {
    const known = this.reels.byId().get(this.reelId());
    return (known?.questions ?? []).map((question) => this.text(known!.reel.name, question));
  });
}
