import type { FaultsFound } from '@mule-tally/core';
import { LIMITS } from '@mule-tally/core';
import type { Sql } from '../storage/sql.js';

/** How often each kind of fault was found in each house of a crew. */
export async function foundIn(sql: Sql, crewId: string): Promise<FaultsFound[]> {
  const rows = await sql.all<{ house_id: string; fault: string; count: string }>(
    `select house_id, cause->>'fault' as fault, count(*) as count from records
     where crew_id = ? and kind = 'found' and cause is not null
     group by house_id, cause->>'fault' order by house_id, fault limit ${LIMITS.records}`,
    [crewId],
  );
  return rows.map(({ house_id: houseId, fault, count }) => ({ houseId, fault, count: Number(count) }));
}
