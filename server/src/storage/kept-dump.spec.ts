import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { HouseFile } from '@mule-tally/core';
import { HouseDiff, applyDiff, houseOf, readHouseFile, upgradeDiff, writeHouseFile } from '@mule-tally/core';
import pg from 'pg';
import { HouseStore, houseKey } from '../houses/house-store.js';
import { OWNER_URL, SERVING_URL } from '../testing/database.js';
import { LOCAL_CREW } from './local-crew.js';
import type { Orm } from './orm.js';
import { migrate } from './migrate.js';
import { connect } from './orm.js';

jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;

type Version = 1 | 2;
const kept = (version: Version, name: string): string =>
  readFileSync(new URL(`../../../checks/kept/version-${version}/${name}`, import.meta.url), 'utf8');
const upgraded = (version: Version, name: string): HouseFile => {
  const read = readHouseFile(kept(version, name));
  if (!read.ok) throw new Error(read.problems[0]!.message);
  return read.file;
};

for (const version of [1, 2] as const)
  describe(`A database of version ${version}, as it was dumped`, () => {
    const url = new URL(OWNER_URL);
    const serving = new URL(SERVING_URL);
    let orm: Orm;
    beforeAll(async () => {
      const admin = new pg.Client({ connectionString: url.href });
      await admin.connect();
      await admin.query(`create database version_${version}`);
      await admin.end();
      url.pathname = `/version_${version}`;
      const client = new pg.Client({ connectionString: url.href });
      await client.connect();
      await client.query(kept(version, 'database.sql'));
      await client.end();
      serving.pathname = url.pathname;
      await migrate(url.href, serving.href);
      await migrate(url.href, serving.href);
      orm = await connect(serving.href);
    });
    afterAll(() => orm.close());

    it('holds the same house, its people and its journal, which can be read, replayed and undone', async () => {
      const houses = new HouseStore(orm, randomUUID);
      const end = upgraded(version, 'end.json');
      const key = { crewId: LOCAL_CREW, houseId: end.id };
      const { file, seq } = await houses.read(key);
      const byName = (people: HouseFile['people']) => [...people].sort((a, b) => (a.name < b.name ? -1 : 1));
      expect({ ...file, people: byName(file.people) }).toEqual({ ...end, people: byName(end.people) });

      const { entries } = await houses.journal(houseKey(key), { after: 0, limit: 500 });
      expect(entries.length).toBe(seq);
      const people = new Set((await houses.crew.people(LOCAL_CREW)).map(({ id }) => id));
      expect(
        entries.every(({ actorId, change }) => people.has(actorId) && change?.['version'] === 3),
      ).toBeTrue();
      const replayed = entries.reduce(
        (house, { diff }) => applyDiff(house, HouseDiff.parse(diff)),
        houseOf(upgraded(version, 'house.json')),
      );
      expect(writeHouseFile(replayed)).toEqual({ ...end, people: [] });
      const stored = JSON.parse(kept(version, 'journal.json')) as { diff: unknown }[];
      expect(entries.map(({ diff }) => diff)).toEqual(
        stored.map(({ diff }) => upgradeDiff(diff, version) as HouseDiff),
      );

      // The last thing done by the old version is undone by the new one, by somebody of its list.
      const last = entries.at(-1)!;
      const [answer] = (
        await houses.applyBatch(key, [
          {
            ok: true,
            envelope: {
              change: { id: randomUUID(), version: 3, body: { kind: 'revert', of: last.changeId } },
              actorId: last.actorId,
            },
          },
        ])
      ).answers;
      expect(answer!.status).toBe('applied');
      const many = ({ rooms, openings }: HouseFile): number => rooms.length + openings.length;
      expect(many((await houses.read(key)).file)).toBe(many(end) + 1);
      // What the process remembers is what the rows say.
      const fresh = await new HouseStore(orm, randomUUID).read(key);
      expect(fresh.file).toEqual((await houses.read(key)).file);
    });
  });
