import type { HouseReader } from '../derive/reader.js';
import type { KnownDraft } from './known-draft.js';
import type { Group } from './planned.js';

/** Keys of the boxes of a group. */
export const keysOf = (group: Group): string[] => [
  ...new Set([group.feed, ...group.edges.flatMap(({ from, to }) => [from, to])]),
];

/**
 * What stays as it is when a house is drafted again: circuits that have been pulled or belong to rooms that are left out, all
 * that hangs on them, and what hangs together with that on another circuit.
 */
export class Frozen {
  readonly circuits: Set<string>;
  /** Ids of boxes on these circuits. */
  readonly boxes = new Set<string>();
  /** Keys of records that stay. */
  readonly keys = new Set<string>();

  constructor(
    private readonly reader: HouseReader,
    private readonly known: KnownDraft,
    groups: readonly Group[],
    leaveOut: ReadonlySet<string>,
  ) {
    this.circuits = new Set([
      ...known.pulledCircuits,
      ...[...leaveOut].flatMap((roomId) =>
        reader.mentioning('boxes', roomId).flatMap(({ id }) => this.circuitsAt(id)),
      ),
    ]);
    // A group hangs together: where one circuit of it stays, the others stay too.
    for (let before = -1; before !== this.circuits.size;) {
      before = this.circuits.size;
      for (const group of groups)
        if (this.holds(group))
          for (const id of this.boxesOf(group))
            this.circuitsAt(id).forEach((circuit) => this.circuits.add(circuit));
    }
    for (const { id } of reader.all('boxes'))
      if (this.circuitsAt(id).some((circuit) => this.circuits.has(circuit))) this.boxes.add(id);
    for (const [key, entry] of known.byKey) if (this.stays(entry)) this.keys.add(key);
  }

  private circuitsAt(boxId: string): string[] {
    // The panel is on all of them.
    if (this.reader.get('boxes', boxId)?.catalogueId === 'panel') return [];
    return this.reader.mentioning('runs', boxId).flatMap(({ circuitIds }) => circuitIds);
  }

  private boxesOf(group: Group): string[] {
    return keysOf(group).flatMap((key) => this.known.byKey.get(key)?.record.id ?? []);
  }

  /** Whether anything of a group hangs on a circuit that stays. */
  holds(group: Group): boolean {
    return this.boxesOf(group).some((id) =>
      this.circuitsAt(id).some((circuit) => this.circuits.has(circuit)),
    );
  }

  private isOnBox(pointId: string): boolean {
    const point = this.reader.get('points', pointId);
    const device = point && this.reader.get('devices', point.deviceId);
    return device !== undefined && this.boxes.has(device.boxId);
  }

  private stays({ table, record }: { table: string; record: object & { id: string } }): boolean {
    switch (table) {
      case 'circuits':
        return this.circuits.has(record.id);
      case 'boxes':
        return this.boxes.has(record.id);
      case 'devices':
      case 'asks':
        return 'boxId' in record && this.boxes.has(String(record.boxId));
      case 'points':
        return this.isOnBox(record.id);
      case 'controls': {
        const { places, loads } = record as unknown as { places: string[]; loads: string[] };
        return [...places, ...loads].some((point) => this.isOnBox(point));
      }
      case 'runs':
        return (record as unknown as { circuitIds: string[] }).circuitIds.some((id) => this.circuits.has(id));
      default:
        return false;
    }
  }
}
