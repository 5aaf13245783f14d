import { v5 } from 'uuid';
import type { SingleChangeBody } from '../changes/change.js';
import { adding, removing, setting } from '../changes/change.js';
import type { House } from '../house/house.js';
import { rowOf, rowsOf, tableHolding, withRow } from '../house/house.js';
import type { Drafted, RecordOf } from '../house/model.js';
import { LIMITS } from '../vocabulary/limits.js';
import { sameJson } from '../structures/equal.js';
import type { DraftedTable } from './known-draft.js';
import { DRAFTED_TABLES, KnownDraft } from './known-draft.js';

/** A record as the draft wants it: fields without id, references by id. */
export interface Wanted {
  readonly table: DraftedTable;
  readonly key: string;
  readonly why: Drafted['why'];
  /** The room whose list of drafted keys it stands in; the house's without one. */
  readonly roomId?: string | undefined;
  readonly fields: Readonly<Record<string, unknown>>;
}

/** In this order records can be added: each after those that it names. */
const ADDING: readonly DraftedTable[] = [
  'boxes',
  'circuits',
  'devices',
  'points',
  'controls',
  'runs',
  'asks',
];

interface Step {
  readonly table: DraftedTable;
  readonly id: string;
  readonly add?: Record<string, unknown>;
  readonly set?: Readonly<Record<string, unknown>>;
  readonly remove?: true;
}

/** The house after these steps, written without asking: what they are made of is known to be right. */
function houseAfter(before: House, steps: readonly Step[]): House {
  let house = before;
  for (const { table, id, add, set, remove } of steps) {
    if (remove) house = withRow(house, table, id, undefined);
    else if (add)
      house = withRow(house, table, id, {
        at: house.nextAt,
        record: add as unknown as RecordOf<typeof table>,
      });
    else if (set) {
      const { at, record } = rowOf(house, table, id)!;
      const next: Record<string, unknown> = { ...record };
      for (const [field, to] of Object.entries(set))
        if (to === null) delete next[field];
        else next[field] = to;
      house = withRow(house, table, id, { at, record: next as unknown as RecordOf<typeof table> });
    }
  }
  return house;
}

/** What drafting does to a house. */
export interface Merged {
  readonly changes: readonly SingleChangeBody[];
  readonly added: number;
  readonly changed: number;
  readonly removed: number;
  /** Wanted records that a person changed or the crew worked on, which stay as they are. */
  readonly kept: number;
}

/**
 * Brings what a draft wants together with what stands: what nobody touched follows, what a person changed stays (field by
 * field), what was taken away stays away, and what the crew set, pulled or made is not touched at all.
 */
export class DraftMerge {
  constructor(
    readonly known: KnownDraft,
    /** Keys of records that are to stay as they are, wanted or not. */
    private readonly staying: (key: string) => boolean,
  ) {}

  private get house(): House {
    return this.known.house;
  }

  private readonly ids = new Map<string, string>();

  /** The id that a record of this key has, or gets: the same on every device. */
  idOf(key: string): string {
    const id = this.ids.get(key) ?? this.newIdOf(key);
    this.ids.set(key, id);
    return id;
  }

  private newIdOf(key: string): string {
    const known = this.known.byKey.get(key)?.record.id;
    if (known) return known;
    const { id: houseId } = this.house.head;
    for (let number = 1; ; number++) {
      const id = v5(number === 1 ? key : `${key} again ${number}`, houseId);
      // What stands there under this id is no longer what was drafted, or is another person's.
      if (id !== houseId && !tableHolding(this.house, id)) return id;
    }
  }

