import type { CableId } from '../rulebook/cables.js';
import type { HouseFile } from '../house/house-file.js';
import type { Box, BoxModel, Circuit, Run } from '../house/model.js';
import type { PointRole, RoomKind } from '../vocabulary/kinds.js';
import type { RulebookBase } from '../rulebook/jurisdictions.js';
import { personOfVersion1 } from '../house/upgrade/version-1.js';
import { builtInDevice } from '../rulebook/catalogue.js';

/**
 * Writes house files in the words of the trade: for tests, benches and the demo. Ids count up from a series, so that the
 * same plan gives the same file.
 */
export class Plan {
  private count = 0;
  readonly file: HouseFile;
  private readonly storeyId: string;

  constructor(
    name: string,
    base: RulebookBase = 'us-2020',
    private readonly series = '00000000',
  ) {
    this.file = {
      format: 'mule-tally-house',
      version: 3,
      id: this.id(),
      name,
      rulebook: { base, overrides: {} },
      people: [],
      storeys: [],
      rooms: [],
      openings: [],
      bands: [],
      beams: [],
      catalogueBoxes: [],
      catalogueDevices: [],
      boxes: [],
      circuits: [],
      devices: [],
      points: [],
      controls: [],
      runs: [],
      reels: [],
      pulls: [],
      records: [],
      asks: [],
      photos: [],
      writeUps: [],
      extras: [],
      drafts: [],
    };
    this.storeyId = this.storey('First floor');
  }

  id(): string {
    this.count += 1;
    return `${this.series}-0000-4000-8000-${this.count.toString(16).padStart(12, '0')}`;
  }

  storey(name: string): string {
    const id = this.id();
    this.file.storeys.push({ id, name });
    return id;
  }

  /** A person of the crew, by name. */
  person(name: string): string {
    const known = this.file.people.find((person) => person.name === name);
    if (known) return known.id;
    const id = personOfVersion1(name);
    this.file.people.push({ id, name });
    return id;
  }

  room(name: string, kind: RoomKind = 'other', storeyId = this.storeyId): string {
    const id = this.id();
    this.file.rooms.push({ id, storeyId, name, kind, order: this.file.rooms.length + 1 });
    return id;
  }

  /** A box of a catalogue id or a whole model; in the last room unless said otherwise. */
  box(tag: string, model: string | BoxModel = 'plastic-1g-18', more: Partial<Box> = {}): string {
    const roomId = more.roomId ?? this.file.rooms.at(-1)?.id ?? this.room('Room');
    const id = this.id();
    this.file.boxes.push({
      id,
      roomId,
      tag,
      ...(typeof model === 'string' ? { catalogueId: model } : model),
      ...more,
    });
    return id;
  }

  circuit(
    number: number,
    name: string,
    panelId: string,
    breakerAmps: number,
    more: Partial<Circuit> = {},
  ): string {
    const id = this.id();
    this.file.circuits.push({
      id,
      number,
      name,
      panelId,
      poles: 1,
      breakerAmps,
      protection: 'none',
      ...more,
    });
    return id;
  }

  /** A device with its points; gives the ids of the points. */
  device(boxId: string, catalogueId: string, gang = 1, circuitId?: string, widthGangs?: number): string[] {
    const id = this.id();
    this.file.devices.push({ id, boxId, gang, catalogueId, ...(widthGangs && { widthGangs }) });
    const roles: readonly PointRole[] = builtInDevice(catalogueId)?.points ?? [];
    return roles.map((role) => {
      const pointId = this.id();
      this.file.points.push({ id: pointId, deviceId: id, role, ...(circuitId && { circuitId }) });
      return pointId;
    });
  }

  control(name: string, places: string[], loads: string[]): string {
    const id = this.id();
    this.file.controls.push({ id, name, places, loads });
    return id;
  }

  run(
    from: string,
    to: string,
    cable: CableId | undefined,
    circuitId: string,
    more: Partial<Run> = {},
  ): string {
    const id = this.id();
    this.file.runs.push({
      id,
      kind: 'cable',
      circuitIds: [circuitId],
      from: { boxId: from },
      to: { boxId: to },
      ...(cable && { plannedCable: cable }),
      ...more,
    });
    return id;
  }

  /** A box fed by a new run from another. */
  fed(
    tag: string,
    from: string,
    cable: CableId,
    circuitId: string,
    model = 'plastic-1g-18',
    more: Partial<Box> = {},
  ): string {
    const id = this.box(tag, model, more);
    this.run(from, id, cable, circuitId);
    return id;
  }

  pull(runId: string, cable: CableId, lengthIn: number, name = 'Lead'): string {
    const by = this.person(name);
    const id = this.id();
    this.file.pulls.push({ id, runId, cable, lengthIn, at: '2026-03-02T08:00:00Z', by, state: 'in' });
    return id;
  }
}
