import * as fc from 'fast-check';
import { many, runs as times } from '../testing/seed.js';
import type { CutOptions, CutPlan, InStock, Wanted } from './cut-plan.js';
import { cutPlan } from './cut-plan.js';

const COIL = 250 * 12;
const USEFUL = 8 * 12;
const shop: CutOptions = { coilIn: COIL, usefulIn: USEFUL, order: 'shop' };

/** Every cable is cut once, off something that is there and long enough. */
function holds(plan: CutPlan, wanted: readonly Wanted[], stock: readonly InStock[]): void {
  const cut = plan.cuts.flatMap(({ ids }) => ids);
  expect([...cut, ...plan.tooLong].sort()).toEqual(wanted.map(({ id }) => id).sort());
  const length = new Map(wanted.map(({ id, lengthIn }) => [id, lengthIn]));
  const reels = plan.cuts.flatMap(({ reelId }) => reelId ?? []);
  expect(new Set(reels).size).toBe(reels.length);
  let waste = 0;
  for (const { reelId, lengthIn, ids, leftIn } of plan.cuts) {
    expect(lengthIn).toBe(reelId ? stock.find(({ id }) => id === reelId)!.lengthIn : COIL);
    const sum = ids.reduce((all, id) => all + length.get(id)!, 0);
    expect(leftIn).toBeCloseTo(lengthIn - sum, 6);
    expect(leftIn).toBeGreaterThan(-1e-6);
    if (leftIn < USEFUL) waste += leftIn;
  }
  expect(plan.opened).toBe(plan.cuts.filter(({ reelId }) => !reelId).length);
  expect(plan.wasteIn).toBeCloseTo(waste, 6);
}

/** New coils and waste of the best way to cut in this order with two open, by trying all. */
function exhausted(wanted: readonly Wanted[], stock: readonly InStock[]): readonly [number, number] {
  let best: readonly [number, number] = [Infinity, Infinity];
  const waste = (left: number): number => (left < USEFUL && left > 0 ? left : 0);
  const go = (
    at: number,
    open: readonly number[],
    unused: readonly number[],
    coils: number,
    lost: number,
  ): void => {
    if (coils > best[0]) return;
    if (at === wanted.length) {
      const sum = lost + open.reduce((all, left) => all + waste(left), 0);
      if (coils < best[0] || sum < best[1]) best = [coils, sum];
      return;
    }
    const { lengthIn } = wanted[at]!;
    open.forEach((left, index) => {
      if (left >= lengthIn)
        go(
          at + 1,
          open.map((own, other) => (other === index ? own - lengthIn : own)),
          unused,
          coils,
          lost,
        );
    });
    for (const [index, fresh] of [...unused, COIL].entries()) {
      if (fresh < lengthIn) continue;
      const isCoil = index === unused.length;
      const rest = isCoil ? unused : unused.filter((_, other) => other !== index);
      if (open.length < 2) go(at + 1, [...open, fresh - lengthIn], rest, coils + Number(isCoil), lost);
      else
        open.forEach((away, put) =>
          go(
            at + 1,
            [...open.filter((_, other) => other !== put), fresh - lengthIn],
            rest,
            coils + Number(isCoil),
            lost + waste(away),
          ),
        );
    }
  };
  go(
    0,
    [],
    stock.map(({ lengthIn }) => lengthIn),
    0,
    0,
  );
  return best;
}

const wantedOf = (feet: readonly number[]): Wanted[] =>
  feet.map((length, at) => ({ id: `r${at}`, lengthIn: length * 12 }));
const stockOf = (feet: readonly number[]): InStock[] =>
  feet.map((length, at) => ({ id: `s${at}`, lengthIn: length * 12 }));

describe('The cut plan', () => {
  it('uses up coils and reels that were cut to pieces without a rest, with no other coil opened and no waste over 1 ft', () => {
    let pieces = 0;
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 30, max: 200 }), { maxLength: 3 }),
        fc.integer({ min: 1, max: 4 }),
        fc.array(fc.integer({ min: 6, max: 70 }), { minLength: 60, maxLength: 60 }),
        (stock, coils, sizes) => {
          const feet: number[] = [];
          for (const whole of [...stock, ...Array.from({ length: coils }, () => 250)])
            for (let left = whole; left > 0;) {
              const size = sizes[feet.length % sizes.length]!;
              const own = left - size < 6 ? left : size;
              feet.push(own);
              left -= own;
            }
          const [wanted, reels] = [wantedOf(feet.slice(0, 40)), stockOf(stock)];
          if (feet.length > 40) return;
          pieces += feet.length;
          const plan = cutPlan(wanted, reels, shop);
          holds(plan, wanted, reels);
          expect(plan.opened).toBe(coils);
          expect(plan.wasteIn).toBeLessThanOrEqual(12);
        },
      ),
      { numRuns: times(300) },
    );
    expect(pieces).toBeGreaterThan(many(3000));
  });

  it('cuts as one goes as well as trying every way does, for 12 runs', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 20, max: 180 }), { minLength: 4, maxLength: 12 }),
        fc.array(fc.integer({ min: 10, max: 150 }), { maxLength: 1 }),
        (feet, stock) => {
          const [wanted, reels] = [wantedOf(feet), stockOf(stock)];
          const plan = cutPlan(wanted, reels, { ...shop, order: 'as-we-go' });
          holds(plan, wanted, reels);
          expect([plan.opened, plan.wasteIn]).toEqual([...exhausted(wanted, reels)]);
        },
      ),
      { numRuns: times(60) },
    );
  });

  it('says what is longer than any reel, and takes whatever else it is given', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 400 }), { maxLength: 60 }),
        fc.array(fc.integer({ min: 0, max: 300 }), { maxLength: 4 }),
        fc.constantFrom('shop' as const, 'as-we-go' as const),
        (feet, stock, order) => {
          const [wanted, reels] = [wantedOf(feet), stockOf(stock)];
          const plan = cutPlan(wanted, reels, { ...shop, order });
          holds(plan, wanted, reels);
          const most = Math.max(250, ...stock);
          expect(plan.tooLong).toEqual(
            wanted.filter(({ lengthIn }) => lengthIn > most * 12).map(({ id }) => id),
          );
        },
      ),
      { numRuns: times(100) },
    );
  });
});
