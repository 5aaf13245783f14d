import { ToldPipe } from '../parts/term';
import { TermPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Outlook } from '@mule-tally/core/work';
import { Derived } from '../state/derived';

/** What a control means: kinds of switches, cables, fill, and what would be found. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-outlook',
  imports: [ToldPipe, TermPipe, WordsPipe],
  template: `
    @let look = outlook();
    @if (look.refusal; as refusal) {
      <p role="alert" class="bad">{{ refusal.message | told }}</p>
    } @else {
      <p>
        @for (place of look.places; track place.pointId) {
          <span class="place"
            ><strong>{{ place.box }}</strong> {{ place.kind | term }}</span
          >
        }
      </p>
      <table class="ledger">
        <tbody>
          @for (run of look.runs; track run.runId) {
            <tr>
              <td>{{ run.name }}</td>
              <td class="num">
                @if (run.has && run.needed && run.has !== run.needed) {
                  <s>{{ run.has }}</s> → <strong>{{ run.needed }}</strong>
                  @if (run.pulled) {
                    <span i18n class="bad">in the wall</span>
                  }
                } @else {
                  {{ run.needed ?? run.has ?? ('more than one cable' | words) }}
                }
              </td>
            </tr>
          }
          <tr>
            <td i18n>Conductors in all</td>
            <td class="num">{{ look.conductors }}</td>
          </tr>
          @for (fill of fills(); track fill.boxId) {
            <tr>
              <td i18n>Fill of {{ fill.tag }}</td>
              <td class="num" [class.bad]="fill.after > fill.capacity">
                @if (fill.before !== undefined && fill.before !== fill.after) {
                  {{ volume(fill.before) }} →
                }
                <ng-container i18n>{{ volume(fill.after) }} of {{ volume(fill.capacity) }}</ng-container>
              </td>
            </tr>
          }
        </tbody>
      </table>
      @for (finding of look.findings; track $index) {
        <p class="finding" [class.bad]="finding.severity === 'stop'">
          {{ words()?.finding(finding) }}
          @if (finding.source; as source) {
            <span class="soft">{{ words()?.source(source) }}</span>
          }
        </p>
      } @empty {
        <p i18n class="good">Nothing is found against it.</p>
      }
    }
  `,
  styles: `
    .place {
      display: inline-block;
      margin-right: 1rem;
    }
    .ledger td {
      padding: 0.15rem 0.4rem;
    }
    .bad {
      color: var(--alert);
      font-weight: 700;
    }
    .good {
      color: var(--done);
      font-weight: 700;
    }
    .finding {
      margin: 0.2rem 0;
    }
    p {
      margin: 0.3rem 0;
    }
  `,
})
export class OutlookPanel {
  private readonly derived = inject(Derived);
  readonly outlook = input.required<Outlook>();
  protected readonly words = this.derived.words;
  /** Boxes that change, or that are too full. */
  protected readonly fills = computed(() =>
    this.outlook().fills.filter(({ before, after, capacity }) => before !== after || after > capacity),
  );
  protected volume(cubic: number): string {
    return this.derived.units().volume(cubic);
  }
}
