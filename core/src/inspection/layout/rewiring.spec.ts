import '../../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../../changes/apply.js';
import { setting } from '../../changes/change.js';
import { readerOf } from '../../derive/reader.js';
import { draftHouse } from '../../furnish/draft-house.js';
import { houseOf } from '../../house/house-file.js';
import type { House } from '../../house/house.js';
import type { RoomKind } from '../../vocabulary/kinds.js';
import { Plan } from '../../testing/plan.js';
import { randomLayout } from '../../testing/random-layout.js';
import { many, runs } from '../../testing/seed.js';
import { waysThatDoNotHelp } from '../../testing/ways-that-do-not-help.js';
import { inspectHouse } from '../inspect-house.js';

/** Runs of a house as "from → to cable #circuit", by tags. */
function told(house: House): string[] {
  const reader = readerOf(house);
  const tag = (boxId: string): string => reader.get('boxes', boxId)!.tag;
  return reader
    .all('runs')
    .map(
      ({ from, to, plannedCable, circuitIds }) =>
        `${tag(from.boxId)} → ${tag(to.boxId)} ${plannedCable} #${circuitIds.map((id) => reader.get('circuits', id)!.number).join()}`,
    )
    .sort();
}

function after(house: House, code: string): House {
  const finding = inspectHouse(readerOf(house)).find((one) => one.code === code && one.fixes?.length);
  if (!finding) throw new Error(`No way out of ${code}`);
  const taken = applyChange(house, finding.fixes![0]!.change);
  if (!taken.ok) throw new Error(taken.refusal.message);
  expect(inspectHouse(readerOf(taken.document)).filter((one) => one.code === code)).toEqual([]);
  return taken.document;
}

/** A house of rooms that are as large as is said, so that they count as laid out. */
function rooms(kinds: readonly RoomKind[]) {
  const plan = new Plan('Rewired');
  plan.room('Garage', 'garage');
  const panel = plan.box('PANEL', 'panel');
  const ids = kinds.map((kind) => plan.room(kind, kind));
  plan.file.rooms.forEach((room) => Object.assign(room, { lengthIn: 96, widthIn: 80 }));
  const circuit = plan.circuit(1, 'Shared', panel, 20, { protection: 'dual' });
  return { plan, panel, ids, circuit };
}

describe('A circuit of its own, NEC 210.11(C) from memory, by hand', () => {
  it('is run from the panel; what hung on its receptacle hangs on what fed it', () => {
    const { plan, panel, ids, circuit } = rooms(['bedroom', 'laundry']);
    const outlet = (tag: string, from: string, roomId: string): string => {
      const id = plan.fed(tag, from, '12/2', circuit, 'plastic-1g-18', { roomId });
      plan.device(id, 'receptacle');
      return id;
    };
    const one = outlet('R1', panel, ids[0]!);
    const washer = outlet('W', one, ids[1]!);
    outlet('R2', washer, ids[0]!);
    const house = after(houseOf(plan.file), 'layout.own-circuit');
    expect(told(house)).toEqual(['PANEL → R1 12/2 #1', 'PANEL → W 12/2 #2', 'R1 → R2 12/2 #1']);
    const own = readerOf(house)
      .all('circuits')
      .find(({ number }) => number === 2)!;
    // A laundry is protected both ways since 2020, on the other leg of the service than the first breaker where that is free.
    expect([own.breakerAmps, own.protection, own.spaces?.length]).toEqual([20, 'dual', 1]);
  });

  it('is two for the counter of a kitchen, half of it on each', () => {
    const { plan, panel, ids, circuit } = rooms(['bedroom', 'kitchen']);
    let from = plan.fed('R1', panel, '12/2', circuit, 'plastic-1g-18', { roomId: ids[0]! });
    plan.device(from, 'receptacle');
    for (const tag of ['K1', 'K2', 'K3']) {
      const height = { roomId: ids[1]!, heightIn: 44, heightReference: 'centre' } as const;
      from = plan.fed(tag, from, '12/2', circuit, 'plastic-1g-18', height);
      plan.device(from, 'receptacle');
    }
    expect(told(after(houseOf(plan.file), 'layout.own-circuit'))).toEqual([
      'K1 → K2 12/2 #2',
      'PANEL → K1 12/2 #2',
      'PANEL → K3 12/2 #3',
      'PANEL → R1 12/2 #1',
    ]);
  });

  it('is not offered once its cable is in the wall', () => {
    const { plan, panel, ids, circuit } = rooms(['bedroom', 'laundry']);
    const one = plan.fed('R1', panel, '12/2', circuit, 'plastic-1g-18', { roomId: ids[0]! });
    const washer = plan.fed('W', one, '12/2', circuit, 'plastic-1g-18', { roomId: ids[1]! });
    for (const id of [one, washer]) plan.device(id, 'receptacle');
    plan.pull(plan.file.runs.at(-1)!.id, '12/2', 200);
    const found = inspectHouse(readerOf(houseOf(plan.file))).filter(
      ({ code }) => code === 'layout.own-circuit',
    );
    expect(found.map(({ fixes }) => fixes)).toEqual([[]]);
  });
});

