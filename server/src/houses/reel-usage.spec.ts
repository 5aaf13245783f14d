import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { ChangeBody, HouseFile, ReelUsageLine } from '@mule-tally/core';
import { CHANGE_VERSION, adding, removing, setting } from '@mule-tally/core';
import * as fc from 'fast-check';
import pg from 'pg';
import { LOCAL_CREW } from '../storage/local-crew.js';
import type { Orm } from '../storage/orm.js';
import { connect } from '../storage/orm.js';
import { FILL_USAGE } from '../storage/reel-usage-table.js';
import { ownDatabase } from '../testing/own-crew.js';
import { HouseStore } from './house-store.js';

jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;

const demo = JSON.parse(
  readFileSync(new URL('../../../demo/lot-12.house.json', import.meta.url), 'utf8'),
) as HouseFile;

/** What a house took off each reel, added up from its file anew: shares nothing with the core. */
function evaluated(file: HouseFile): Record<string, unknown> {
  const all: Record<
    string,
    { feet: number; pulls: number; days: Set<string>; marks: Record<string, number[]> }
  > = {};
  for (const pull of file.pulls) {
    if (!pull.reelId) continue;
    const own = (all[pull.reelId] ??= { feet: 0, pulls: 0, days: new Set(), marks: {} });
    const marks = [pull.startMark, pull.endMark].filter((mark) => mark !== undefined);
    own.pulls++;
    if (pull.lengthIn !== undefined) own.feet += pull.lengthIn / 12;
    else if (marks.length === 2) own.feet += Math.abs(marks[0]! - marks[1]!);
    own.days.add(`${pull.at.slice(0, 10)} ${pull.by}`);
    (own.marks[pull.segmentId ?? pull.id] ??= []).push(...marks);
  }
  return Object.fromEntries(
    Object.entries(all).map(([id, { feet, pulls, days, marks }]) => [
      id,
      {
        feet: Math.round(feet * 100),
        pulls,
        days: [...days].sort(),
        marks: Object.values(marks)
          .map((own) => [...own].sort((a, b) => a - b))
          .filter((own) => own.length > 1 && own[0] !== own.at(-1))
          .map((own) => `${own[0]}-${own.at(-1)}`)
          .sort(),
      },
    ]),
  );
}

const told = (lines: readonly ReelUsageLine[], houseId: string): Record<string, unknown> =>
  Object.fromEntries(
    lines
      .filter((line) => line.houseId === houseId)
      .map(({ reel, usage }) => [
        reel.id,
        {
          feet: Math.round((usage.usedIn / 12) * 100),
          pulls: usage.pulls,
          days: usage.days.flatMap(({ day, by }) => by.map((who) => `${day} ${who}`)).sort(),
          marks: usage.stretches.map(({ from, to }) => `${from}-${to}`).sort(),
        },
      ]),
  );

describe('Use of reels', () => {
  let owner: string;
  let orms: Orm[];
  let servers: HouseStore[];
  const me = randomUUID();
  const crewId = LOCAL_CREW;
  beforeAll(async () => {
    const { owner: ownerUrl, serving } = await ownDatabase('reels');
    owner = ownerUrl;
    orms = [await connect(serving), await connect(serving)];
    servers = orms.map((orm) => new HouseStore(orm));
    await servers[0]!.crew.join(crewId, [{ id: me, name: 'Odile Brun' }]);
  });
  afterAll(() => Promise.all(orms.map((orm) => orm.close())));

  const send = (which: number, houseId: string, bodies: readonly ChangeBody[]) =>
    servers[which % 2]!.applyBatch(
      { crewId, houseId },
      bodies.map((body) => {
        const change = { id: randomUUID(), version: CHANGE_VERSION, body } as const;
        return { ok: true as const, envelope: { change, actorId: me } };
      }),
    );

  it('is written with the pull, over all houses, whatever is logged, changed, undone or taken in', async () => {
    const houseIds = await Promise.all(
      [0, 1].map(async () => (await servers[0]!.import(crewId, demo, me, 'copy')).id),
    );
    const shared = [0, 1, 2].map((at) => ({
      ...{ id: randomUUID(), name: `Reel ${at}`, kind: 'reel' as const, cable: '14/2' as const },
      lengthIn: 12_000,
    }));
    for (const houseId of houseIds)
      await send(
        0,
        houseId,
        shared.map((reel) => adding('reels', reel)),
      );
    const pulls: Record<string, string[]> = {};
    const random = (next: (below: number) => number, file: HouseFile): ChangeBody => {
      const own = (pulls[file.id] ??= []);
      const picked = own[next(own.length || 1)] ?? file.pulls[next(file.pulls.length)]!.id;
      const reelId = shared[next(3)]!.id;
      const mark = (): number => next(400) / 2;
      switch (next(7)) {
        case 0:
          return removing('pulls', picked);
        case 1:
          return setting('pulls', picked, { reelId: next(3) ? reelId : null, state: 'scrapped' });
        case 2:
          return setting('pulls', picked, { lengthIn: next(600), segmentId: file.id });
        case 3:
          return { kind: 'group', title: 'x', changes: [setting('pulls', picked, { endMark: mark() })] };
        default: {
          const id = randomUUID();
          own.push(id);
          return adding('pulls', {
            ...{ id, runId: file.runs[next(file.runs.length)]!.id, cable: '14/2', reelId, state: 'in' },
            ...{ at: `2026-11-0${1 + next(9)}T0${next(9)}:00:00Z`, by: next(2) ? me : file.pulls[0]!.by },
            ...(next(2) ? { startMark: mark(), endMark: mark() } : next(2) ? { lengthIn: next(500) } : {}),
          });
        }
      }
    };
    const check = async (): Promise<void> => {
      const lines = await servers[1]!.reelUsage(crewId);
      for (const houseId of houseIds) {
        const { file } = await servers[0]!.read({ crewId, houseId });
        expect(told(lines, houseId)).toEqual(evaluated(file));
      }
    };
    await check();
    await fc.assert(
      fc.asyncProperty(fc.infiniteStream(fc.nat(10_000)), async (stream) => {
        const next = (below: number): number => stream.next().value! % below;
        const houseId = houseIds[next(2)]!;
        const { file } = await servers[0]!.read({ crewId, houseId });
        const bodies = Array.from({ length: 1 + next(4) }, () => random(next, file));
        const { answers } = await send(next(2), houseId, bodies);
        const applied = answers.filter(({ status }) => status === 'applied');
        if (applied.length && next(3) === 0)
          await send(next(2), houseId, [{ kind: 'revert', of: applied.at(-1)!.id }]);
        await check();
      }),
      { numRuns: 60, seed: 20_261_128 },
    );
    // A reel that is taken off the house is used by nothing there any more; a house in the place of another brings its own.
    await send(0, houseIds[0]!, [removing('reels', shared[0]!.id)]);
    await check();
    const { file } = await servers[0]!.read({ crewId, houseId: houseIds[1]! });
    await servers[1]!.import(crewId, { ...file, pulls: file.pulls.slice(0, 9) }, me, 'replace');
    await check();

    // A database from before there was this table comes to the same.
    const client = new pg.Client({ connectionString: owner });
    await client.connect();
    const { rowCount } = await client.query('delete from reel_usage');
    expect(rowCount).toBeGreaterThan(5);
    await client.query(FILL_USAGE);
    await client.end();
    await check();
  });
});
