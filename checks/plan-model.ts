import { createHash } from 'node:crypto';
import type loadHighs from 'highs';
import { readerOf } from '../core/src/derive/reader.js';
import { houseOf } from '../core/src/house/house-file.js';
import { cutBetween } from '../core/src/routing/cut.js';
import type { CircuitToPlan } from '../core/src/testing/circuit-to-plan.js';

/**
 * A mixed integer program of its own for planning the pulls of one circuit: a tree from the panel, a flow for each signal, the order
 * of two places, the size of each cable, box fill with the next larger box. It shares nothing with the planner but the lengths between
 * boxes. Trade values by themselves: 2 in³ for a 14 AWG conductor (NEC Table
 * 314.16(B)), two of them for a device and one for all grounds (314.16(B), 2017), from memory; cable is made with two, three and four
 * insulated conductors.
 */
const CONDUCTOR_IN3 = 2;
const SIZES = [2, 3, 4] as const;
/** In money: a foot of one conductor, a run (two minutes at sixty an hour), the next larger box. */
const FOOT = 0.2;
const RUN = 2;
const LARGER = 4;
/** The largest plastic boxes that are commonly stocked, in³: of four gangs, and round. */
const LARGEST = { device: 72, round: 24 } as const;

export interface Model {
  readonly text: string;
  readonly hash: string;
}

/** What has to arrive at a node: a number, and so many times a variable. */
interface Wanted {
  readonly count: number;
  readonly times?: number;
  readonly of?: string;
}

