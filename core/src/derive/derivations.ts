import type { Touched as TouchedIn } from '../documents/diff.js';
import { touchedBetween } from '../documents/diff.js';
import { mentionsOf } from '../documents/document.js';
import type { House } from '../house/house.js';
import { recordOf, recordsMentioning, rowsOf } from '../house/house.js';
import type { TableName } from '../house/model.js';
import { rulebookFor } from '../rulebook/rulebook.js';
import type { Rulebook, StandingRule } from '../rulebook/rulebook.js';
import { sameJson } from '../structures/equal.js';
import type { Part } from './part.js';
import { partsChanged } from './part.js';
import type { Derivation, HouseReader } from './reader.js';

type Touched = TouchedIn<TableName>;

/** A kept result and what it was made of: facts of the house (by name) and other kept results. */
interface Cell {
  readonly derivation: Derivation<unknown>;
  readonly key: string;
  value: unknown;
  readonly facts: Set<string>;
  /** Values of the rulebook that were read by name. */
  rules: Set<string> | undefined;
  readonly uses: Set<Cell>;
  readonly usedBy: Set<Cell>;
}

/** The rulebook as a whole, and that some value of it was read by name. */
const RULES = 'rules';
const EDITION = 'edition of the rules';
const SOME_RULES = 'some rules';
const row = (table: string, id: string): string => `row ${table} ${id}`;
const partFact = ({ table, name }: Part, id: string): string => `part ${table} ${name} ${id}`;
const list = (table: string): string => `all ${table}`;
const mentions = (table: string, id: string): string => `mentioning ${table} ${id}`;

/** Facts that differ between two versions of a house, of which these rows may. */
function* changedFacts(before: House, after: House, touched: Touched): Generator<string> {
  if (before.head.rulebook !== after.head.rulebook) yield RULES;
  const [by, now] = [before.head.rulebook, after.head.rulebook];
  if (by.base !== now.base || by.code !== now.code) yield EDITION;
  for (const { table, id } of touched.values()) {
    const [old, now] = [recordOf(before, table, id), recordOf(after, table, id)];
    yield row(table, id);
    yield list(table);
    for (const part of partsChanged(table, old, now)) yield partFact(part, id);
    for (const record of [old, now])
      if (record) for (const mention of mentionsOf(before, table, record)) yield mentions(table, mention.id);
  }
}

/** Values of the rulebook in which two versions of a house differ, by key; they are few, and seldom change. */
function rulesChanged(before: House, after: House): ReadonlySet<string> {
  const [old, now] = [before.head.rulebook, after.head.rulebook];
  if (old === now) return new Set();
  const next = new Map(rulebookFor(now).standing.map((one) => [one.rule.key, one]));
  const isOther = ({ rule, value, override }: StandingRule): boolean =>
    old.base !== now.base ||
    old.code !== now.code ||
    !sameJson(next.get(rule.key)!.value, value) ||
    !sameJson(next.get(rule.key)!.override, override);
  return new Set(
    rulebookFor(old)
      .standing.filter(isOther)
      .map(({ rule }) => rule.key),
  );
}

const readsAny = ({ rules }: Cell, keys: ReadonlySet<string>): boolean =>
  rules !== undefined && [...rules].some((key) => keys.has(key));

