import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { Connector } from '@mule-tally/core';
import { CREW_CHANGES, bundleText } from '@mule-tally/core';
import { Value } from '../parts/value';
import { CrewDesk } from '../state/desk';
import { OpenCrew } from '../state/open-crew';
import { CrewRules } from './crew-rules';

/** What this crew calls the connectors: on the bench they go by these names. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-connectors',
  imports: [ToldPipe, WordsPipe, Value],
  template: `
    <p i18n class="soft">
      On the bench a connector goes by the name that the crew gives it. What it takes is common practice, from
      memory; what is printed on the package in hand decides.
    </p>
    <table class="ledger entered">
      <thead>
        <tr>
          <th i18n>Connector</th>
          <th i18n>Takes up to</th>
          <th i18n>This crew says</th>
        </tr>
      </thead>
      <tbody>
        @for (connector of rules.trade().connectors; track connector.id) {
          <tr>
            <td>{{ connector.name | told }}</td>
            <td class="num">{{ upTo(connector) }}</td>
            <td>
              <input
                class="form-control"
                maxlength="60"
                [attr.aria-label]="'Name for {}' | words: (connector.name | told)"
                [placeholder]="connector.name | told"
                [mtValue]="names().get(connector.id)?.name ?? ''"
                mtOnLeave
                (mtValueChange)="set(connector.id, $event)"
              />
            </td>
          </tr>
        }
      </tbody>
    </table>
  `,
})
export class CrewConnectors {
  private readonly desk = inject(CrewDesk);
  private readonly book = inject(OpenCrew);
  protected readonly rules = inject(CrewRules);
  protected readonly names = computed(
    () => new Map(this.book.records('connectorNames').map((named) => [named.connector, named])),
  );

  protected upTo({ upTo }: Connector): string {
    return upTo.map((bundle) => bundleText(bundle)).join($localize` or `);
  }

  /** Nothing typed goes back to the name of the table. */
  protected set(connector: string, typed: string): void {
    const name = typed.trim();
    const known = this.names().get(connector);
    if (name === (known?.name ?? '')) return;
    if (!known)
      this.desk.make(CREW_CHANGES.adding('connectorNames', { id: crypto.randomUUID(), connector, name }));
    else if (name) this.desk.make(CREW_CHANGES.setting('connectorNames', known.id, { name }));
    else this.desk.make(CREW_CHANGES.removing('connectorNames', known.id));
  }
}