/** The program as text, in the format of LP files. */
export function modelOf(task: CircuitToPlan): Model {
  const reader = readerOf(houseOf(task.file));
  const all = [...task.nodes.keys()];
  const boxes = all.slice(1);
  const pairs = all.flatMap((a) => all.slice(a + 1).map((b) => [a, b] as const));
  const arcs = pairs.flatMap(([a, b]) => [
    { a, b, from: a, to: b },
    { a, b, from: b, to: a },
  ]);
  const lines: string[] = [];
  const cost: string[] = [];
  const binary = new Set<string>();
  const fed = (a: number, b: number): string => {
    binary.add(`y${a}_${b}`);
    return `y${a}_${b}`;
  };
  const cable = (a: number, b: number, k: number): string => {
    binary.add(`z${a}_${b}_${k}`);
    return `z${a}_${b}_${k}`;
  };
  const sum = (names: readonly string[]): string => names.join(' + ');

  /** What goes over arcs so that what is wanted arrives; the root gives whatever is taken. `most` over an arc where `carrier` is. */
  const flow = (
    name: string,
    wanted: ReadonlyMap<number, Wanted>,
    most: number,
    carrier: (arc: (typeof arcs)[number]) => string,
    root?: number,
  ): void => {
    const f = (from: number, to: number): string => `f${name}_${from}_${to}`;
    for (const node of all) {
      if (node === root) continue;
      const others = all.filter((other) => other !== node);
      const { count = 0, times = 0, of } = wanted.get(node) ?? {};
      const variable = of ? ` ${times > 0 ? '-' : '+'} ${Math.abs(times)} ${of}` : '';
      lines.push(
        `${sum(others.map((other) => f(other, node)))} - ${others.map((other) => f(node, other)).join(' - ')}${variable} = ${count}`,
      );
    }
    for (const arc of arcs) lines.push(`${f(arc.from, arc.to)} - ${most} ${carrier(arc)} <= 0`);
  };
  /** A signal of so many conductors: it is only where there is a cable. */
  const signals: { readonly name: string; readonly conductors: number }[] = [];
  const signal = (name: string, conductors: number): ((arc: { a: number; b: number }) => string) => {
    const on = ({ a, b }: { a: number; b: number }): string => `s${name}_${a}_${b}`;
    signals.push({ name, conductors });
    for (const [a, b] of pairs) {
      binary.add(on({ a, b }));
      lines.push(`${on({ a, b })} - ${fed(a, b)} - ${fed(b, a)} <= 0`);
    }
    return on;
  };

  // A tree that grows from the panel: every box is fed once, and all hang on it.
  for (const node of boxes)
    lines.push(`${sum(all.filter((other) => other !== node).map((other) => fed(other, node)))} = 1`);
  for (const node of boxes) lines.push(`${fed(node, 0)} = 0`);
  flow(
    't',
    new Map(boxes.map((node) => [node, { count: 1 }])),
    boxes.length,
    ({ from, to }) => fed(from, to),
    0,
  );
  // One cable of one size where there is one.
  for (const [a, b] of pairs) {
    lines.push(`${sum(SIZES.map((k) => cable(a, b, k)))} - ${fed(a, b)} - ${fed(b, a)} = 0`);
    const feet = (k: number): number =>
      cutBetween(reader, task.nodes[a]!, task.nodes[b]!, `14/${k}`).lengthIn / 12;
    for (const k of SIZES) cost.push(`${(RUN + FOOT * k * feet(k)).toFixed(6)} ${cable(a, b, k)}`);
  }

  const neutral = signal('n', 1);
  flow('n', new Map(task.neutrals.map((node) => [node, { count: 1 }])), all.length, neutral, 0);
  const hot = signal('h', 1);
  const single = task.controls.flatMap(({ places }) => (places.length === 1 ? places : []));
  flow('h', new Map([...task.hots, ...single].map((node) => [node, { count: 1 }])), all.length, hot, 0);
  task.controls.forEach(({ places: [one, two], loads }, c) => {
    const leg = signal(`l${c}`, 1);
    const many = loads.length;
    const wanted = new Map<number, Wanted>(loads.map((node) => [node, { count: 1 }]));
    if (two === undefined) wanted.set(one!, { count: -many });
    else {
      // o = 1: the first of the two stands first, has the hot, and the leg goes out from the second.
      const first = `o${c}`;
      binary.add(first);
      flow(
        `h${c}`,
        new Map<number, Wanted>([
          [one!, { count: 0, times: 1, of: first }],
          [two, { count: 1, times: -1, of: first }],
        ]),
        1,
        hot,
        0,
      );
      const travelers = signal(`v${c}`, 2);
      flow(
        `v${c}`,
        new Map<number, Wanted>([
          [one!, { count: -1 }],
          [two, { count: 1 }],
        ]),
        1,
        travelers,
      );
      wanted.set(one!, { count: -many, times: many, of: first });
      wanted.set(two, { count: 0, times: -many, of: first });
    }
    flow(`l${c}`, wanted, many, leg);
  });

  // No cable has fewer conductors than it needs.
  for (const [a, b] of pairs) {
    const needs = signals.map(({ name, conductors }) => `- ${conductors} s${name}_${a}_${b}`).join(' ');
    lines.push(`${sum(SIZES.map((k) => `${k} ${cable(a, b, k)}`))} ${needs} >= 0`);
  }
  // What enters fits, or it does in a larger box.
  for (const node of boxes) {
    const entering = pairs
      .filter((pair) => pair.includes(node))
      .flatMap(([a, b]) => SIZES.map((k) => `${k * CONDUCTOR_IN3} ${cable(a, b, k)}`));
    const [volume, yokes] = [task.volumes[node]!, task.yokes[node]!];
    const largest = yokes ? LARGEST.device : LARGEST.round;
    binary.add(`u${node}`);
    lines.push(
      `${sum(entering)} - ${largest - volume} u${node} <= ${volume - (1 + 2 * yokes) * CONDUCTOR_IN3}`,
    );
    cost.push(`${LARGER} u${node}`);
  }
  const text = [
    'Minimize',
    ` obj: ${cost.join(' + ')}`,
    'Subject To',
    ...lines.map((line, at) => ` c${at}: ${line}`),
    'Binary',
    ...[...binary].map((name) => ` ${name}`),
    'End',
  ].join('\n');
  return { text, hash: createHash('sha256').update(text).digest('hex').slice(0, 16) };
}

type Highs = Awaited<ReturnType<typeof loadHighs>>;

/** What the best plan costs, proven to a hundredth of a percent; undefined where none is possible. */
export function solvedBy(highs: Highs, { text }: Model): number | undefined {
  const found = highs.solve(text, { mip_rel_gap: 1e-4 });
  return found.Status === 'Optimal' ? found.ObjectiveValue : undefined;
}
