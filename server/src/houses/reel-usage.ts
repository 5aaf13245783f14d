import type { House, HouseDiff, Pull, ReelUsageLine } from '@mule-tally/core';
import { LIMITS, Reel, recordOf, recordsMentioning, reelUsageOf, rowsOf } from '@mule-tally/core';
import type { Sql } from '../storage/sql.js';
import type { HouseKey } from './house-key.js';

/** Reels that a change took from, gave back to, or let another pull come off. */
function reelsIn(house: House, { rows }: HouseDiff): ReadonlySet<string> {
  const ids = new Set<string>();
  const add = (id: unknown): void => {
    if (typeof id === 'string') ids.add(id);
  };
  for (const { table, id, added, removed, changed } of rows) {
    if (table !== 'pulls') continue;
    for (const side of [added, removed]) add(side?.record['reelId']);
    add(changed?.['reelId']?.from);
    add(recordOf(house, 'pulls', id)?.reelId);
  }
  return ids;
}

async function write(
  sql: Sql,
  { crewId, houseId }: HouseKey,
  byReel: ReadonlyMap<string, readonly Pull[]>,
): Promise<void> {
  for (const [reelId, pulls] of byReel) {
    const { usedIn, pulls: count, days, stretches } = reelUsageOf(pulls);
    if (count === 0)
      await sql.all('delete from reel_usage where crew_id = ? and house_id = ? and reel_id = ?', [
        crewId,
        houseId,
        reelId,
      ]);
    else
      await sql.all(
        `insert into reel_usage (crew_id, house_id, reel_id, used_in, pulls, days, stretches)
         values (?, ?, ?, ?, ?, ?::jsonb, ?::jsonb)
         on conflict (crew_id, house_id, reel_id) do update set used_in = excluded.used_in, pulls = excluded.pulls,
           days = excluded.days, stretches = excluded.stretches`,
        [crewId, houseId, reelId, usedIn, count, JSON.stringify(days), JSON.stringify(stretches)],
      );
  }
}

/** Writes what a house takes off its reels by now, of those that a change is about, in the transaction of the change. */
export async function writeUsage(sql: Sql, key: HouseKey, house: House, diff: HouseDiff): Promise<void> {
  const ids = [...reelsIn(house, diff)].sort();
  const of = (id: string): Pull[] =>
    recordsMentioning(house, 'pulls', id).filter(({ reelId }) => reelId === id);
  await write(sql, key, new Map(ids.map((id) => [id, of(id)])));
}

/** The same for a house that has just come. */
export async function writeAllUsage(sql: Sql, key: HouseKey, house: House): Promise<void> {
  const byReel = new Map<string, Pull[]>();
  for (const { record } of rowsOf(house, 'pulls'))
    if (record.reelId) byReel.set(record.reelId, [...(byReel.get(record.reelId) ?? []), record]);
  await write(sql, key, byReel);
}

/**
 * What the houses of a crew took off its reels: all that was taken off what is in stock, and what else the houses changed last took
 * from.
 */
export async function usageOf(sql: Sql, crewId: string): Promise<ReelUsageLine[]> {
  const rows = await sql.all<Record<string, unknown>>(
    `select u.house_id, h.name as house_name, u.reel_id, u.used_in, u.pulls, u.days, u.stretches,
       r.name, r.kind, r.cable, r.length_in, r.place
     from reel_usage u
       join house h on h.crew_id = u.crew_id and h.id = u.house_id
       join reels r on r.crew_id = u.crew_id and r.house_id = u.house_id and r.id = u.reel_id
       left join stock s on s.crew_id = u.crew_id and s.id = u.reel_id
     where u.crew_id = ?
     order by (s.id is null), h.changed_at desc, u.house_id, u.reel_id limit ${LIMITS.page}`,
    [crewId],
  );
  return rows.map((row) => ({
    houseId: String(row['house_id']),
    houseName: String(row['house_name']),
    reel: Reel.parse({
      id: row['reel_id'],
      name: row['name'],
      kind: row['kind'],
      cable: row['cable'],
      lengthIn: row['length_in'],
      ...(row['place'] !== null && { place: row['place'] }),
    }),
    usage: {
      usedIn: Number(row['used_in']),
      pulls: Number(row['pulls']),
      days: row['days'] as ReelUsageLine['usage']['days'],
      stretches: row['stretches'] as ReelUsageLine['usage']['stretches'],
    },
  }));
}
