import { TradePipe } from '../parts/trade';
import { OnlyFor } from '../parts/only-for';
import { Rights } from '../state/rights';
import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import type { Jurisdiction } from '@mule-tally/core';
import type { Box, SingleChangeBody } from '@mule-tally/core';
import * as z from 'zod';
import {
  HeightReference,
  ShortText,
  builtInBox,
  adding,
  boxFacts,
  boxesInRoom,
  builtInDevice,
  devicesIn,
} from '@mule-tally/core';
import { fillBox } from '@mule-tally/core/work';
import { soon } from '../parts/soon';
import { formOf, problemOf } from '../parts/zod-form';
import { FillGauge } from '../parts/fill-gauge';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { kept } from '../sync/draft-store';
import { BoxEditor } from './box-editor';
import { RoomKits } from './room-kits';

/** What a new box most often is: a model and the devices that fill it. */
const PRESETS = [
  {
    id: 'switch-1',
    name: $localize`Switch box, 1 gang`,
    prefix: 'S',
    model: 'plastic-1g-22.5',
    devices: ['switch'],
  },
  {
    id: 'switch-2',
    name: $localize`Switch box, 2 gang`,
    prefix: 'S',
    model: 'plastic-2g-34',
    devices: ['switch', 'switch'],
  },
  {
    id: 'switch-3',
    name: $localize`Switch box, 3 gang`,
    prefix: 'S',
    model: 'plastic-3g-53',
    devices: ['switch', 'switch', 'switch'],
  },
  {
    id: 'switch-4',
    name: $localize`Switch box, 4 gang`,
    prefix: 'S',
    model: 'plastic-4g-72',
    devices: ['switch', 'switch', 'switch', 'switch'],
  },
  {
    id: 'receptacle',
    name: $localize`Receptacle`,
    prefix: 'R',
    model: 'plastic-1g-20',
    devices: ['receptacle'],
  },
  {
    id: 'gfci',
    name: $localize`GFCI receptacle`,
    prefix: 'R',
    model: 'plastic-1g-22.5',
    devices: ['receptacle-gfci'],
  },
  {
    id: 'light',
    name: $localize`Ceiling light`,
    prefix: 'L',
    model: 'plastic-round-20',
    devices: ['luminaire'],
  },
  {
    id: 'fan',
    name: $localize`Ceiling fan with light`,
    prefix: 'L',
    model: 'fan-24',
    devices: ['fan-light'],
  },
  { id: 'exhaust', name: $localize`Exhaust fan`, prefix: 'F', model: 'plastic-round-20', devices: ['fan'] },
  { id: 'alarm', name: $localize`Smoke alarm`, prefix: 'A', model: 'plastic-round-20', devices: ['alarm'] },
  { id: 'panel', name: $localize`Panel`, prefix: 'PANEL', model: 'panel', devices: [] },
] as const;

/** Boxes whose height the house sets, by the letter of their tags. */
const HEIGHTS: Readonly<Record<string, 'switch' | 'receptacle'>> = { S: 'switch', R: 'receptacle' };

/** The model of a preset as it is sold in a country: itself, or what is most like it. */
function presetModel({ boxes }: Jurisdiction, model: string, gangs: number): string {
  if (boxes.some(({ id }) => id === model)) return model;
  const { kind, fanRated } = builtInBox(model)!;
  const like = boxes.filter(
    (box) => box.kind === kind && (kind !== 'device' || box.gangs >= Math.min(gangs, 2)),
  );
  return (like.find((box) => box.fanRated === fanRated) ?? like[0] ?? builtInBox(model)!).id;
}

/** The devices of a preset: where plates carry several switches, one plate. */
function presetDevices({ devices }: Jurisdiction, wanted: readonly string[]): readonly string[] {
  const plate = devices.find(({ commonsApart, points }) => commonsApart && points.length === wanted.length);
  return plate && wanted.every((id) => id === 'switch') ? [plate.id] : wanted;
}

type Preset = (typeof PRESETS)[number]['id'];
const presetOf = (id: Preset) => PRESETS.find((preset) => preset.id === id)!;

