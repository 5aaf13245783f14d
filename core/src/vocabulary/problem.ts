/** Something wrong with what was given: a stable code, a sentence for a person, and where it stands. */
export interface Problem {
  readonly code: string;
  readonly message: string;
  /** JSON path from the root of what was read, `$.boxes[3].tag`. */
  readonly path: string;
}
