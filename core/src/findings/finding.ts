import type { ChangeBody } from '../changes/change.js';

/** 'stop': do not go on. 'mend': to be put right before the inspector. 'note': worth knowing. */
export type Severity = 'stop' | 'mend' | 'note';

/** A way out that one touch applies. */
export interface Fix {
  readonly label: string;
  readonly change: ChangeBody;
}

/** Something that a person should look at. Bad wiring is a finding, never an error. */
export interface Finding {
  readonly code: string;
  readonly severity: Severity;
  readonly message: string;
  readonly where: {
    readonly roomId?: string;
    readonly boxId?: string;
    readonly runId?: string;
    readonly circuitId?: string;
    readonly deviceId?: string;
    readonly pointId?: string;
    readonly controlId?: string;
  };
  readonly measured?: string;
  readonly allowed?: string;
  /** Section or provenance of the rule. */
  readonly source?: string;
  readonly fixes?: readonly Fix[];
}