/** A rulebook that writes down for a cell which of its values are read. */
class TrackedRules implements Rulebook {
  constructor(
    private readonly rules: Rulebook,
    private readonly cell: Cell,
    private readonly note: (fact: string) => void,
  ) {}
  get base(): Rulebook['base'] {
    this.note(EDITION);
    return this.rules.base;
  }
  get code(): Rulebook['code'] {
    this.note(EDITION);
    return this.rules.code;
  }
  get standing(): Rulebook['standing'] {
    this.note(RULES);
    return this.rules.standing;
  }
  get jurisdiction(): Rulebook['jurisdiction'] {
    this.note(EDITION);
    return this.rules.jurisdiction;
  }
  has(key: string): boolean {
    this.note(EDITION);
    return this.rules.has(key);
  }
  number(key: string): number {
    this.read(key);
    return this.rules.number(key);
  }
  holds(totalIn3: number, capacityIn3: number): boolean {
    this.read(`fill.volume.${this.jurisdiction.sizes[0]}`);
    return this.rules.holds(totalIn3, capacityIn3);
  }
  text(key: string): string {
    this.read(key);
    return this.rules.text(key);
  }
  flag(key: string): boolean {
    this.read(key);
    return this.rules.flag(key);
  }
  list(key: string): readonly string[] {
    this.read(key);
    return this.rules.list(key);
  }
  cite(key: string): string {
    this.read(key);
    return this.rules.cite(key);
  }
  section(...asked: Parameters<Rulebook['section']>): string {
    this.note(EDITION);
    return this.rules.section(...asked);
  }
  private read(key: string): void {
    if (!this.cell.rules) {
      this.cell.rules = new Set();
      this.note(SOME_RULES);
    }
    this.cell.rules.add(key);
  }
}

/**
 * Kept derivations of a house that moves from version to version. Each result remembers which facts it read: a row, some
 * fields of a row, a value of the rulebook. A change drops exactly the results that read a fact it touched, and what was
 * built on them. Everything else keeps its identity, so that a change costs what it touches, not what the house holds.
 */
export class Derivations {
  private readonly cells = new Map<Derivation<unknown>, Map<string, Cell>>();
  private readonly readers = new Map<string, Set<Cell>>();
  private runs = 0;
  private readonly byName = new Map<string, number>();

  /** `parent` keeps what a fork shares, except for `gone`. */
  constructor(
    private current: House,
    private readonly parent?: Derivations,
    private readonly gone: ReadonlySet<Cell> = new Set(),
  ) {}

  get house(): House {
    return this.current;
  }

  /** How many derivations have been computed since this was made. */
  get computed(): number {
    return this.runs;
  }

