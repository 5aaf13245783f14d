import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { CableId, Pull } from '@mule-tally/core';
import { adding, pulledLengthIn, readLength, removing, setting, standingPull } from '@mule-tally/core';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';

/** Logs a pull: the second touch. Foot marks or a length may be added; without either the run is simply in. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-pull-form',
  imports: [FormsModule],
  template: `
    <form class="panel-form" (ngSubmit)="log()">
      @if (standing(); as pull) {
        <p>
          In: <span class="num">{{ pull.cable ?? 'its wires' }}</span>
          @if (length(pull); as text) {
            , <span class="num">{{ text }}</span>
          }
          , by {{ session.nameOf(pull.by) }}.
        </p>
        <div class="actions">
          <button type="button" class="btn btn-danger-line" (click)="scrap(pull)">Scrap this pull</button>
          <button type="button" class="btn btn-line" (click)="takeBack(pull)">It was never pulled</button>
          <button type="button" class="btn btn-line" (click)="finished.emit()">Close</button>
        </div>
      } @else {
        <div class="fields">
          @if (!isRaceway()) {
            <label
              ><span class="name">Cable</span>
              <select class="form-select" name="cable" [(ngModel)]="chosen">
                @for (id of cables(); track id) {
                  <option [value]="id">{{ id }}</option>
                }
              </select></label
            >
          }
          <label
            ><span class="name">Foot mark, start</span
            ><input class="form-control num" inputmode="decimal" name="start" [(ngModel)]="start"
          /></label>
          <label
            ><span class="name">Foot mark, end</span
            ><input class="form-control num" inputmode="decimal" name="end" [(ngModel)]="end"
          /></label>
          <label
            ><span class="name">or length ({{ units().typed }})</span
            ><input class="form-control num" name="length" [(ngModel)]="lengthText" placeholder="12 or 12'6"
          /></label>
          <label
            ><span class="name">Pulled by</span>
            <select class="form-select" name="by" [(ngModel)]="by">
              @for (person of session.people(); track person.id) {
                <option [value]="person">{{ person }}</option>
              }
            </select></label
          >
        </div>
        @if (problem(); as sentence) {
          <p role="alert" class="problem">{{ sentence }}</p>
        }
        <div class="actions">
          <button type="submit" class="btn btn-main">Log it: in</button>
          <button type="button" class="btn btn-line" (click)="log('part')">Only part of the way</button>
          <button type="button" class="btn btn-line" (click)="finished.emit()">Leave</button>
        </div>
      }
    </form>
  `,
  styles: `
    .actions {
      margin-top: 0.7rem;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
      margin: 0.5rem 0 0;
    }
  `,
})
export class PullForm {
  private readonly derived = inject(Derived);
  protected readonly units = this.derived.units;
  private readonly desk = inject(Desk);
  protected readonly session = inject(Session);
  readonly runId = input.required<string>();
  readonly cable = input<CableId | undefined>();
  readonly finished = output();

  protected readonly cables = computed(() => this.derived.trade().cables.map(({ id }) => id));
  protected readonly chosen = linkedSignal<CableId>(() => this.cable() ?? '14/2');
  protected readonly start = signal('');
  protected readonly end = signal('');
  protected readonly lengthText = signal('');
  protected readonly by = linkedSignal(() => this.session.who().id);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly isRaceway = computed(
    () => this.derived.reader()?.get('runs', this.runId())?.kind === 'raceway',
  );
  protected readonly standing = computed(() => {
    const reader = this.derived.reader();
    const pull = reader && standingPull(reader, this.runId());
    return pull?.state === 'in' ? pull : undefined;
  });

  protected length(pull: Pull): string | undefined {
    const inches = pulledLengthIn(pull);
    return inches === undefined ? undefined : this.derived.units().long(inches);
  }

  protected log(state: 'in' | 'part' = 'in'): void {
    const number = (text: string): number | undefined => (text.trim() === '' ? undefined : Number(text));
    const [startMark, endMark, lengthIn] = [
      number(this.start()),
      number(this.end()),
      readLength(this.lengthText(), this.derived.units().system),
    ];
    if ([startMark, endMark, lengthIn].some((value) => value !== undefined && !(value >= 0))) {
      this.problem.set('Marks and lengths are numbers of feet, such as 12 or 12.5.');
      return;
    }
    if ((startMark === undefined) !== (endMark === undefined)) {
      this.problem.set('Both foot marks are needed, or none.');
      return;
    }
    const refusal = this.desk.make(
      adding('pulls', {
        id: crypto.randomUUID(),
        runId: this.runId(),
        ...(!this.isRaceway() && { cable: this.chosen() }),
        ...(startMark !== undefined && { startMark }),
        ...(endMark !== undefined && { endMark }),
        ...(lengthIn !== undefined && { lengthIn }),
        at: new Date().toISOString(),
        by: this.by(),
        state,
      }),
    );
    if (refusal) this.problem.set(refusal.message);
    else this.finished.emit();
  }

  protected scrap(pull: Pull): void {
    if (!this.desk.make(setting('pulls', pull.id, { state: 'scrapped' }))) this.finished.emit();
  }

  protected takeBack(pull: Pull): void {
    if (!this.desk.make(removing('pulls', pull.id))) this.finished.emit();
  }
}
