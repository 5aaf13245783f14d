import type { ChangeBody } from '../changes/change.js';
export type { Source } from './facts.js';
import type { ConductorRef, FindingCode, FindingFacts, FixCode, FixFacts, Measure, Source } from './facts.js';

/** 'stop': do not go on. 'fix': to be put right before the inspector. 'note': worth knowing. */
export type Severity = 'stop' | 'fix' | 'note';

/** The gravest first. */
export const SEVERITY_RANK: Readonly<Record<Severity, number>> = { stop: 0, fix: 1, note: 2 };

/** A way out that one touch applies. */
export type Fix = {
  [C in FixCode]: { readonly code: C; readonly facts: FixFacts[C]; readonly change: ChangeBody };
}[FixCode];

export interface Where {
  readonly roomId?: string | undefined;
  readonly boxId?: string | undefined;
  readonly runId?: string | undefined;
  readonly circuitId?: string | undefined;
  readonly deviceId?: string | undefined;
  readonly pointId?: string | undefined;
  readonly controlId?: string | undefined;
}

interface FindingBase {
  readonly severity: Severity;
  readonly where: Where;
  readonly measured?: Measure | undefined;
  readonly allowed?: Measure | undefined;
  readonly source?: Source | undefined;
  /** The conductor to look at, where the rest does not say it. */
  readonly lookAt?: ConductorRef | undefined;
  readonly fixes?: readonly Fix[];
}

/** Of one code: `FindingOf<'fill.too-full'>` knows by how much. */
export type FindingOf<C extends FindingCode> = FindingBase & {
  readonly code: C;
  readonly facts: FindingFacts[C];
};

/** Something that a person should look at, as facts. Bad wiring is a finding, never an error. */
export type Finding = { [C in FindingCode]: FindingOf<C> }[FindingCode];

export const NO_FACTS = {} as const;
