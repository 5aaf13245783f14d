import { Component, computed, inject, input, signal } from '@angular/core';
import type { Control, HouseReader, Point } from '@mule-tally/core';
import { adding, deviceType, removing, setting } from '@mule-tally/core';
import { FormsModule } from '@angular/forms';
import type { Choice } from '../parts/pick-field';
import { PickField } from '../parts/pick-field';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

/** "S2 gang 1 · Switch · Hall" */
function pointName(reader: HouseReader, point: Point): string {
  const device = reader.get('devices', point.deviceId)!;
  const box = reader.get('boxes', device.boxId)!;
  const type = deviceType(reader, device);
  const index = reader.mentioning('points', device.id).findIndex(({ id }) => id === point.id);
  const part = type.points.length > 1 ? ` ${point.role} ${index + 1}` : '';
  const gang = type.mount === 'yoke' ? ` gang ${device.gang}` : '';
  return `${box.tag}${gang}${part} · ${type.name} · ${reader.get('rooms', box.roomId)?.name ?? ''}`;
}

/** What switches what: for each control its switches and its loads. */
@Component({
  selector: 'mt-controls-editor',
  imports: [FormsModule, PickField],
  template: `
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
    @for (entry of controls(); track entry.control.id) {
      <article class="control">
        <label class="title"
          ><span class="visually-hidden">Name</span
          ><input
            class="form-control"
            maxlength="200"
            [ngModel]="entry.control.name"
            [ngModelOptions]="{ updateOn: 'blur' }"
            (ngModelChange)="set(entry.control, { name: $event })"
        /></label>
        <div class="sides">
          <div>
            <h3>Switched from</h3>
            @for (place of entry.places; track place.id) {
              <p>
                {{ place.label }}
                <button
                  type="button"
                  class="btn btn-line"
                  (click)="drop(entry.control, 'places', place.id)"
                  [attr.aria-label]="'Take off ' + place.label"
                >
                  ×
                </button>
              </p>
            } @empty {
              <p class="soft">no switch yet</p>
            }
            <mt-pick-field
              label="Add a switch"
              [choices]="levers()"
              (chosen)="append(entry.control, 'places', $event)"
            />
          </div>
          <div>
            <h3>Switches</h3>
            @for (load of entry.loads; track load.id) {
              <p>
                {{ load.label }}
                <button
                  type="button"
                  class="btn btn-line"
                  (click)="drop(entry.control, 'loads', load.id)"
                  [attr.aria-label]="'Take off ' + load.label"
                >
                  ×
                </button>
              </p>
            } @empty {
              <p class="soft">no load yet</p>
            }
            <mt-pick-field
              label="Add a load"
              [choices]="loads()"
              (chosen)="append(entry.control, 'loads', $event)"
            />
          </div>
        </div>
        <button type="button" class="btn btn-danger-line" (click)="remove(entry.control)">
          Remove the control
        </button>
      </article>
    } @empty {
      <p class="soft">Nothing in this room switches anything yet.</p>
    }
  `,
  styles: `
    .control {
      border-bottom: 1px solid var(--rule);
      padding: 0.6rem 0;
    }
    .title {
      display: block;
      max-width: 24rem;
    }
    .sides {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 1rem;
    }
    .sides p {
      margin: 0.2rem 0;
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 0.5rem;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    .control > .btn {
      margin-top: 0.6rem;
    }
    @media (max-width: 700px) {
      .sides {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class ControlsEditor {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  readonly roomId = input<string>();

  protected readonly name = signal('');
  protected readonly lever = signal<string | undefined>(undefined);
  protected readonly load = signal<string | undefined>(undefined);
  protected readonly problem = signal<string | undefined>(undefined);

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
    const names = new Map(this.points().map((entry) => [entry.id, entry]));
    const named = (id: string): Choice => ({ id, label: names.get(id)?.label ?? '' });
    return reader
      .all('controls')
      .filter(({ places, loads }) => {
        const all = [...places, ...loads];
        return all.length === 0 || all.some((id) => names.get(id)?.here);
      })
      .map((control) => ({ control, places: control.places.map(named), loads: control.loads.map(named) }));
  });

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

  protected set(control: Control, fields: { name?: string; places?: string[]; loads?: string[] }): void {
    this.problem.set(this.desk.make(setting('controls', control.id, fields))?.message);
  }

  protected append(control: Control, side: 'places' | 'loads', id: string | undefined): void {
    if (id && !control[side].includes(id)) this.set(control, { [side]: [...control[side], id] });
  }

  protected drop(control: Control, side: 'places' | 'loads', id: string): void {
    this.set(control, { [side]: control[side].filter((other) => other !== id) });
  }

  protected remove(control: Control): void {
    this.problem.set(this.desk.make(removing('controls', control.id))?.message);
  }
}
