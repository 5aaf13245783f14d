import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { HouseFile } from '@mule-tally/core';
import { CHANGE_VERSION, adding } from '@mule-tally/core';
import { LOCAL_CREW } from '../storage/local-crew.js';
import { connect } from '../storage/orm.js';
import { ownDatabase } from '../testing/own-crew.js';
import { HouseStore } from './house-store.js';

jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;

const demo = JSON.parse(
  readFileSync(new URL('../../../demo/lot-12.house.json', import.meta.url), 'utf8'),
) as HouseFile;

describe('Faults that a crew found', () => {
  it('are counted by house and kind, of this crew only', async () => {
    const { serving } = await ownDatabase('faults');
    const orm = await connect(serving);
    const store = new HouseStore(orm);
    const [crewId, me] = [LOCAL_CREW, randomUUID()];
    await store.crew.join(crewId, [{ id: me, name: 'Odile Brun' }]);
    const houses = [];
    for (let nth = 0; nth < 2; nth++) houses.push((await store.import(crewId, demo, me, 'copy')).id);
    expect(await store.faultsFound(crewId)).toEqual([]);
    const find = async (houseId: string, faults: readonly string[]): Promise<void> => {
      const { file } = await store.read({ crewId, houseId });
      await store.applyBatch(
        { crewId, houseId },
        faults.map((fault) => ({
          ok: true as const,
          envelope: {
            change: {
              id: randomUUID(),
              version: CHANGE_VERSION,
              body: adding('records', {
                id: randomUUID(),
                kind: 'found',
                at: '2026-03-11T08:00:00Z',
                by: me,
                circuitId: file.circuits[0]!.id,
                cause: { fault, place: { kind: 'box', id: file.boxes[0]!.id } },
              }),
            },
            actorId: me,
          },
        })),
      );
    };
    await find(houses[0]!, ['missed jumper', 'missed jumper', 'dead device']);
    await find(houses[1]!, ['missed jumper']);
    const found = await store.faultsFound(crewId);
    expect(new Set(found.map(({ houseId, fault, count }) => `${houseId} ${fault} ${count}`))).toEqual(
      new Set([`${houses[0]} dead device 1`, `${houses[0]} missed jumper 2`, `${houses[1]} missed jumper 1`]),
    );
    expect(await store.faultsFound(randomUUID())).toEqual([]);
    await orm.close();
  });
});
