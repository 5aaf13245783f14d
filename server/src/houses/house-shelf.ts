import type { ChangeBody, HouseDiff, HouseHead as Head, TABLES } from '@mule-tally/core';
import {
  HOUSE,
  HouseHead,
  applyChange,
  isAsSent,
  mayChange,
  upgradeChange,
  upgradeDiff,
} from '@mule-tally/core';
import type { Shelf } from '../documents/shelf.js';
import { COLUMNS } from '../storage/entities.js';

/** Houses: a head in `house`, a table for each list of the house file, entries in `journal`. */
export const HOUSE_SHELF: Shelf<typeof TABLES, Head, ChangeBody> = {
  kind: HOUSE,
  headTable: 'house',
  headKey: ['crew_id', 'id'],
  headColumns: [
    { name: 'name' },
    { name: 'base' },
    { name: 'overrides', json: true },
    { name: 'power' },
    { name: 'code', json: true },
    { name: 'elsewhere', json: true },
  ],
  headFrom: ({ id, name, base, overrides, power, code, elsewhere }) =>
    HouseHead.parse({
      id,
      name,
      rulebook: {
        base,
        overrides,
        ...(code !== null && { code }),
        ...(elsewhere !== null && { elsewhere }),
      },
      ...(power !== null && { power }),
    }),
  headValues: ({ name, rulebook, power }) => [
    name,
    rulebook.base,
    JSON.stringify(rulebook.overrides),
    power ?? null,
    rulebook.code ? JSON.stringify(rulebook.code) : null,
    rulebook.elsewhere ? JSON.stringify(rulebook.elsewhere) : null,
  ],
  rowKey: ['crew_id', 'house_id'],
  columns: COLUMNS,
  journal: 'journal',
  hasNames: true,
  folds: true,
  apply: applyChange,
  mayChange,
  isSame: isAsSent,
  isIdle: (body) => body.kind === 'house.replace',
  stored: (body, diff) => ({ body, diff }),
  changeFrom: upgradeChange,
  diffFrom: (diff, version) => upgradeDiff(diff, version) as HouseDiff,
  knows: () => false,
};