describe('A second place to switch the light of stairs from, NEC 210.70(A)(2) from memory, by hand', () => {
  it('has the travelers from the first, and the leg comes from it', () => {
    const { plan, panel, ids, circuit } = rooms(['stairs']);
    const at = { roomId: ids[0]! };
    const box = plan.fed('S1', panel, '12/2', circuit, 'plastic-1g-22.5', at);
    const [lever] = plan.device(box, 'switch', 1, circuit);
    const light = plan.fed('L1', box, '12/2', circuit, 'plastic-round-20', at);
    const [lamp] = plan.device(light, 'luminaire', 1, circuit);
    plan.control('Stairs', [lever!], [lamp!]);
    const house = after(houseOf(plan.file), 'layout.no-light');
    expect(told(house)).toEqual(['PANEL → S1 12/2 #1', 'S1 → S2 12/3 #1', 'S2 → L1 12/2 #1']);
    expect(inspectHouse(readerOf(house)).filter(({ severity }) => severity === 'stop')).toEqual([]);
  });
});

describe('A way out that runs cables anew', () => {
  it('is taken, looked at again, and helped: in drafted houses in which receptacles hang on circuits of other rooms', () => {
    const seen = new Map<string, number>();
    fc.assert(
      fc.property(
        randomLayout,
        fc.array(fc.nat(999), { minLength: 2, maxLength: 8 }),
        ({ file, rules }, picks) => {
          const start = houseOf(file);
          const applied = applyChange(start, {
            kind: 'group',
            changes: [...draftHouse(start, { rules }).changes],
          });
          if (!applied.ok) return;
          let house = applied.document;
          // The panel hangs wherever somebody has put it.
          const panel = readerOf(house)
            .all('boxes')
            .find(({ catalogueId }) => catalogueId === 'panel');
          const room = file.rooms[picks[0]! % file.rooms.length]!;
          const place = { roomId: room.id, corner: `c${picks[0]! % 4}`, alongIn: 8 + (picks[1]! % 40) };
          const hung = panel && applyChange(house, setting('boxes', panel.id, place));
          if (hung?.ok) house = hung.document;
          for (const pick of picks) {
            // The cable to one receptacle comes from another one, of whatever room, and it is on that circuit.
            const reader = readerOf(house);
            const outlets = reader
              .all('devices')
              .filter(({ catalogueId }) => catalogueId === 'receptacle')
              .map(({ boxId }) => boxId);
            const [to, from] = [outlets[pick % outlets.length], outlets[(pick * 7 + 3) % outlets.length]];
            if (!to || !from || to === from) continue;
            const into = reader.all('runs').filter((run) => run.to.boxId === to);
            const onward = reader.all('runs').some((run) => run.from.boxId === to);
            const source = reader.all('runs').find((run) => run.to.boxId === from);
            if (into.length !== 1 || onward || !source) continue;
            const mixed = applyChange(house, {
              kind: 'group',
              changes: [
                setting('runs', into[0]!.id, {
                  from: { boxId: from },
                  circuitIds: source.circuitIds,
                  plannedCable: source.plannedCable ?? null,
                }),
                ...reader
                  .mentioning('devices', to)
                  .flatMap(({ id }) => reader.mentioning('points', id))
                  .map(({ id }) => setting('points', id, { circuitId: null })),
              ],
            });
            if (mixed.ok) house = mixed.document;
          }
          expect(
            waysThatDoNotHelp(
              house,
              (code) => code === 'layout.own-circuit' || code === 'layout.panel',
              seen,
            ),
          ).toEqual([]);
        },
      ),
      { numRuns: runs(60) },
    );
    for (const code of ['own-circuit', 'move-panel', 'move-box'])
      expect(seen.get(code) ?? 0)
        .withContext(code)
        .toBeGreaterThan(many(1));
  });
});