/** A new box, as it is entered. */
const boxEntry = z.object({
  preset: z.enum(PRESETS.map(({ id }) => id)),
  tag: z
    .string()
    .trim()
    .min(1, $localize`A box needs a tag.`)
    .max(60, $localize`A tag has up to 60 characters.`)
    .pipe(ShortText),
});

/** What is kept of a half-entered box: its tag only once one has been typed. */
interface NewBox {
  readonly preset: Preset;
  readonly tag?: string;
}
const NO_BOX: NewBox = { preset: 'switch-1' };

/** The boxes of a room, each to be opened and changed; new ones from what they most often are. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-room-boxes',
  imports: [OnlyFor, ToldPipe, WordsPipe, ReactiveFormsModule, BoxEditor, FillGauge, RoomKits, TradePipe],
  template: `
    <fieldset mtOnlyFor="lead">
      <form class="panel-form fields" [formGroup]="form()" (ngSubmit)="add()">
        <label
          ><span i18n class="name">New box</span>
          <select class="form-select" formControlName="preset">
            @for (entry of presets(); track entry.id) {
              <option [value]="entry.id">{{ entry.name | trade }}</option>
            }
          </select></label
        >
        <label
          ><span i18n class="name">Tag</span
          ><input class="form-control" formControlName="tag" autocomplete="off"
        /></label>
        <button i18n type="submit" class="btn btn-main">Set the box</button>
      </form>
      @if (isDrawn() && rights.isLead()) {
        <mt-room-kits [roomId]="roomId()" />
      }
    </fieldset>
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    <ul class="boxes">
      @for (entry of boxes(); track entry.box.id) {
        <li>
          <button
            type="button"
            class="line"
            (click)="toggle(entry.box.id)"
            [attr.aria-expanded]="opened() === entry.box.id"
          >
            <span class="tag">{{ entry.box.tag }}</span>&ngsp;
            <span
              >{{ entry.name }}<br /><span class="soft">{{
                entry.devices || ('no device yet' | words)
              }}</span></span
            >
            @if (entry.fill; as fill) {
              <mt-fill-gauge [fill]="fill" />
            }
          </button>
          @if (opened() === entry.box.id) {
            <fieldset mtOnlyFor="lead"><mt-box-editor [boxId]="entry.box.id" /></fieldset>
          }
        </li>
      } @empty {
        <li i18n class="soft">No box in this room yet.</li>
      }
    </ul>
  `,
  styles: `
    .boxes {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    .boxes > li {
      border-bottom: 1px solid var(--rule);
    }
    .line {
      display: grid;
      grid-template-columns: 4.5rem 1fr minmax(9rem, 14rem);
      gap: 0.8rem;
      align-items: center;
      width: 100%;
      min-height: 52px;
      background: none;
      border: 0;
      text-align: left;
      color: var(--ink);
      padding: 0.3rem 0.2rem;
    }
    .line:hover {
      background: var(--paper-raised);
    }
    .tag {
      font-family: var(--figures);
      font-weight: 700;
      font-size: 1.3rem;
      overflow-wrap: anywhere;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    @media (max-width: 600px) {
      .line {
        grid-template-columns: 3.5rem 1fr;
      }
      .line mt-fill-gauge {
        grid-column: 2;
      }
    }
  `,
})
export class RoomBoxes {
  protected readonly rights = inject(Rights);
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  readonly roomId = input<string>();
  readonly open = input<string>();

  /** What of it is sold where the house stands. */
  protected readonly presets = computed(() =>
    PRESETS.filter(
      ({ devices }) =>
        !devices.some((id) => id === 'receptacle-gfci') ||
        this.derived.trade().devices.some(({ id }) => id === 'receptacle-gfci'),
    ),
  );
  /** Kits come once the boxes stand there. */
  protected readonly isDrawn = soon();
  /** What is half entered for a new box; a tag only once one has been typed. */
  private readonly entry = kept<NewBox>(() => `box.${this.derived.reader()?.houseId ?? ''}`, NO_BOX);
  protected readonly form = linkedSignal({
    source: () => this.derived.reader()?.houseId,
    computation: () => {
      const { preset, tag } = untracked(this.entry.value);
      const form = formOf({ preset, tag: tag ?? untracked(() => this.nextTag(preset)) }, boxEntry);
      form.controls.preset.valueChanges.subscribe((next) => this.presetChosen(next));
      form.controls.tag.valueChanges.subscribe((typed) =>
        this.entry.set({ ...this.entry.value(), tag: typed }),
      );
      return form;
    },
  });
  protected readonly opened = linkedSignal(() => this.open());
  protected readonly problem = signal<string | undefined>(undefined);

  protected readonly boxes = computed(() => {
    const reader = this.derived.reader();
    const roomId = this.roomId();
    if (!reader || !roomId) return [];
    return boxesInRoom(reader, roomId).map((box) => ({
      box,
      name: this.derived.words()?.say.boxModel(boxFacts(reader, box)) ?? '',
      devices: devicesIn(reader, box.id)
        .map((device) => this.derived.words()?.say.deviceType(device.catalogueId) ?? '')
        .join(', '),
      fill: fillBox(reader, box.id),
    }));
  });

  constructor() {
    // Boxes that others set meanwhile have taken their tags.
    effect(() => {
      this.derived.reader();
      untracked(() => this.entry.value().tag === undefined && this.suggest(this.entry.value().preset));
    });
  }

  private nextTag(preset: Preset): string {
    const { panelTag } = this.derived.trade();
    const prefix = preset === 'panel' ? panelTag : presetOf(preset).prefix;
    const taken = new Set((this.derived.reader()?.all('boxes') ?? []).map((box) => box.tag));
    if (!taken.has(prefix) && preset === 'panel') return prefix;
    for (let number = 1; ; number++) if (!taken.has(`${prefix}${number}`)) return `${prefix}${number}`;
  }

  /** Another kind of box brings the next tag of its kind, unless one has been typed. */
  private presetChosen(preset: Preset): void {
    const { tag } = this.entry.value();
    this.entry.set({ preset, ...(tag !== undefined && { tag }) });
    if (tag === undefined) this.suggest(preset);
  }

  private suggest(preset: Preset): void {
    this.form().controls.tag.setValue(this.nextTag(preset), { emitEvent: false });
  }

  /** Where the house sets boxes of a kind. */
  private heightOf(preset: (typeof PRESETS)[number]): Pick<Box, 'heightIn' | 'heightReference'> {
    const rules = this.derived.reader()?.rules();
    const kind = HEIGHTS[preset.prefix];
    if (!rules || !kind) return {};
    const heightReference = HeightReference.parse(rules.text(`height.${kind}To`));
    return { heightIn: rules.number(`height.${kind}`), heightReference };
  }

  protected toggle(boxId: string): void {
    this.opened.set(this.opened() === boxId ? undefined : boxId);
  }

  protected add(): void {
    const roomId = this.roomId();
    const read = boxEntry.safeParse(this.form().getRawValue());
    if (!read.success) return this.problem.set(problemOf(this.form()));
    const preset = presetOf(read.data.preset);
    const { tag } = read.data;
    if (!roomId) return;
    const boxId = crypto.randomUUID();
    const changes: SingleChangeBody[] = [
      adding('boxes', {
        id: boxId,
        roomId,
        tag,
        catalogueId: presetModel(this.derived.trade(), preset.model, preset.devices.length),
        ...this.heightOf(preset),
      }),
    ];
    presetDevices(this.derived.trade(), preset.devices).forEach((catalogueId, index) => {
      const deviceId = crypto.randomUUID();
      changes.push(adding('devices', { id: deviceId, boxId, gang: index + 1, catalogueId }));
      for (const role of builtInDevice(catalogueId)!.points)
        changes.push(adding('points', { id: crypto.randomUUID(), deviceId, role }));
    });
    const refusal = this.desk.make({ kind: 'group', title: $localize`Set box ${tag}`, changes });
    this.problem.set(refusal?.message);
    if (refusal) return;
    this.entry.set({ preset: preset.id });
    this.suggest(preset.id);
    this.opened.set(boxId);
  }
}
