import type { Touched } from '../changes/diff.js';
import { touchedBetween } from '../changes/diff.js';
import type { House } from '../house/house.js';
import { recordOf, recordsMentioning, rowsOf } from '../house/house.js';
import { mentionsIn } from '../house/references.js';
import { rulebookFor } from '../rulebook/rulebook.js';
import type { Derivation, HouseReader } from './reader.js';

/** A kept result and what it was made of: facts of the house (by name) and other kept results. */
interface Cell {
  readonly derivation: Derivation<unknown>;
  readonly key: string;
  value: unknown;
  readonly facts: Set<string>;
  readonly uses: Set<Cell>;
  readonly usedBy: Set<Cell>;
}

const RULES = 'rules';
const row = (table: string, id: string): string => `row ${table} ${id}`;
const list = (table: string): string => `all ${table}`;
const mentions = (table: string, id: string): string => `mentioning ${table} ${id}`;

/**
 * Kept derivations of a house that moves from version to version. Each result remembers which facts it read; a change
 * drops exactly the results that read a fact it touched, and what was built on them. Everything else keeps its identity,
 * so that a change costs what it touches, not what the house holds.
 */
export class Derivations {
  private readonly cells = new Map<Derivation<unknown>, Map<string, Cell>>();
  private readonly readers = new Map<string, Set<Cell>>();
  private runs = 0;

  constructor(private current: House) {}

  get house(): House {
    return this.current;
  }

  /** How many derivations have been computed since this was made. */
  get computed(): number {
    return this.runs;
  }

  derive<Result>(derivation: Derivation<Result>, key: string): Result {
    return this.cell(derivation, key).value as Result;
  }

  /** A reader of the present version, whose derivations are kept here. */
  reader(): HouseReader {
    const house = this.current;
    return {
      houseId: house.head.id,
      rules: () => rulebookFor(house.head.rulebook),
      get: (table, id) => recordOf(house, table, id),
      all: (table) => rowsOf(house, table).map((entry) => entry.record),
      mentioning: (table, id) => recordsMentioning(house, table, id),
      derive: (derivation, key) => this.derive(derivation, key),
    };
  }

  /**
   * Moves to another version of the house. `touched` names the rows that may differ (from a diff); without it every row is
   * looked at by identity.
   */
  update(next: House, touched: Touched = touchedBetween(this.current, next)): void {
    const before = this.current;
    this.current = next;
    if (before.head.rulebook !== next.head.rulebook) this.drop(RULES);
    for (const { table, id } of touched.values()) {
      this.drop(row(table, id));
      this.drop(list(table));
      for (const house of [before, next]) {
        const record = recordOf(house, table, id);
        if (record) for (const mention of mentionsIn(table, record)) this.drop(mentions(table, mention.id));
      }
    }
  }

  private drop(fact: string): void {
    const cells = this.readers.get(fact);
    if (cells) for (const cell of [...cells]) this.forget(cell);
  }

  private forget(cell: Cell): void {
    const byKey = this.cells.get(cell.derivation);
    if (byKey?.get(cell.key) !== cell) return;
    byKey.delete(cell.key);
    for (const fact of cell.facts) {
      const readers = this.readers.get(fact);
      readers?.delete(cell);
      if (readers?.size === 0) this.readers.delete(fact);
    }
    for (const used of cell.uses) used.usedBy.delete(cell);
    for (const user of [...cell.usedBy]) this.forget(user);
  }

  private cell(derivation: Derivation<unknown>, key: string): Cell {
    let byKey = this.cells.get(derivation);
    if (!byKey) this.cells.set(derivation, (byKey = new Map()));
    const known = byKey.get(key);
    if (known) return known;
    const cell: Cell = {
      derivation,
      key,
      value: undefined,
      facts: new Set(),
      uses: new Set(),
      usedBy: new Set(),
    };
    this.runs++;
    cell.value = derivation.compute(this.readerFor(cell), key);
    byKey.set(key, cell);
    return cell;
  }

  /** A reader that writes down for one cell what it reads. */
  private readerFor(cell: Cell): HouseReader {
    const note = (fact: string): void => {
      cell.facts.add(fact);
      let readers = this.readers.get(fact);
      if (!readers) this.readers.set(fact, (readers = new Set()));
      readers.add(cell);
    };
    const house = this.current;
    return {
      houseId: house.head.id,
      rules: () => (note(RULES), rulebookFor(house.head.rulebook)),
      get: (table, id) => (note(row(table, id)), recordOf(house, table, id)),
      all: (table) => (note(list(table)), rowsOf(house, table).map((entry) => entry.record)),
      mentioning: (table, id) => (note(mentions(table, id)), recordsMentioning(house, table, id)),
      derive: <Result>(derivation: Derivation<Result>, key: string): Result => {
        const used = this.cell(derivation, key);
        cell.uses.add(used);
        used.usedBy.add(cell);
        return used.value as Result;
      },
    };
  }
}
