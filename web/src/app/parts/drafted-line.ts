import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Drafted } from '@mule-tally/core';
import { sameJson } from '@mule-tally/core';
import { Derived } from '../state/derived';

/** Why something was drafted, and what somebody has changed of it since. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-drafted-line',
  template: `
    @if (text(); as text) {
      <p class="soft">{{ text }}</p>
    }
  `,
  styles: `
    p {
      margin: 0.4rem 0 0;
      border-left: 4px solid var(--rule);
      padding-left: 0.6rem;
    }
  `,
})
export class DraftedLine {
  private readonly derived = inject(Derived);
  readonly record = input.required<{ readonly drafted?: Drafted | undefined }>();

  protected readonly text = computed(() => {
    const { drafted, ...now } = this.record() as { drafted?: Drafted } & Record<string, unknown>;
    if (!drafted) return undefined;
    const changed = Object.keys({ ...now, ...drafted.fields }).filter(
      (field) => field !== 'id' && !sameJson(now[field], drafted.fields[field]),
    );
    const why = this.why(drafted);
    return changed.length ? $localize`${why} Changed since: ${changed.join(', ')}.` : why;
  });

  private why({ why: { kit, item, circuit } }: Drafted): string {
    const { roomKits, circuitPlans } = this.derived.trade();
    const told = (text: string): string => this.derived.told(text);
    if (circuit) {
      const plan = circuitPlans.find(({ use }) => use === circuit);
      const source = plan?.source.section ?? told(plan?.source.provenance ?? 'common practice');
      return $localize`Drafted as a circuit that is asked for (${source}).`;
    }
    const own = roomKits.find(({ roomKind }) => roomKind === kit);
    const line = own?.items.find(({ key }) => key === item);
    const source = own?.sources[item ?? ''];
    if (!kit || !line) return $localize`Drafted with the house.`;
    const where = source?.section
      ? $localize`${source.section}, from memory`
      : told(source?.provenance ?? 'common practice');
    return $localize`Drafted by the ${told(kit.replace('-', ' '))} kit: ${told(line.name)} (${where}).`;
  }
}
