import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import { houseOf, readHouseFile } from '../house/house-file.js';
import { cutOf } from '../routing/cut.js';
import { randomHouse } from '../testing/random-house.js';
import { runs } from '../testing/seed.js';
import demo from '../../../demo/lot-12.house.json' with { type: 'json' };
import type { PieceLine, TakeOff } from './take-off.js';
import { takeOff, toBuy, together } from './take-off.js';

const countOf = ({ pieces }: TakeOff, kind: PieceLine['kind']): number =>
  pieces.filter((line) => line.kind === kind).reduce((sum, { count }) => sum + count, 0);

describe('The take-off', () => {
  const read = readHouseFile(demo);
  if (!read.ok) throw new Error('the demo is broken');

  it('counts everything of a house once: its rooms together are the house, but for the breakers', () => {
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const reader = readerOf(houseOf(plan.file));
        const whole = takeOff(reader);
        const rooms = together(plan.file.rooms.map(({ id }) => takeOff(reader, id)));
        for (const kind of ['box', 'marked-box', 'ring', 'device'] as const)
          expect(countOf(rooms, kind)).toBe(countOf(whole, kind));
        expect(rooms.openings).toBe(whole.openings);
        expect(rooms.cables.map(({ cable, runs: of }) => [cable, of]).sort()).toEqual(
          whole.cables.map(({ cable, runs: of }) => [cable, of]).sort(),
        );
        // Rounded up to whole feet, and to whole spares, room by room.
        const feet = (of: TakeOff): number => of.cables.reduce((sum, { netFt }) => sum + netFt, 0);
        expect(feet(rooms)).toBeGreaterThanOrEqual(feet(whole));
        expect(feet(rooms)).toBeLessThanOrEqual(feet(whole) + plan.file.rooms.length * whole.cables.length);
        // Two circuits of one size and guard that share a neutral have one breaker.
        const { circuits } = plan.file;
        const kindOf = ({ panelId, neutralGroup, breakerAmps, protection, poles }: (typeof circuits)[0]) =>
          `${panelId} ${neutralGroup} ${breakerAmps} ${protection} ${poles}`;
        const pairs = circuits.filter(
          (circuit) =>
            circuit.neutralGroup &&
            circuits.filter((one) => kindOf(one) === kindOf(circuit)).length === 2 &&
            circuits.filter((one) => one.neutralGroup === circuit.neutralGroup).length === 2,
        );
        expect([countOf(whole, 'breaker'), countOf(rooms, 'breaker')]).toEqual([
          circuits.length - pairs.length / 2,
          0,
        ]);
      }),
      { numRuns: runs(60) },
    );
  });

  it('has of cable what its runs are cut to, and more by habit and waste; what is in stock need not be bought', () => {
    const { file } = read;
    const take = (percent: number): TakeOff => {
      const reader = readerOf(
        houseOf({
          ...file,
          rulebook: { ...file.rulebook, overrides: { 'cut.habit': { value: percent } } },
        }),
      );
      return takeOff(reader);
    };
    const plain = take(100);
    const reader = readerOf(read.house);
    for (const { cable, netFt, habitFt, wasteFt } of plain.cables) {
      const inches = file.runs
        .filter(({ plannedCable }) => plannedCable === cable)
        .reduce((sum, { id }) => sum + cutOf(reader, { id }).lengthIn, 0);
      if (file.runs.every(({ kind, plannedCable }) => kind !== 'cable' || plannedCable))
        expect(netFt).toBe(Math.ceil(inches / 12));
      expect([habitFt, wasteFt]).toEqual([netFt, Math.ceil(netFt * 1.05)]);
    }
    const usual = plain.cables.find(({ cable }) => cable === '14/2')!;
    const rest = file.runs.filter(
      ({ id, plannedCable }) =>
        plannedCable === usual.cable &&
        !file.pulls.some(({ runId, state }) => runId === id && state === 'in'),
    );
    const inches = rest.reduce((sum, { id }) => sum + cutOf(reader, { id }).lengthIn, 0);
    expect(usual.leftFt).toBe(Math.ceil((inches / 12) * 1.05));
    const more = take(120).cables.find(({ cable }) => cable === '14/2')!;
    expect(more.habitFt / usual.habitFt).toBeGreaterThan(1.17);
    expect(more.habitFt / usual.habitFt).toBeLessThan(1.23);
    const [line] = toBuy(plain, new Map([[usual.cable, usual.leftFt - 251]]), 250).filter(
      ({ cable }) => cable === usual.cable,
    );
    expect(line).toEqual({ cable: '14/2', needFt: usual.leftFt, stockFt: usual.leftFt - 251, coils: 2 });
    expect(
      toBuy(plain, new Map(), 250).every(({ coils, needFt }) => coils === Math.ceil(needFt / 250)),
    ).toBeTrue();
  });
});
