import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { SaidStep } from '@mule-tally/core/work';
import { gaugeNumber } from '@mule-tally/core';
import { TermPipe } from '../parts/term';
import { Wire } from '../parts/wire';
import { Derived } from '../state/derived';

/** One step as work: which conductors, what to cut and strip, which connector, and what to mind. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-step-detail',
  imports: [WordsPipe, TermPipe, Wire],
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
  readonly step = input.required<SaidStep>();
  private readonly derived = inject(Derived);
  protected readonly gauge = gaugeNumber;
  protected inches(length: number): string {
    return this.derived.units().short(length);
  }
  /** The connector that would take the bundle, or what else is to be done. */
  protected better(connectorId: string | undefined): string {
    const name = connectorId && this.derived.words()?.say.connector(connectorId);
    return name ? $localize`use this: ${name}` : $localize`no connector of the table does: make two splices`;
  }
}
