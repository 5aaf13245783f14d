import { ToldPipe } from '../parts/term';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import type { Point } from '@mule-tally/core';
import type { Outlook } from '@mule-tally/core/work';
import { adding, roomOf } from '@mule-tally/core';
import { outlook } from '@mule-tally/core/work';
import { Store } from '@ngrx/store';
import * as z from 'zod';
import { Value } from '../parts/value';
import { formOf, problemOf } from '../parts/zod-form';
import type { Choice } from '../parts/pick-field';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { houseFeature } from '../state/document.feature';
import { OpenHouse } from '../state/open-house';
import { kept } from '../sync/draft-store';
import { answerTo } from '../work/answer';
import { ControlCard } from './control-card';
import { pointName, pointWord, readControlLine, withName, withPoint } from './control-line';
import { OutlookPanel } from './outlook-panel';

/** A control in one line; what it says is read as it is typed. */
const lineEntry = z.object({ line: z.string().max(500, $localize`A line has up to 500 characters.`) });

/** What switches what: typed in one line or picked by touch, with what it means before it is added. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-controls-editor',
  imports: [ToldPipe, ReactiveFormsModule, ControlCard, Value, OutlookPanel],
  template: `
    <form class="panel-form" [formGroup]="form()" (ngSubmit)="addTyped()">
      <label class="line"
        ><span i18n class="name">Type it in words: a name, the switches, what they switch</span>
        <input
          class="form-control"
          formControlName="line"
          autocomplete="off"
          i18n-placeholder
          placeholder="stairs: S5.4 and S6 switch L18"
      /></label>
      <p i18n class="soft">
        Or touch the switches and what they switch. Another room of the list keeps what is picked.
      </p>
      <div class="touch">
        @for (side of sides(); track side.name) {
          <fieldset>
            <legend>{{ side.name }}</legend>
            <div class="chips">
              @for (entry of side.entries; track entry.id) {
                <button
                  type="button"
                  class="btn btn-line"
                  [class.active]="isPicked(entry.id)"
                  [attr.aria-pressed]="isPicked(entry.id)"
                  [attr.aria-label]="entry.label"
                  (click)="touch(entry.point)"
                >
                  <strong>{{ entry.word }}</strong> {{ entry.what }}
                </button>
              } @empty {
                <span i18n class="soft">none left in this room</span>
              }
            </div>
          </fieldset>
        }
      </div>
      @if (typed(); as read) {
        @for (problem of read.problems; track $index) {
          <p class="soft" role="status">{{ problem }}</p>
        }
        @if (read.problems.length === 0) {
          <label class="called"
            ><span i18n class="name">Called</span
            ><input
              class="form-control"
              name="called"
              maxlength="200"
              autocomplete="off"
              [placeholder]="read.name"
              [mtValue]="read.typedName"
              mtOnLeave
              (mtValueChange)="call($event)"
          /></label>
          @if (preview(); as look) {
            <mt-outlook [outlook]="look" />
          }
          <button i18n type="submit" class="btn btn-main">Add “{{ read.name }}”</button>
        }
      }
    </form>
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    @for (control of controls(); track control.id) {
      <mt-control-card [control]="control" [levers]="levers()" [loads]="loads()" />
    } @empty {
      <p i18n class="soft">Nothing in this room switches anything yet.</p>
    }
  `,
  styles: `
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    .line,
    .called {
      display: block;
      margin-bottom: 0.4rem;
    }
    .called {
      max-width: 26rem;
    }
    .touch {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(17rem, 1fr));
      gap: 0.4rem 1.2rem;
      margin-bottom: 0.5rem;
    }
    legend {
      font-family: var(--figures);
      font-weight: 600;
      font-size: 1.05rem;
    }
    .chips {
      display: flex;
      flex-wrap: wrap;
      gap: 0.3rem;
    }
    .chips .active {
      box-shadow: inset 0 0 0 3px var(--chalk);
    }
  `,
})
export class ControlsEditor {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly store = inject(Store);
  private readonly house = inject(OpenHouse).view;
  private readonly houseId = this.store.selectSignal(houseFeature.selectDocumentId);
  readonly roomId = input<string>();

  private readonly line = kept(() => `control-line.${this.houseId()}`, '');
  protected readonly form = linkedSignal({
    source: this.houseId,
    computation: () => {
      const form = formOf({ line: untracked(this.line.value) }, lineEntry);
      form.controls.line.valueChanges.subscribe((typed) => this.line.set(typed));
      return form;
    },
  });
  protected readonly problem = signal<string | undefined>(undefined);

  protected readonly typed = computed(() => {
    const reader = this.derived.reader();
    return reader && readControlLine(reader, this.line.value());
  });
  private readonly typedChange = computed(() => {
    const read = this.typed();
    if (!read || read.problems.length) return undefined;
    const id = crypto.randomUUID();
    const record = { id, name: read.name, places: [...read.places], loads: [...read.loads] };
    return { id, body: adding('controls', record) };
  });
  private readonly outlook = answerTo<'outlook'>(() => {
    const change = this.typedChange();
    return change && { about: 'outlook', controlId: change.id, change: change.body };
  });
  /** What it would mean; while another key is worked out, what the one before meant. */
  protected readonly preview = this.outlook.value;
  /** What is typed now, worked out here where it has not come yet. */
  private looked(): Outlook | undefined {
    const [house, reader, change] = [this.house(), this.derived.reader(), this.typedChange()];
    if (!house || !reader || !change) return undefined;
    return this.outlook.isNow() ? this.preview() : outlook(house, change.body, change.id, [], reader);
  }

  /** Points of the house, those of this room first. */
  private readonly points = computed(() => {
    const reader = this.derived.reader();
    const say = this.derived.words()?.say;
    if (!reader || !say) return [];
    const here = (point: Point): boolean =>
      roomOf(reader, reader.get('devices', point.deviceId)!.boxId)?.id === this.roomId();
    return reader
      .all('points')
      .map((point) => ({ point, here: here(point), id: point.id, label: pointName(reader, say, point) }))
      .sort((a, b) => Number(b.here) - Number(a.here));
  });
  protected readonly levers = computed((): Choice[] =>
    this.points().filter(({ point }) => point.role === 'lever'),
  );
  protected readonly loads = computed((): Choice[] =>
    this.points().filter(({ point }) => point.role !== 'lever'),
  );
  protected readonly controls = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    const here = new Set(this.points().flatMap((entry) => (entry.here ? [entry.id] : [])));
    return reader.all('controls').filter(({ places, loads }) => {
      const all = [...places, ...loads];
      return all.length === 0 || all.some((id) => here.has(id));
    });
  });

  /** Switches and loads of this room that nothing controls yet, and those that are picked. */
  protected readonly sides = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    const free = this.points().filter(
      ({ point, here, id }) =>
        this.isPicked(id) || (here && reader.mentioning('controls', point.id).length === 0),
    );
    const entries = (levers: boolean) =>
      free
        .filter(({ point }) => (point.role === 'lever') === levers)
        .map((entry) => ({
          ...entry,
          word: pointWord(reader, entry.point),
          what: this.derived.words()?.say.device(entry.point.deviceId) ?? '',
        }));
    return [
      { name: $localize`Switches`, entries: entries(true) },
      { name: $localize`What they switch`, entries: entries(false) },
    ];
  });

  protected isPicked(id: string): boolean {
    const read = this.typed();
    return !!read && (read.places.includes(id) || read.loads.includes(id));
  }

  /** Writes the line as if it had been typed. */
  private write(line: string): void {
    this.form().controls.line.setValue(line);
  }

  protected touch(point: Point): void {
    const reader = this.derived.reader();
    if (reader) this.write(withPoint(reader, this.line.value(), point));
  }

  protected call(name: string): void {
    const reader = this.derived.reader();
    if (reader) this.write(withName(reader, this.line.value(), name.trim()));
  }

  protected addTyped(): void {
    const long = problemOf(this.form());
    if (long) return this.problem.set(long);
    const look = this.looked();
    if (!look) return;
    // With the cables that it asks for, so that what was shown is what is planned.
    const refusal = this.desk.make(look.change);
    this.problem.set(refusal?.message);
    if (!refusal) this.write('');
  }
}
