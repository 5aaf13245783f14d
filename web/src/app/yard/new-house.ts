import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { RoomKind, RulebookBase } from '@mule-tally/core';
import { EDITIONS, RoomKind as RoomKinds, habitsFor } from '@mule-tally/core';
import { Value } from '../parts/value';
import { OpenCrew } from '../state/open-crew';
import { Session } from '../state/session';
import { Api } from '../sync/api';
import { kept } from '../sync/draft-store';
import type { HouseDraft } from './house-draft';
import { draftProblems, emptyDraft, fileOfDraft, kindFromName, readCircuitLine } from './house-draft';

/** A new house, by keyboard: storeys and rooms in walking order, then the circuits of the panel. Enter starts the next line. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-new-house',
  imports: [Value, RouterLink],
  templateUrl: './new-house.html',
  styleUrl: './new-house.scss',
})
export class NewHousePage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  private readonly empty = emptyDraft();
  private readonly kept = kept<HouseDraft>(() => 'new-house', this.empty);
  protected readonly draft = this.kept.value;
  protected readonly kinds = RoomKinds.options;
  protected readonly problems = computed(() => draftProblems(this.draft()));
  protected readonly counts = computed(() => ({
    rooms: this.draft().storeys.reduce(
      (sum, storey) => sum + storey.rooms.filter((room) => room.name.trim()).length,
      0,
    ),
    circuits: this.draft().circuits.filter((circuit) => circuit.name.trim()).length,
  }));
  private readonly crew = inject(OpenCrew).view;
  /** What the crew does otherwise than the edition: the house starts with it. */
  protected readonly habits = computed(() => {
    const crew = this.crew();
    return crew ? habitsFor(crew, this.draft().base) : {};
  });
  protected readonly habitCount = computed(() => Object.keys(this.habits()).length);
  protected readonly failed = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  protected edit(change: (draft: HouseDraft) => void): void {
    const next = structuredClone(this.draft());
    change(next);
    this.kept.set(next);
  }

  protected setName(name: string): void {
    this.edit((draft) => (draft.name = name));
  }
  protected readonly editions = EDITIONS;
  protected setBase(base: RulebookBase): void {
    this.edit((draft) => (draft.base = base));
  }
  protected setRoom(storey: number, room: number, name: string): void {
    this.edit((draft) => {
      const entry = draft.storeys[storey]!.rooms[room]!;
      // The name says the kind until a person has said it.
      if (!entry.kindChosen) entry.kind = kindFromName(name);
      entry.name = name;
    });
  }
  protected setKind(storey: number, room: number, kind: RoomKind): void {
    this.edit((draft) => Object.assign(draft.storeys[storey]!.rooms[room]!, { kind, kindChosen: true }));
  }
  protected setStoreyName(storey: number, name: string): void {
    this.edit((draft) => (draft.storeys[storey]!.name = name));
  }
  protected addRoom(storey: number, after?: number): void {
    const rooms = this.draft().storeys[storey]!.rooms;
    const at = (after ?? rooms.length - 1) + 1;
    this.edit((draft) =>
      draft.storeys[storey]!.rooms.splice(at, 0, { name: '', kind: 'other', kindChosen: false }),
    );
    this.focus(`room-${storey}-${at}`);
  }
  protected dropRoom(storey: number, room: number): void {
    this.edit((draft) => draft.storeys[storey]!.rooms.splice(room, 1));
  }
  protected addStorey(): void {
    const at = this.draft().storeys.length;
    this.edit((draft) =>
      draft.storeys.push({
        name: at === 1 ? 'Upper floor' : `Storey ${at + 1}`,
        rooms: [{ name: '', kind: 'other', kindChosen: false }],
      }),
    );
    this.focus(`room-${at}-0`);
  }
  protected setCircuit(index: number, field: 'name' | 'amps' | 'protection', value: string): void {
    this.edit((draft) => {
      const circuit = draft.circuits[index]!;
      if (field === 'amps') circuit.amps = Number(value);
      else if (field === 'protection') circuit.protection = value as typeof circuit.protection;
      else Object.assign(circuit, readCircuitLine(value, circuit));
    });
  }
  protected addCircuit(): void {
    const at = this.draft().circuits.length;
    this.edit((draft) => {
      const last = draft.circuits.at(-1);
      draft.circuits.push({ name: '', amps: last?.amps ?? 15, protection: last?.protection ?? 'afci' });
    });
    this.focus(`circuit-${at}`);
  }
  protected dropCircuit(index: number): void {
    this.edit((draft) => draft.circuits.splice(index, 1));
  }
  protected setPanelRoom(index: string): void {
    this.edit((draft) => (draft.panelRoom = index));
  }
  protected roomChoices(): { value: string; name: string }[] {
    return this.draft().storeys.flatMap((storey, s) =>
      storey.rooms.flatMap((room, r) => (room.name.trim() ? [{ value: `${s}.${r}`, name: room.name }] : [])),
    );
  }

  private focus(id: string): void {
    setTimeout(() => this.host.nativeElement.querySelector<HTMLInputElement>(`#${id}`)?.focus());
  }

  protected async save(): Promise<void> {
    if (this.problems().length || this.busy()) return;
    this.busy.set(true);
    this.failed.set(undefined);
    try {
      const { id } = await this.api.import(
        fileOfDraft(this.draft(), () => crypto.randomUUID(), this.habits()),
        'refuse',
        this.session.who().id,
      );
      await this.router.navigate(['/house', id, 'lay-out']);
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
