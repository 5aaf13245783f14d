import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type {
  Size,
  Box,
  BoxType,
  Device,
  Fields,
  Fitting,
  HeightReference,
  NeutralException,
  SingleChangeBody,
} from '@mule-tally/core';
import {
  adding,
  sizeOf,
  boxFacts,
  builtInDevice,
  circuitsAt,
  deviceType,
  devicesIn,
  modelFields,
  removing,
  setting,
  gaugeOf,
  gaugeText,
} from '@mule-tally/core';
import { withGangMore } from '@mule-tally/core/furnish';
import { readShort, readVolume } from '@mule-tally/core/work';
import { Value } from '../parts/value';
import { Removal } from '../parts/removal';
import { SizeField } from '../parts/size-field';
import { TermPipe } from '../parts/term';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { kept } from '../sync/draft-store';
import { DraftedLine } from '../parts/drafted-line';

const MARKED = 'marked';

interface NewFitting {
  readonly kind: string;
  readonly volume?: string;
  readonly size?: Size;
}
const NO_FITTING: NewFitting = { kind: '' };

/** Everything about one box: its model, clamps, fittings, height, and the devices in its gangs. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-box-editor',
  imports: [DraftedLine, ToldPipe, WordsPipe, Value, SizeField, TermPipe],
  templateUrl: './box-editor.html',
  styleUrl: './box-editor.scss',
})
export class BoxEditor {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly removal = inject(Removal);
  readonly boxId = input.required<string>();

  protected readonly marked = MARKED;
  protected readonly phrases = this.derived.phrases;
  protected readonly units = this.derived.units;
  private shownVolume(in3: number | undefined): string {
    return in3 === undefined ? '' : this.units().volumeNumber(in3);
  }
  protected nameOf(type: BoxType): string {
    return this.derived.words()?.say.boxModel(type) ?? type.name;
  }
  protected readonly types = computed(() => this.derived.trade().boxes);
  protected readonly deviceTypes = computed(() => this.derived.trade().devices);
  protected readonly fittingKinds = [
    'ring',
    'extension',
    'raised-cover',
    'stud',
    'hickey',
    'terminal-block',
  ] as const;
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly exceptions = computed(
    () => this.derived.reader()?.rules().jurisdiction.neutralExceptions ?? [],
  );
  protected readonly neutralRule = computed(
    () => this.derived.reader()?.rules().cite('neutral.atSwitch') ?? '',
  );
  protected readonly hasLever = computed(() =>
    this.devices().some(({ points }) => points.some(({ point }) => point.role === 'lever')),
  );
  protected readonly stockedFittings = computed(() => this.derived.trade().fittings);
  /** What is half entered of a fitting; a volume only once one has been typed. */
  private readonly entry = kept<NewFitting>(() => `fitting.${this.boxId()}`, NO_FITTING);
  /** A stocked fitting's id or a kind of fitting. */
  protected readonly newFitting = computed(
    () => this.entry.value().kind || (this.stockedFittings()[0]?.id ?? this.fittingKinds[0] ?? ''),
  );
  protected readonly newVolume = computed(
    () => this.entry.value().volume ?? this.shownVolume(this.stocked()?.volumeIn3),
  );
  /** The thinnest wire of circuits, and of leads, where nothing else is said. */
  private readonly usual = computed(() => sizeOf(this.derived.trade().sizes[0]));
  protected readonly newSize = computed(() => this.entry.value().size ?? this.usual());
  private readonly stocked = computed(() =>
    this.stockedFittings().find(({ id }) => id === this.newFitting()),
  );

  protected readonly box = computed(() => this.derived.reader()?.get('boxes', this.boxId()));
  protected readonly facts = computed(() => {
    const reader = this.derived.reader();
    const box = this.box();
    return reader && box ? boxFacts(reader, box) : undefined;
  });
  protected readonly rooms = computed(() => this.derived.reader()?.all('rooms') ?? []);
  protected readonly circuits = computed(() => {
    const reader = this.derived.reader();
    return reader ? circuitsAt(reader, this.boxId()).map((id) => reader.get('circuits', id)!) : [];
  });
  protected readonly devices = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return devicesIn(reader, this.boxId()).map((device) => ({
      device,
      type: deviceType(reader, device),
      points: reader.mentioning('points', device.id).map((point) => ({
        point,
        control: reader.mentioning('controls', point.id)[0]?.name,
      })),
    }));
  });

  private make(body: SingleChangeBody | { title: string; changes: SingleChangeBody[] }): void {
    const refusal = this.desk.make(
      'changes' in body && 'title' in body ? { kind: 'group', ...body } : (body as SingleChangeBody),
    );
    this.problem.set(refusal?.message);
  }

  protected setBox(fields: Fields<'boxes'>): void {
    this.make(setting('boxes', this.boxId(), fields));
  }

  /** Excuses the box from the neutral at its switches; a reason of its own goes with the exception it explains. */
  protected setClamps(clamps: string): void {
    this.setBox({ clamps: (clamps as Box['clamps']) || null });
  }

  protected excuse(chosen: string): void {
    const code = chosen as NeutralException | '';
    this.setBox({ neutralException: code || null, ...(code !== 'other' && { neutralReason: null }) });
  }

  protected modelChoice(box: Box): string {
    return box.catalogueId ?? MARKED;
  }

  protected setModel(choice: string): void {
    const facts = this.facts();
    if (choice !== MARKED) this.setBox(modelFields({ catalogueId: choice }));
    else if (facts) {
      const { material, kind, gangs, slots, clamps, groundScrew, volumeIn3 } = facts;
      this.setBox(
        modelFields({
          markedVolumeIn3: volumeIn3 ?? 18,
          material,
          kind,
          gangs,
          slots,
          markedClamps: clamps,
          groundScrew,
          ...(facts.fanRated && { fanRated: true }),
        }),
      );
    }
  }

  protected setMarkedVolume(text: string): void {
    if (this.box()?.markedVolumeIn3 === undefined) return;
    const markedVolumeIn3 = readVolume(text, this.units().system);
    if (markedVolumeIn3 === undefined) return;
    if (Number.isNaN(markedVolumeIn3)) {
      this.problem.set($localize`“${text}” is no volume: say it as 18 cu in or 295 mL.`);
      return;
    }
    this.setBox({ markedVolumeIn3 });
  }

  protected setHeight(text: string, reference: string): void {
    if (Number.isNaN(readShort(text, this.units().system))) {
      this.problem.set($localize`“${text}” is no height: say it as 48, 4'2" or 1.2 m.`);
      return;
    }
    this.setBox(
      text.trim()
        ? { heightIn: readShort(text, this.units().system)!, heightReference: reference as HeightReference }
        : { heightIn: null, heightReference: null },
    );
  }

  /** How far its front stands out from the studs: against what comes over them. */
  protected setOut(text: string): void {
    const inches = readShort(text, this.units().system);
    if (Number.isNaN(inches)) {
      this.problem.set($localize`“${text}” is no depth: say it as ½, 0.5 or 13 mm.`);
      return;
    }
    this.setBox({ setOutIn: text.trim() ? inches! : null });
  }

  /** Enters a part of the fitting; another kind brings its own volume. */
  protected enterFitting(part: Partial<NewFitting>): void {
    const { kind, size, volume } = { ...this.entry.value(), ...part };
    const keeps = !part.kind && volume !== undefined;
    this.entry.set({ kind, ...(size && { size }), ...(keeps && { volume }) });
  }

  protected addFitting(): void {
    const stocked = this.stocked();
    // What is not typed is what is marked, whatever the unit that it is shown in.
    const typed = this.entry.value().volume;
    const volume = (typed === undefined ? stocked?.volumeIn3 : readVolume(typed, this.units().system)) ?? 0;
    const kind = stocked?.kind ?? (this.newFitting() as Fitting['kind']);
    const fitting: Fitting = {
      kind,
      ...(volume > 0 && { volumeIn3: volume }),
      ...(stocked?.gangs !== undefined && { gangs: stocked.gangs }),
      ...(kind === 'terminal-block' && { size: this.newSize() }),
    };
    this.setBox({ fittings: [...(this.box()?.fittings ?? []), fitting] });
    this.entry.set(NO_FITTING);
  }

  protected dropFitting(index: number): void {
    const left = (this.box()?.fittings ?? []).filter((_, at) => at !== index);
    this.setBox({ fittings: left.length ? left : null });
  }

  /** Wires of a fixture that come into the box, or isolated grounds: none at zero. */
  protected setWires(field: 'fixtureWires' | 'isolatedGround', text: string, part: object = {}): void {
    const count = Number(text);
    const { leads } = this.derived.trade();
    const size = field === 'fixtureWires' ? sizeOf(leads.canopy) : this.usual();
    const before = { size, ...this.box()?.[field] };
    const canopy = field === 'fixtureWires' && { fromCanopy: this.box()?.fixtureWires?.fromCanopy ?? true };
    this.setBox({ [field]: count === 0 ? null : { ...before, ...canopy, ...part, count } });
  }

  protected addDevice(catalogueId: string): void {
    if (!catalogueId) return;
    const gang =
      Math.max(
        0,
        ...this.devices().map(
          ({ device, type }) => device.gang + (device.widthGangs ?? type.widthGangs ?? 1) - 1,
        ),
      ) + 1;
    const deviceId = crypto.randomUUID();
    this.make({
      title: $localize`Added ${this.derived.told(builtInDevice(catalogueId)!.name).toLowerCase()} to ${this.box()?.tag ?? ''}`,
      changes: [
        adding('devices', { id: deviceId, boxId: this.boxId(), gang, catalogueId }),
        ...builtInDevice(catalogueId)!.points.map((role) =>
          adding('points', { id: crypto.randomUUID(), deviceId, role }),
        ),
      ],
    });
  }

  /** Another type of device keeps what its points are for, as far as it has such points. */
  protected setDeviceType(device: Device, catalogueId: string): void {
    const points = this.devices()
      .find((entry) => entry.device.id === device.id)!
      .points.map(({ point }) => point);
    const roles = builtInDevice(catalogueId)?.points ?? [];
    const changes: SingleChangeBody[] = [setting('devices', device.id, { catalogueId })];
    roles.forEach((role, index) => {
      const point = points[index];
      if (!point) changes.push(adding('points', { id: crypto.randomUUID(), deviceId: device.id, role }));
      else if (point.role !== role) changes.push(setting('points', point.id, { role }));
    });
    for (const point of points.slice(roles.length)) changes.push(removing('points', point.id));
    this.make({ title: $localize`Changed a device of ${this.box()?.tag ?? ''}`, changes });
  }

  /** What makes a plate one with one gang more; undefined where it is no plate, or none is wider. */
  protected gangMore(device: Device): SingleChangeBody[] | undefined {
    const reader = this.derived.reader();
    return reader && withGangMore(reader, device.id, () => crypto.randomUUID());
  }
  protected addGang(device: Device): void {
    const changes = this.gangMore(device);
    if (changes) this.make({ title: $localize`A gang more in ${this.box()?.tag ?? ''}`, changes });
  }

  protected setDevice(device: Device, fields: Fields<'devices'>): void {
    this.make(setting('devices', device.id, fields));
  }

  protected removeDevice(device: Device): void {
    this.make(removing('devices', device.id));
  }

  protected setCircuit(pointId: string, circuitId: string): void {
    this.make(setting('points', pointId, { circuitId: circuitId || null }));
  }

  protected sizeText(size: Size): string {
    return gaugeText(gaugeOf(size));
  }
  protected number(text: string): number {
    return Number(text);
  }

  protected async remove(): Promise<void> {
    const removed = await this.removal.of(
      'boxes',
      this.boxId(),
      $localize`Remove the box with its runs and pulls`,
    );
    if (removed.kind === 'refused') this.problem.set(removed.message);
  }
}