  /** The same by the name of the derivation. */
  get computedByName(): ReadonlyMap<string, number> {
    return this.byName;
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
      part: (part, id) => recordOf(house, part.table, id),
      all: (table) => rowsOf(house, table).map((entry) => entry.record),
      mentioning: (table, id) => recordsMentioning(house, table, id),
      derive: (derivation, key) => this.derive(derivation, key),
      fork: (other) => this.fork(other).reader(),
    };
  }

  /**
   * Derivations of another version of the house, for a look at what would be. They share every result that is still true and
   * keep their own apart; this one must not move on while they are used.
   */
  fork(next: House): Derivations {
    // A fork of a fork shares with the first one only, which knows what is built on what.
    const first = this.parent ?? this;
    const gone = new Set<Cell>();
    for (const fact of changedFacts(first.current, next, touchedBetween(first.current, next)))
      for (const cell of first.readers.get(fact) ?? []) goneWith(cell, gone);
    const rules = rulesChanged(first.current, next);
    if (rules.size)
      for (const cell of first.readers.get(SOME_RULES) ?? []) if (readsAny(cell, rules)) goneWith(cell, gone);
    return new Derivations(next, first, gone);
  }

  /**
   * Moves to another version of the house. `touched` names the rows that may differ (from a diff); without it every row is
   * looked at by identity.
   */
  update(next: House, touched: Touched = touchedBetween(this.current, next)): void {
    const before = this.current;
    this.current = next;
    const asked = new Set<Cell>();
    for (const fact of changedFacts(before, next, touched)) {
      const cells = this.readers.get(fact);
      if (cells) for (const cell of [...cells]) this.forget(cell, asked);
    }
    const rules = rulesChanged(before, next);
    if (rules.size)
      for (const cell of [...(this.readers.get(SOME_RULES) ?? [])])
        if (readsAny(cell, rules)) this.forget(cell, asked);
    for (const cell of asked) this.askAgain(cell, asked);
  }

  /** Lets go of a result and of what is built on it; of one that may say the same again only when it does not. */
  private forget(cell: Cell, asked: Set<Cell>): void {
    const byKey = this.cells.get(cell.derivation);
    if (byKey?.get(cell.key) !== cell) return;
    byKey.delete(cell.key);
    for (const fact of cell.facts) {
      const readers = this.readers.get(fact);
      readers?.delete(cell);
      if (readers?.size === 0) this.readers.delete(fact);
    }
    for (const used of cell.uses) used.usedBy.delete(cell);
    if (cell.derivation.cutsOff) asked.add(cell);
    else for (const user of [...cell.usedBy]) this.forget(user, asked);
  }

  /** Derives a small result again; what is built on it stays where it says the same. */
  private askAgain(old: Cell, asked: Set<Cell>): void {
    const users = [...old.usedBy].filter((user) => this.cells.get(user.derivation)?.get(user.key) === user);
    if (users.length === 0) return;
    const now = this.cell(old.derivation, old.key);
    if (sameJson(old.value, now.value)) {
      now.value = old.value;
      for (const user of users) {
        user.uses.delete(old);
        user.uses.add(now);
        now.usedBy.add(user);
      }
    } else for (const user of users) this.forget(user, asked);
  }

  /** A result that is kept here, or by whom this was forked from and still true. */
  private known(derivation: Derivation<unknown>, key: string): Cell | undefined {
    const own = this.cells.get(derivation)?.get(key);
    if (own) return own;
    const shared = this.parent?.cells.get(derivation)?.get(key);
    return shared && !this.gone.has(shared) ? shared : undefined;
  }

  private cell(derivation: Derivation<unknown>, key: string): Cell {
    const known = this.known(derivation, key);
    if (known) return known;
    let byKey = this.cells.get(derivation);
    if (!byKey) this.cells.set(derivation, (byKey = new Map()));
    const cell: Cell = {
      derivation,
      key,
      value: undefined,
      facts: new Set(),
      rules: undefined,
      uses: new Set(),
      usedBy: new Set(),
    };
    this.runs++;
    this.byName.set(derivation.name, (this.byName.get(derivation.name) ?? 0) + 1);
    cell.value = derivation.compute(this.readerFor(cell), key);
    byKey.set(key, cell);
    return cell;
  }

  /** A reader that writes down for one cell what it reads. */
  private readerFor(cell: Cell): HouseReader {
    const note = (fact: string): void => {
      if (cell.facts.has(fact)) return;
      cell.facts.add(fact);
      let readers = this.readers.get(fact);
      if (!readers) this.readers.set(fact, (readers = new Set()));
      readers.add(cell);
    };
    const house = this.current;
    let rules: Rulebook | undefined;
    return {
      houseId: house.head.id,
      rules: () => (rules ??= new TrackedRules(rulebookFor(house.head.rulebook), cell, note)),
      get: (table, id) => (note(row(table, id)), recordOf(house, table, id)),
      part: (part, id) => (note(partFact(part as unknown as Part, id)), recordOf(house, part.table, id)),
      all: (table) => (note(list(table)), rowsOf(house, table).map((entry) => entry.record)),
      mentioning: (table, id) => (note(mentions(table, id)), recordsMentioning(house, table, id)),
      derive: <Result>(derivation: Derivation<Result>, key: string): Result => {
        const used = this.cell(derivation, key);
        cell.uses.add(used);
        // What a fork uses of its parent does not hold on to the fork.
        if (!this.parent || this.cells.get(derivation)?.get(key) === used) used.usedBy.add(cell);
        return used.value as Result;
      },
      fork: (other) => this.fork(other).reader(),
    };
  }
}

/** A result and all that is built on it. */
function goneWith(cell: Cell, gone: Set<Cell>): void {
  if (gone.has(cell)) return;
  gone.add(cell);
  for (const user of cell.usedBy) goneWith(user, gone);
}
