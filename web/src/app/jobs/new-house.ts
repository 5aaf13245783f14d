import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  ElementRef,
  computed,
  inject,
  signal,
} from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { EDITIONS, RoomKind as RoomKinds, habitsFor, jurisdictionOf } from '@mule-tally/core';
import { readRoomLine } from '@mule-tally/core/furnish';
import { kindFromName } from '../parts/room-kind';
import { TermPipe } from '../parts/term';
import { controlOf, zodValidator } from '../parts/zod-form';
import { Derived } from '../state/derived';
import { OpenCrew } from '../state/open-crew';
import { Session } from '../state/session';
import { speaksBy } from '../state/speaks-by';
import { Api } from '../sync/api';
import { kept } from '../sync/draft-store';
import type { HouseDraft } from './house-draft';
import {
  draftProblems,
  emptyDraft,
  emptyRoom,
  floorName,
  fileOfDraft,
  houseEntry,
  readCircuitLine,
  rebased,
  typedUnit,
  usualCircuit,
} from './house-draft';

/** A new house, by keyboard: storeys and rooms in walking order, then the circuits of the panel. Enter starts the next line. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-new-house',
  imports: [ToldPipe, WordsPipe, ReactiveFormsModule, RouterLink, TermPipe],
  templateUrl: './new-house.html',
  styleUrl: './new-house.scss',
})
export class NewHousePage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  private readonly changes = inject(ChangeDetectorRef);
  private readonly derived = inject(Derived);

  private readonly empty = emptyDraft(this.session.edition());
  private readonly kept = kept<HouseDraft>(() => 'new-house', this.empty);
  protected readonly form = controlOf(this.kept.value());
  /** What is typed, as it is kept on the device with each key. */
  private readonly draft = this.kept.value;
  protected readonly kinds = RoomKinds.options;
  protected readonly editions = EDITIONS;
  /** What circuits are put on where the house will stand, and what is chosen already. */
  protected readonly breakers = computed(() => {
    const { base, circuits } = this.draft();
    const known = jurisdictionOf(base).breakers;
    return [...new Set([...known, ...circuits.map(({ amps }) => amps)])].sort((a, b) => a - b);
  });
  protected countryOf(base: string): string {
    return jurisdictionOf(base).name;
  }
  protected readonly problems = computed(() => draftProblems(this.draft()));
  protected readonly counts = computed(() => ({
    rooms: this.draft().storeys.reduce(
      (sum, storey) => sum + storey.rooms.filter((room) => room.name.trim()).length,
      0,
    ),
    circuits: this.draft().circuits.filter((circuit) => circuit.name.trim()).length,
  }));
  protected readonly roomChoices = computed(() =>
    this.draft().storeys.flatMap((storey, s) =>
      storey.rooms.flatMap((room, r) => (room.name.trim() ? [{ value: `${s}.${r}`, name: room.name }] : [])),
    ),
  );
  private readonly crew = inject(OpenCrew).view;
  /** What the crew does otherwise than the edition: the house starts with it. */
  protected readonly habits = computed(() => {
    const crew = this.crew();
    return crew ? habitsFor(crew, this.draft().base) : {};
  });
  protected readonly habitCount = computed(() => Object.keys(this.habits()).length);
  protected readonly failed = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  constructor() {
    this.form.addValidators(zodValidator(houseEntry));
    // In the words of where it will stand, from the moment that is chosen.
    speaksBy(() => this.draft().base);
    this.form.valueChanges.subscribe(() => this.kept.set(this.form.getRawValue()));
    // What nobody has said yet is as it is usual there.
    this.form.controls.base.valueChanges.subscribe((base) => {
      const before = this.draft();
      if (base !== before.base) this.form.setValue(rebased(this.form.getRawValue(), before.base, base));
    });
  }

  protected kindName(kind: string): string {
    return this.derived.inTrade(this.derived.told(kind.replace('-', ' ')));
  }

  private rooms(storey: number) {
    return this.form.controls.storeys.at(storey).controls.rooms;
  }

  /** A size as it is typed where the house will stand. */
  protected readonly sizeExample = computed(() =>
    typedUnit(this.draft().base, this.habits()) === 'm' ? '3.6 x 3.4' : '12 x 11',
  );
  /** What a room is called, without its size. */
  protected nameOf(line: string): string {
    return readRoomLine(line, typedUnit(this.draft().base, this.habits())).name;
  }

  /** The name says the kind until a person has said it. */
  protected named(storey: number, room: number): void {
    const { name, kind, kindChosen } = this.rooms(storey).at(room).controls;
    if (!kindChosen.value) kind.setValue(kindFromName(name.value));
  }
  protected kindChosen(storey: number, room: number): void {
    this.rooms(storey).at(room).controls.kindChosen.setValue(true);
  }
  protected addRoom(storey: number, after?: number): void {
    const rooms = this.rooms(storey);
    const at = (after ?? rooms.length - 1) + 1;
    rooms.insert(at, controlOf(emptyRoom()));
    this.focus(`room-${storey}-${at}`);
  }
  /** A list that was copied elsewhere comes in line by line. */
  protected pasted(storey: number, room: number, event: ClipboardEvent): void {
    const lines = (event.clipboardData?.getData('text') ?? '').split(/[\n;]+/).map((line) => line.trim());
    const names = lines.filter(Boolean);
    if (names.length < 2) return;
    event.preventDefault();
    const rooms = this.rooms(storey);
    names.forEach((name, index) => {
      const entry = { name: name.slice(0, 200), kind: kindFromName(name), kindChosen: false };
      if (index === 0 && !rooms.at(room).controls.name.value) rooms.at(room).setValue(entry);
      else rooms.insert(room + index, controlOf(entry));
    });
  }
  protected dropRoom(storey: number, room: number): void {
    this.rooms(storey).removeAt(room);
  }
  protected addStorey(): void {
    const { storeys } = this.form.controls;
    const at = storeys.length;
    const name = floorName(this.draft().base, at);
    storeys.push(controlOf({ name, rooms: [emptyRoom()] }));
    this.focus(`room-${at}-0`);
  }
  /** The breaker may stand at the end of the name. */
  protected circuitTyped(index: number): void {
    const circuit = this.form.controls.circuits.at(index);
    const now = circuit.getRawValue();
    circuit.patchValue(readCircuitLine(now.name, now));
  }
  protected addCircuit(): void {
    const { circuits } = this.form.controls;
    const last = circuits.value.at(-1);
    const { amps, protection } = last ?? {};
    circuits.push(
      controlOf({
        ...usualCircuit(this.draft().base),
        ...(amps && { amps }),
        ...(protection && { protection }),
      }),
    );
    this.focus(`circuit-${circuits.length - 1}`);
  }
  protected dropCircuit(index: number): void {
    this.form.controls.circuits.removeAt(index);
  }

  private focus(id: string): void {
    // At once: the next key that is typed belongs to the new line.
    this.changes.detectChanges();
    this.host.nativeElement.querySelector<HTMLInputElement>(`#${id}`)?.focus();
  }

  protected async save(): Promise<void> {
    if (this.problems().length || this.busy()) return;
    this.busy.set(true);
    this.failed.set(undefined);
    try {
      this.session.edition.set(this.draft().base);
      const { id } = await this.api.import(
        fileOfDraft(this.draft(), () => crypto.randomUUID(), this.habits()),
        'refuse',
        this.session.who().id,
      );
      // Where circuits were typed they are the lead's own; else the house is to be drafted.
      const of = this.counts().circuits ? 'boxes' : 'draft';
      await this.router.navigate(['/house', id, 'lay-out'], { queryParams: { of } });
      this.kept.set(this.empty);
    } catch (error) {
      this.failed.set(
        `${error instanceof Error ? error.message : 'That did not work.'} What you typed is kept on this device.`,
      );
    } finally {
      this.busy.set(false);
    }
  }
}
