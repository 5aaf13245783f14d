import type { House } from '../house/house.js';
import { recordOf, recordsMentioning, rowsOf } from '../house/house.js';
import type { RecordOf, TableName } from '../house/model.js';
import type { Rulebook } from '../rulebook/rulebook.js';
import { rulebookFor } from '../rulebook/rulebook.js';

/**
 * A derivation: a pure function from what the reader gives to a value, named so that its results can be kept. Nothing
 * derived is ever stored with the house.
 */
export interface Derivation<Result> {
  readonly name: string;
  readonly compute: (reader: HouseReader, key: string) => Result;
}

/** How a derivation looks at a house. Whatever it reads, it depends on. */
export interface HouseReader {
  readonly houseId: string;
  rules(): Rulebook;
  get<T extends TableName>(table: T, id: string): RecordOf<T> | undefined;
  /** All records of a list, in list order. */
  all<T extends TableName>(table: T): readonly RecordOf<T>[];
  /** The records of `table` that mention `id`, in list order. */
  mentioning<T extends TableName>(table: T, id: string): readonly RecordOf<T>[];
  derive<Result>(derivation: Derivation<Result>, key: string): Result;
}

/** A reader of one version of a house that keeps what it has derived, for as long as the reader lives. */
export function readerOf(house: House): HouseReader {
  const kept = new Map<Derivation<unknown>, Map<string, unknown>>();
  const reader: HouseReader = {
    houseId: house.head.id,
    rules: () => rulebookFor(house.head.rulebook),
    get: (table, id) => recordOf(house, table, id),
    all: (table) => rowsOf(house, table).map((row) => row.record),
    mentioning: (table, id) => recordsMentioning(house, table, id),
    derive: <Result>(derivation: Derivation<Result>, key: string): Result => {
      let byKey = kept.get(derivation);
      if (!byKey) kept.set(derivation, (byKey = new Map()));
      if (!byKey.has(key)) byKey.set(key, derivation.compute(reader, key));
      return byKey.get(key) as Result;
    },
  };
  return reader;
}
