import type { CREW_LISTS, CrewChangeBody, CrewDiff, CrewHead as Head } from '@mule-tally/core';
import {
  CREW,
  CrewHead,
  applyCrewChange,
  mayChangeCrew,
  sameJson,
  storedCrewBody,
  withoutErasable,
} from '@mule-tally/core';
import type { Shelf } from '../documents/shelf.js';
import { CREW_COLUMNS } from '../storage/entities.js';

/**
 * Crew books: a head in `crew`, a table for each of its lists, entries in `crew_journal`. Names of people stand in `people`
 * only: entries of the journal are kept without them.
 */
export const CREW_SHELF: Shelf<typeof CREW_LISTS, Head, CrewChangeBody> = {
  kind: CREW,
  headTable: 'crew',
  headKey: ['id'],
  headColumns: [{ name: 'name' }],
  headFrom: ({ id, name }) => CrewHead.parse({ id, name }),
  headValues: ({ name }) => [name],
  rowKey: ['crew_id'],
  columns: CREW_COLUMNS,
  journal: 'crew_journal',
  hasNames: false,
  folds: false,
  apply: applyCrewChange,
  isSame: sameJson,
  mayChange: (actor, body, _crew, history) => mayChangeCrew(actor, body, history),
  isIdle: () => false,
  stored: (body, diff) => ({ body: storedCrewBody(body), diff: withoutErasable(CREW, diff) }),
  changeFrom: (change) => change,
  diffFrom: (diff) => diff as CrewDiff,
  // Whoever is on no list yet enters themselves.
  knows: (crew, body, actorId) =>
    crew.tables.people.has(actorId) || (body.kind === 'person.add' && body.record.id === actorId),
};
