import loadHighs from 'highs';
import type { InStock, Wanted } from '../core/src/reels/cut-plan.js';
import { cutPlan } from '../core/src/reels/cut-plan.js';

/**
 * The cut plan against HiGHS, a solver of mixed integer programs, with a model of its own: x is whether a run is cut off a bin, y
 * whether a bin is used, z whether what is left of it is long enough to be kept, w what is wasted of it.
 */
const COIL = 250;
const USEFUL = 8;
const BIG = 10_000;

/** Numbers that are the same every time (a linear congruential generator, from memory). */
function numbers(seed: number): (least: number, most: number) => number {
  let state = seed;
  return (least, most) => {
    state = (state * 1103515245 + 12345) % 2147483648;
    return least + Math.floor((state / 2147483648) * (most - least + 1));
  };
}

type Highs = Awaited<ReturnType<typeof loadHighs>>;

/** Fewest new coils and then least waste, in feet; `coils` at most. */
function solved(
  highs: Highs,
  runs: readonly number[],
  stock: readonly number[],
  coils: number,
  withWaste: boolean,
): readonly [coils: number, waste: number] | undefined {
  const bins = [...stock, ...Array.from({ length: coils }, () => COIL)];
  const x = (run: number, bin: number): string => `x${run}_${bin}`;
  const lines: string[] = [];
  runs.forEach((_, run) => lines.push(`${bins.map((__, bin) => x(run, bin)).join(' + ')} = 1`));
  bins.forEach((has, bin) => {
    const sum = runs.map((length, run) => `${length} ${x(run, bin)}`).join(' + ');
    lines.push(`${sum} - ${has} y${bin} <= 0`);
    if (!withWaste) return;
    // What is left is long enough to be kept, or it is wasted.
    lines.push(`${sum} - ${has} y${bin} + ${USEFUL} z${bin} <= 0`);
    lines.push(`w${bin} + ${sum} - ${has} y${bin} + ${has} z${bin} >= 0`);
  });
  for (let bin = stock.length + 1; bin < bins.length; bin++) lines.push(`y${bin - 1} - y${bin} >= 0`);
  const cost = [
    ...bins.flatMap((_, bin) => (bin >= stock.length ? [`${BIG} y${bin}`] : [])),
    ...(withWaste ? bins.map((_, bin) => `w${bin}`) : []),
  ];
  const whole = [
    ...runs.flatMap((_, run) => bins.map((__, bin) => x(run, bin))),
    ...bins.flatMap((_, bin) => [`y${bin}`, ...(withWaste ? [`z${bin}`] : [])]),
  ];
  const text = [
    'Minimize',
    ` obj: ${cost.join(' + ') || '0 y0'}`,
    'Subject To',
    ...lines.map((line, at) => ` c${at}: ${line}`),
    'Binary',
    ...whole.map((name) => ` ${name}`),
    'End',
  ].join('\n');
  const answer = highs.solve(text, { time_limit: 30, mip_rel_gap: 0 });
  if (answer.Status === 'Infeasible') return undefined;
  if (answer.Status !== 'Optimal') throw new Error(`not solved: ${answer.Status}`);
  const opened = Math.round(answer.ObjectiveValue / BIG);
  return [opened, answer.ObjectiveValue - opened * BIG];
}

describe('The cut plan, against a solver', () => {
  let highs: Highs;
  beforeAll(async () => {
    highs = await loadHighs();
  });
  const instance = (seed: number, most: number) => {
    const number = numbers(seed);
    // Every fourth is of long runs, of which some do not go together on any coil.
    const isLong = seed % 4 === 0;
    const runs = Array.from({ length: number(4, isLong ? Math.min(most, 16) : most) }, () =>
      isLong ? number(70, 190) : number(6, number(0, 2) ? 60 : 120),
    );
    const stock = Array.from({ length: number(0, 3) }, () => number(5, 160));
    const wanted = runs.map((feet, at): Wanted => ({ id: `r${at}`, lengthIn: feet * 12 }));
    const reels = stock.map((feet, at): InStock => ({ id: `s${at}`, lengthIn: feet * 12 }));
    const plan = cutPlan(wanted, reels, { coilIn: COIL * 12, usefulIn: USEFUL * 12, order: 'shop' });
    return { runs, stock, plan };
  };

  it('opens as few coils, on 300 instances of up to 40 runs', () => {
    let asked = 0;
    for (let seed = 1; seed <= 300; seed++) {
      const { runs, stock, plan } = instance(seed, 40);
      const sum = (feet: readonly number[]): number => feet.reduce((all, one) => all + one, 0);
      // What stock and one coil fewer do not hold together cannot be cut off them: no solver is needed for that.
      if (plan.opened === 0 || sum(runs) > sum(stock) + (plan.opened - 1) * COIL) continue;
      asked++;
      expect(solved(highs, runs, stock, plan.opened - 1, false))
        .withContext(`seed ${seed}`)
        .toBeUndefined();
    }
    expect(asked).toBeGreaterThan(3);
  });

  it('wastes no more than 1 ft or 1 % of what is cut over the least there can be', () => {
    const waste = { ours: 0, least: 0 };
    for (let seed = 1001; seed <= 1040; seed++) {
      const { runs, stock, plan } = instance(seed, 11);
      const [opened, least] = solved(highs, runs, stock, plan.opened, true)!;
      expect(plan.opened).withContext(`seed ${seed}`).toBe(opened);
      const feet = runs.reduce((all, one) => all + one, 0);
      expect(plan.wasteIn / 12)
        .withContext(`seed ${seed}`)
        .toBeLessThanOrEqual(least + Math.max(1, feet / 100) + 1e-6);
      waste.ours += plan.wasteIn / 12;
      waste.least += least;
    }
    expect(waste.ours).toBeLessThanOrEqual(waste.least * 1.2 + 4);
  });
});
