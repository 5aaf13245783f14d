/** Where a value comes from. Published rules were written from memory: check them against the adopted code. */
export type Provenance = 'published, from memory' | 'common practice' | 'school';

export type RuleValueType = number | string | boolean | readonly string[];

/** An answer that a school allows: its code, and what is shown of it. */
export interface RuleOption {
  readonly code: string;
  readonly text: string;
}

/** How far a house may move a value: only to the strict side, or anywhere with a written reason, or as it likes. */
export type Adjustment = 'stricter-only' | 'amendable' | 'free';

export interface Rule {
  /** Stable name; a house overrides the value under this key. */
  readonly key: string;
  readonly title: string;
  readonly unit?: string;
  readonly provenance: Provenance;
  /** Section of the published code of its jurisdiction, or of the publication that is named. */
  readonly section?: string;
  /** Another publication than the electrical code of its jurisdiction: "IRC". */
  readonly publication?: string;
  readonly adjust: Adjustment;
  /** Which direction is the strict one, where there is one. For a yes/no rule 'higher' means that yes is strict. */
  readonly stricter?: 'higher' | 'lower';
  /** Allowed answers of a school, or what a list may hold. */
  readonly options?: readonly RuleOption[];
  /** One value, or one for each edition by its id. */
  readonly value: RuleValueType | Readonly<Record<string, RuleValueType>>;
  readonly note?: string;
}
