/** What the server and the screens may use of the core. */
export * from './changes/apply.js';
export * from './changes/rights.js';
export * from './changes/in-the-wall.js';
export * from './changes/change.js';
export * from './changes/seen.js';
export * from './changes/diff.js';
export * from './contracts/api.js';
export * from './contracts/sign-in.js';
export * from './contracts/hand-over.js';
export * from './contracts/live.js';
export * from './crew/crew.js';
export * from './crew/crew-at-work.js';
export * from './crew/crew-change.js';
export * from './crew/crew-rights.js';
export type { NoRight } from './documents/rights.js';
export * from './vocabulary/roles.js';
export * from './derive/derivations.js';
export type { AppliedTo, HistoryOf, Refusal as RefusalIn } from './documents/apply.js';
export type { Conflict as ConflictIn, Diff, RowDiff as RowDiffOf } from './documents/diff.js';
export { undoneBy } from './documents/change-kinds.js';
export { withErasable, withoutErasable } from './documents/diff.js';
export type { Document, DocumentKind, ListName, Lists, RecordIn } from './documents/document.js';
export { emptyDocument } from './documents/document.js';
export { Places, placedAt, placesOf } from './documents/places.js';
export * from './documents/envelope.js';
export * from './documents/references.js';
export * from './derive/reader.js';
export * from './facts/box-facts.js';
export * from './facts/circuit-facts.js';
export * from './facts/naming.js';
export * from './facts/reel-usage.js';
export * from './findings/finding.js';
export * from './house/breaker-by-number.js';
export * from './house/house-file.js';
export * from './house/house.js';
export * from './house/model.js';
export * from './house/references.js';
export * from './house/upgrades.js';
export {
  BURIED_PLACE,
  overrideOfVersion1,
  personOfVersion1,
  recordOfVersion1,
} from './house/upgrade/version-1.js';
export * from './rulebook/catalogue.js';
export * from './rulebook/connectors.js';
export * from './rulebook/jurisdictions.js';
export * from './vocabulary/jurisdiction.js';
export * from './rulebook/rooms.js';
export * from './vocabulary/room-kit-types.js';
export * from './vocabulary/rule.js';
export * from './rulebook/rulebook.js';
export * from './structures/equal.js';
export * from './structures/steps.js';
export * from './rulebook/cables.js';
export * from './vocabulary/catalogue-types.js';
export * from './vocabulary/kinds.js';
export * from './vocabulary/limits.js';
export * from './vocabulary/size.js';
export * from './vocabulary/terminal.js';
export * from './findings/facts.js';
export * from './vocabulary/glossary.js';
export * from './vocabulary/problem.js';
export * from './vocabulary/rulebook-types.js';
export * from './vocabulary/scan.js';
export * from './vocabulary/schema-problems.js';
export * from './vocabulary/text.js';
export * from './vocabulary/signal.js';
