import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { MakeUpStep } from '@mule-tally/core';
import { inchesText } from '../parts/lengths';
import { Wire } from '../parts/wire';

/** One step as work: which conductors, what to cut and strip, which connector, and what to mind. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-step-detail',
  imports: [Wire],
  templateUrl: './step-detail.html',
  styles: `
    .wires {
      list-style: none;
      margin: 0.2rem 0;
      padding: 0;
    }
    .wires li {
      padding: 0.12rem 0;
    }
    .wires .tail {
      padding-left: 1.2rem;
    }
    .how {
      margin: 0;
    }
    .alert {
      color: var(--alert);
    }
  `,
})
export class StepDetail {
  readonly step = input.required<MakeUpStep>();
  protected readonly inches = inchesText;
}
