import { Component, computed, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Point } from '@mule-tally/core';
import { adding, outlook } from '@mule-tally/core';
import { Store } from '@ngrx/store';
import type { Choice } from '../parts/pick-field';
import { PickField } from '../parts/pick-field';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { houseFeature } from '../state/house.feature';
import { ControlCard } from './control-card';
import { pointName, readControlLine } from './control-line';
import { OutlookPanel } from './outlook-panel';

/** What switches what: typed in one line or picked by touch, with what it means before it is added. */
@Component({
  selector: 'mt-controls-editor',
  imports: [ControlCard, FormsModule, OutlookPanel, PickField],
  template: `
    <form class="panel-form" (ngSubmit)="addTyped()">
      <label class="line"
        ><span class="name">Type it: name, switches, an arrow, loads</span>
        <input
          class="form-control"
          name="line"
          maxlength="500"
          autocomplete="off"
          placeholder="stairs: S5.4, S6 -> L18"
          [(ngModel)]="line"
      /></label>
      @if (typed(); as read) {
        @for (problem of read.problems; track $index) {
          <p class="soft" role="status">{{ problem }}</p>
        }
        @if (preview(); as look) {
          <mt-outlook [outlook]="look" />
          <button type="submit" class="btn btn-main">Add “{{ read.name }}”</button>
        }
      }
    </form>
    <form class="panel-form fields" (ngSubmit)="add()">
      <label
        ><span class="name">New control</span
        ><input class="form-control" name="name" maxlength="200" placeholder="Hall light" [(ngModel)]="name"
      /></label>
      <mt-pick-field label="Switch" [choices]="levers()" [value]="lever()" (chosen)="lever.set($event)" />
      <mt-pick-field label="switches" [choices]="loads()" [value]="load()" (chosen)="load.set($event)" />
      <button type="submit" class="btn btn-main" [disabled]="!name().trim()">Add the control</button>
    </form>
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence }}</p>
    }
    @for (control of controls(); track control.id) {
      <mt-control-card [control]="control" [levers]="levers()" [loads]="loads()" />
    } @empty {
      <p class="soft">Nothing in this room switches anything yet.</p>
    }
  `,
  styles: `
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    .line {
      display: block;
    }
  `,
})
export class ControlsEditor {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly house = inject(Store).selectSignal(houseFeature.selectView);
  readonly roomId = input<string>();

  protected readonly line = signal('');
  protected readonly name = signal('');
  protected readonly lever = signal<string | undefined>(undefined);
  protected readonly load = signal<string | undefined>(undefined);
  protected readonly problem = signal<string | undefined>(undefined);

  protected readonly typed = computed(() => {
    const reader = this.derived.reader();
    return reader && readControlLine(reader, this.line());
  });
  private readonly typedChange = computed(() => {
    const read = this.typed();
    if (!read || read.problems.length) return undefined;
    const id = crypto.randomUUID();
    const record = { id, name: read.name, places: [...read.places], loads: [...read.loads] };
    return { id, body: adding('controls', record) };
  });
  protected readonly preview = computed(() => {
    const house = this.house();
    const change = this.typedChange();
    return house && change ? outlook(house, change.body, change.id) : undefined;
  });

  /** Points of the house, those of this room first. */
  private readonly points = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    const here = (point: Point): boolean =>
      reader.get('boxes', reader.get('devices', point.deviceId)!.boxId)?.roomId === this.roomId();
    return reader
      .all('points')
      .map((point) => ({ point, here: here(point), id: point.id, label: pointName(reader, point) }))
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

  protected addTyped(): void {
    const look = this.preview();
    if (!look) return;
    // With the cables that it asks for, so that what was shown is what is planned.
    const refusal = this.desk.make(look.change);
    this.problem.set(refusal?.message);
    if (!refusal) this.line.set('');
  }

  protected add(): void {
    const refusal = this.desk.make(
      adding('controls', {
        id: crypto.randomUUID(),
        name: this.name().trim(),
        places: this.lever() ? [this.lever()!] : [],
        loads: this.load() ? [this.load()!] : [],
      }),
    );
    this.problem.set(refusal?.message);
    if (refusal) return;
    this.name.set('');
    this.lever.set(undefined);
    this.load.set(undefined);
  }
}
