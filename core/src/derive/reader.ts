import type { House } from '../house/house.js';
import { recordOf, recordsMentioning, rowsOf } from '../house/house.js';
import type { RecordOf, TableName } from '../house/model.js';
import type { Rulebook } from '../rulebook/rulebook.js';
import { rulebookFor } from '../rulebook/rulebook.js';
import type { Part } from './part.js';

/**
 * A derivation: a pure function from what the reader gives to a value, named so that its results can be kept. Nothing
 * derived is ever stored with the house.
 */
export interface Derivation<Result> {
  readonly name: string;
  readonly compute: (reader: HouseReader, key: string) => Result;
  /**
   * When it is derived again and says the same, what is built on it stays. For small results of much: they are derived as soon
   * as what they read has changed, and bear a key of which the record is gone.
   */
  readonly cutsOff?: true;
}

/** How a derivation looks at a house. Whatever it reads, it depends on. */
export interface HouseReader {
  readonly houseId: string;
  rules(): Rulebook;
  get<T extends TableName>(table: T, id: string): RecordOf<T> | undefined;
  /** Some fields of a record: whatever reads them is not told of the others. */
  part<T extends TableName, F extends keyof RecordOf<T>>(
    part: Part<T, F>,
    id: string,
  ): Pick<RecordOf<T>, F> | undefined;
  /** All records of a list, in list order. */
  all<T extends TableName>(table: T): readonly RecordOf<T>[];
  /** The records of `table` that mention `id`, in list order. */
  mentioning<T extends TableName>(table: T, id: string): readonly RecordOf<T>[];
  derive<Result>(derivation: Derivation<Result>, key: string): Result;
  /** A reader of another version of this house, for a look at what would be: it shares what is still true. */
  fork(house: House): HouseReader;
}

/** A reader of one version of a house that keeps what it has derived, for as long as the reader lives. */
export function readerOf(house: House): HouseReader {
  const kept = new Map<Derivation<unknown>, Map<string, unknown>>();
  // The same few records are asked for again and again.
  const records = new Map<TableName, Map<string, RecordOf<TableName> | undefined>>();
  const reader: HouseReader = {
    houseId: house.head.id,
    rules: () => rulebookFor(house.head.rulebook),
    get: <T extends TableName>(table: T, id: string): RecordOf<T> | undefined => {
      let known = records.get(table);
      if (!known) records.set(table, (known = new Map()));
      let record = known.get(id);
      if (record === undefined && !known.has(id)) known.set(id, (record = recordOf(house, table, id)));
      return record as RecordOf<T> | undefined;
    },
    part: (part, id) => reader.get(part.table, id),
    all: (table) => rowsOf(house, table).map((row) => row.record),
    mentioning: (table, id) => recordsMentioning(house, table, id),
    derive: <Result>(derivation: Derivation<Result>, key: string): Result => {
      let byKey = kept.get(derivation);
      if (!byKey) kept.set(derivation, (byKey = new Map()));
      let result = byKey.get(key);
      if (result === undefined && !byKey.has(key)) byKey.set(key, (result = derivation.compute(reader, key)));
      return result as Result;
    },
    fork: readerOf,
  };
  return reader;
}
