import type { Conflict as ConflictIn, Diff, RowDiff as RowDiffOf } from '../documents/diff.js';
import { diffSchema } from '../documents/diff.js';
import type { TableName } from '../house/model.js';
import { TABLE_NAMES } from '../house/model.js';

export {
  applyDiff,
  conflictsOf,
  diffOf,
  invert,
  isEmptyDiff,
  touchKey,
  touchedBetween,
} from '../documents/diff.js';

/** What one change did to the house: rows written from it, undo built from it, journal kept of it. */
export const HouseDiff = diffSchema(TABLE_NAMES);
export type HouseDiff = Diff<TableName>;
export type RowDiff = RowDiffOf<TableName>;
export type Conflict = ConflictIn<TableName>;
