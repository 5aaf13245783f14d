import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

/** Runs in, drawn as tally marks: four strokes and a bar. What is still to do stands as pale strokes. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-tally',
  template: `
    @if (drawn(); as groups) {
      <svg [attr.width]="groups.length * 26" height="20" aria-hidden="true">
        @for (group of groups; track $index) {
          <g [attr.transform]="'translate(' + $index * 26 + ' 0)'">
            @for (stroke of group; track $index) {
              @if ($index < 4) {
                <line
                  [attr.x1]="3 + $index * 5"
                  y1="3"
                  [attr.x2]="3 + $index * 5"
                  y2="17"
                  [class.open]="!stroke"
                />
              } @else {
                <line x1="0" y1="15" x2="21" y2="5" [class.open]="!stroke" />
              }
            }
          </g>
        }
      </svg>
    }
    <span class="figures"
      >{{ done() }}<span class="of">/{{ of() }}</span></span
    >
    <span i18n class="visually-hidden">{{ done() }} of {{ of() }} runs in</span>
  `,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 0.4rem;
      flex-wrap: wrap;
    }
    line {
      stroke: var(--ink);
      stroke-width: 2;
      stroke-linecap: round;
    }
    line.open {
      stroke: var(--rule);
      stroke-width: 1.5;
    }
    .figures {
      font-family: var(--figures);
      font-weight: 600;
      font-size: 1.05rem;
    }
    .of {
      color: var(--ink-soft);
    }
  `,
})
export class TallyMarks {
  readonly done = input.required<number>();
  readonly of = input.required<number>();
  /** More strokes than this are only written as a number. */
  readonly atMost = input(25);

  protected readonly drawn = computed(() => {
    const total = this.of();
    if (total > this.atMost() || total === 0) return undefined;
    const strokes = Array.from({ length: total }, (_, index) => index < this.done());
    return Array.from({ length: Math.ceil(total / 5) }, (_, group) =>
      strokes.slice(group * 5, group * 5 + 5),
    );
  });
}
