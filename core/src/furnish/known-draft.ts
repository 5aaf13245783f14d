import type { House } from '../house/house.js';
import { mentionersOf, recordOf, rowsOf } from '../house/house.js';
import type { Drafted, RecordOf, TableName } from '../house/model.js';
import { TABLE_NAMES } from '../house/model.js';
import { SET_STEP } from '../plan/set-list.js';
import { sameJson } from '../structures/equal.js';

/** Lists of which records may have been drafted, in the order in which they can be taken out one after another. */
export const DRAFTED_TABLES = [
  'asks',
  'runs',
  'controls',
  'points',
  'devices',
  'circuits',
  'boxes',
] as const satisfies readonly TableName[];
export type DraftedTable = (typeof DRAFTED_TABLES)[number];

export interface DraftedRecord {
  readonly table: DraftedTable;
  readonly record: RecordOf<DraftedTable> & { readonly drafted: Drafted };
}

/** What of a house was drafted: by key, and the keys of which the record was taken away since. */
export class KnownDraft {
  readonly byKey = new Map<string, DraftedRecord>();
  readonly gone: ReadonlySet<string>;
  /** Circuits of which cable is in, or that have been walked or tested: they stay as they are. */
  readonly pulledCircuits: ReadonlySet<string>;

  constructor(readonly house: House) {
    for (const table of DRAFTED_TABLES)
      for (const { record } of rowsOf(house, table))
        if (record.drafted) this.byKey.set(record.drafted.key, { table, record } as DraftedRecord);
    this.gone = new Set(
      rowsOf(house, 'drafts').flatMap(({ record }) => record.keys.filter((key) => !this.byKey.has(key))),
    );
    const pulled = new Set<string>();
    for (const { record: run } of rowsOf(house, 'runs'))
      if (this.isWorked('runs', run.id)) run.circuitIds.forEach((id) => pulled.add(id));
    for (const { record } of rowsOf(house, 'circuits'))
      if (this.isWorked('circuits', record.id)) pulled.add(record.id);
    for (const { record: box } of rowsOf(house, 'boxes'))
      if (box.catalogueId !== 'panel' && this.isMade(box))
        for (const runId of mentionersOf(house, 'runs', box.id))
          recordOf(house, 'runs', runId)!.circuitIds.forEach((id) => pulled.add(id));
    this.pulledCircuits = pulled;
  }

  /** It has been made up, or somebody has begun to: being nailed to its stud says nothing of its cables. */
  private isMade({ id, asBuilt }: RecordOf<'boxes'>): boolean {
    return (
      Boolean(asBuilt?.length) ||
      mentionersOf(this.house, 'records', id).some(
        (record) => recordOf(this.house, 'records', record)?.step !== SET_STEP,
      )
    );
  }

  /** Somebody has set, pulled, made up, walked, tested or ticked it. */
  isWorked(table: DraftedTable, id: string): boolean {
    const { house } = this;
    if (mentionersOf(house, 'records', id).length) return true;
    switch (table) {
      case 'runs':
        return mentionersOf(house, 'pulls', id).some(
          (pull) => recordOf(house, 'pulls', pull)!.state !== 'scrapped',
        );
      case 'boxes':
        return Boolean(recordOf(house, 'boxes', id)?.asBuilt?.length);
      case 'devices':
        return this.isWorked('boxes', recordOf(house, 'devices', id)!.boxId);
      case 'points':
        return this.isWorked('devices', recordOf(house, 'points', id)!.deviceId);
      case 'controls':
        return recordOf(house, 'controls', id)!.places.some((point) => this.isWorked('points', point));
      case 'asks':
        return recordOf(house, 'asks', id)!.doneAt !== undefined;
      case 'circuits':
        return false;
    }
  }

  /** Nobody has changed any of its fields since it was drafted, and nobody has worked on it. */
  isUntouched({ table, record }: DraftedRecord): boolean {
    const { id, drafted, ...now } = record as { id: string; drafted: Drafted } & Record<string, unknown>;
    const names = new Set([...Object.keys(now), ...Object.keys(drafted.fields)]);
    return [...names].every((name) => sameJson(now[name], drafted.fields[name])) && !this.isWorked(table, id);
  }

  /** Of these, those on which nothing hangs that stays, in the house as it is or as it would be. */
  removable(
    wanted: ReadonlyMap<string, DraftedRecord>,
    house: House = this.house,
  ): Map<string, DraftedRecord> {
    const going = new Map([...wanted.values()].map((entry) => [entry.record.id, entry]));
    for (let before = -1; before !== going.size;) {
      before = going.size;
      for (const [id, { table }] of going) {
        // Lists of keys hold nothing; a point that loses its circuit stays what it is.
        const isHeld = TABLE_NAMES.some((list) =>
          mentionersOf(house, list, id).some(
            (holder) =>
              !going.has(holder) && list !== 'drafts' && !(table === 'circuits' && list === 'points'),
          ),
        );
        if (isHeld) going.delete(id);
      }
    }
    return new Map([...wanted].filter(([, { record }]) => going.has(record.id)));
  }
}