  private steps(wanted: readonly Wanted[]): { steps: Step[]; kept: number } {
    const { known } = this;
    const steps: Step[] = [];
    const wantedKeys = new Set(wanted.map(({ key }) => key));
    let kept = 0;
    for (const table of ADDING)
      for (const { key, why, fields, table: own } of wanted) {
        if (own !== table || known.gone.has(key)) continue;
        const present = known.byKey.get(key);
        const drafted: Drafted = { key, why, fields: { ...fields } };
        if (!present) {
          const id = this.idOf(key);
          steps.push({ table, id, add: { id, ...fields, drafted } });
          continue;
        }
        const { record } = present;
        if (this.staying(key) || known.isWorked(table, record.id)) continue;
        const now = record as unknown as Record<string, unknown>;
        const was = record.drafted.fields;
        const set: Record<string, unknown> = {};
        const base: Record<string, unknown> = { ...fields };
        let isKept = false;
        for (const name of new Set([...Object.keys(fields), ...Object.keys(was)])) {
          if (!sameJson(now[name], was[name])) {
            // A person wrote this one: what it was drafted as stays too, so that it is still theirs.
            isKept ||= !sameJson(now[name], fields[name]);
            if (was[name] === undefined) delete base[name];
            else base[name] = was[name];
          } else if (!sameJson(now[name], fields[name])) set[name] = fields[name] ?? null;
        }
        if (isKept) kept++;
        const next: Drafted = { key, why, fields: base };
        if (!sameJson(record.drafted, next)) set['drafted'] = next;
        if (Object.keys(set).length) steps.push({ table, id: record.id, set });
      }
    // What is no longer wanted goes once nothing that stays hangs on it any more.
    const unwanted = new Map(
      [...known.byKey].filter(
        ([key, entry]) => !wantedKeys.has(key) && !this.staying(key) && known.isUntouched(entry),
      ),
    );
    const going = known.removable(unwanted, houseAfter(this.house, steps));
    for (const table of DRAFTED_TABLES)
      for (const entry of going.values())
        if (entry.table === table) steps.push({ table, id: entry.record.id, remove: true });
    return { steps, kept };
  }

  /** The house as it would be, for a look at what follows. */
  houseWith(wanted: readonly Wanted[]): House {
    return houseAfter(this.house, this.steps(wanted).steps);
  }

  merged(wanted: readonly Wanted[]): Merged {
    const { steps, kept } = this.steps(wanted);
    const changes = steps.map(({ table, id, add, set, remove }) =>
      remove
        ? removing(table, id, true)
        : add
          ? adding(table, add as unknown as RecordOf<typeof table>)
          : setting(table, id, set as never),
    );
    const count = (test: (step: Step) => unknown): number => steps.filter((step) => test(step)).length;
    return {
      changes: [...changes, ...this.keys(wanted)],
      added: count(({ add }) => add),
      changed: count(({ set }) => set),
      removed: count(({ remove }) => remove),
      kept,
    };
  }

  /** What has been drafted, by room: what is missing of it later was taken away. */
  private keys(wanted: readonly Wanted[]): SingleChangeBody[] {
    const { house, known } = this;
    const byRoom = new Map<string, Set<string>>();
    const put = (roomId: string | undefined, key: string): void => {
      const room = roomId ?? '';
      if (!byRoom.has(room)) byRoom.set(room, new Set());
      byRoom.get(room)!.add(key);
    };
    for (const { record } of rowsOf(house, 'drafts'))
      for (const key of record.keys) if (known.gone.has(key) || this.staying(key)) put(record.roomId, key);
    for (const { roomId, key } of wanted) put(roomId, key);
    const changes: SingleChangeBody[] = [];
    const written = new Set<string>();
    const present = rowsOf(house, 'drafts').map(({ record }) => record);
    for (const [room, keys] of byRoom) {
      const all = [...keys].sort();
      const own = present.filter(({ roomId = '' }) => roomId === room);
      for (let part = 0; part * LIMITS.entries < all.length; part++) {
        const next = all.slice(part * LIMITS.entries, (part + 1) * LIMITS.entries);
        const list = own[part];
        if (!list) {
          const id = v5(`draft ${room} ${part}`, house.head.id);
          changes.push(adding('drafts', { id, ...(room && { roomId: room }), keys: next }));
          continue;
        }
        written.add(list.id);
        if (!sameJson([...list.keys].sort(), next)) changes.push(setting('drafts', list.id, { keys: next }));
      }
    }
    for (const { id } of present) if (!written.has(id)) changes.push(removing('drafts', id));
    return changes;
  }
}

/**
 * Takes a draft back: everything of it that nobody has changed, worked on, or hung anything of their own on. What remains is
 * the house's own from then on as far as drafting again is concerned. Undefined where there is nothing to take back.
 */
export function takeBackDraft(
  house: House,
): { changes: readonly SingleChangeBody[]; stays: number } | undefined {
  const known = new KnownDraft(house);
  const untouched = new Map([...known.byKey].filter(([, entry]) => known.isUntouched(entry)));
  const going = known.removable(untouched);
  if (going.size === 0) return undefined;
  const changes: SingleChangeBody[] = [];
  for (const table of DRAFTED_TABLES)
    for (const entry of going.values())
      if (entry.table === table) changes.push(removing(table, entry.record.id, true));
  for (const { record } of rowsOf(house, 'drafts')) {
    const keys = record.keys.filter((key) => known.byKey.has(key) && !going.has(key));
    if (keys.length === 0) changes.push(removing('drafts', record.id));
    else changes.push(setting('drafts', record.id, { keys }));
  }
  return { changes, stays: known.byKey.size - going.size };
}
