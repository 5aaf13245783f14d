import { printOf } from '../structures/print.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import { devicesIn } from '../facts/box-facts.js';
import { boxJoints, soundJoints } from '../wiring/joints/box-joints.js';
import type { JointsByBox } from '../wiring/netlist/netlist.js';
import { ringOf } from '../wiring/circuit/ring.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import type { WireEnd } from './bare-nets.js';
import { BareNets, boxesOfRuns, jointsOfBoxes } from './bare-nets.js';

/**
 * One step of ringing a circuit out dead (common practice): its home run not landed, no device in, light points open. `apart`: any
 * two of these read open. `joined`: two conductors are joined at the far end for the time; where the meter is, the same two ring.
 */
/**
 * Of `ends`: the two ends of one core of a ring ring with each other at the panel. Of `polarity`: line and ground are joined at the panel
 * and read at an accessory (R1 + R2).
 */
export interface RingStep {
  /** By what it is known again: a print. */
  readonly key: string;
  /** The boxes through which what it reads goes. */
  readonly boxIds: readonly string[];
  /** The conductors through which it goes: `<run> <conductor>`. */
  readonly wires: ReadonlySet<string>;
  readonly kind: 'apart' | 'joined' | 'ends' | 'polarity';
  readonly boxId: string;
  readonly ends: readonly WireEnd[];
  /** Of `apart`: what other circuits have in that box; each of the first against each of these reads open too. */
  readonly strangers?: readonly WireEnd[];
  readonly join?: { readonly boxId: string; readonly ends: readonly [WireEnd, WireEnd] };
  /** What the step is the first to prove whole, at its far end. */
  readonly proves: readonly WireEnd[];
}

/** What was read that is not as it is to be: a pair that rings, or one that does not. */
export interface RingReading {
  readonly isGood: boolean;
  readonly pair?: readonly [WireEnd, WireEnd];
}

export interface RingOut {
  readonly circuitIds: readonly string[];
  readonly steps: readonly RingStep[];
  /** Of the circuit: boxes in the order in which they lie from the panel. */
  readonly boxIds: readonly string[];
}

/** Which conductor of a pair is named first: what is to be proven before what it is proven against. */
const RANK: Readonly<Record<string, number>> = {
  hot: 0,
  leg: 1,
  traveler: 2,
  interconnect: 3,
  spare: 4,
  undecided: 5,
  neutral: 6,
  ground: 7,
};
const rankOf = ({ role }: WireEnd): number => RANK[role] ?? 5;

const nameOf = ({ runId, key }: WireEnd): string => `${runId}.${key}`;

/** What a step reads in a house whose joints are these. */
export function readStep(nets: BareNets, { kind, ends, join, strangers = [] }: RingStep): RingReading {
  if (kind === 'ends') {
    const pair = [ends[0]!, ends[1]!] as const;
    return nets.rings(pair) ? { isGood: true } : { isGood: false, pair };
  }
  if (kind === 'joined' || kind === 'polarity') {
    const pair = [ends[0]!, ends[1]!] as const;
    return nets.rings(pair, join!.ends) && !nets.rings(pair) ? { isGood: true } : { isGood: false, pair };
  }
  for (const [at, a] of ends.entries())
    for (const b of [...ends.slice(at + 1), ...strangers])
      if (nets.rings([a, b])) return { isGood: false, pair: [a, b] };
  return { isGood: true };
}

/** The steps for conductors as they are to be joined: `order` has the boxes from the panel on, `own` the runs of the circuit. */
export function ringSteps(nets: BareNets, order: readonly string[], own: ReadonlySet<string>): RingStep[] {
  const place = new Map(order.map((boxId, at) => [boxId, at]));
  /** Where the conductors of the circuit end, by net, from the panel on. */
  const byNet = new Map<number, WireEnd[]>();
  /** By box and net a conductor that stands for the net there: of the circuit, or of another one. */
  const inBox = new Map<string, Map<number, WireEnd>>();
  const foreign = new Map<string, Map<number, WireEnd>>();
  const atBox = new Map<string, WireEnd[]>();
  const sorted = nets.ends
    .filter(({ boxId }) => place.has(boxId))
    .sort((a, b) => place.get(a.boxId)! - place.get(b.boxId)!);
  for (const end of sorted) {
    const net = nets.net(end)!;
    const isOwn = own.has(end.runId);
    if (isOwn) {
      byNet.set(net, [...(byNet.get(net) ?? []), end]);
      atBox.set(end.boxId, [...(atBox.get(end.boxId) ?? []), end]);
    }
    const boxes = isOwn ? inBox : foreign;
    let here = boxes.get(end.boxId);
    if (!here) boxes.set(end.boxId, (here = new Map<number, WireEnd>()));
    if (!here.has(net)) here.set(net, end);
  }

  const through = (ends: readonly WireEnd[]): Pick<RingStep, 'boxIds' | 'wires'> => {
    const all = ends.flatMap((end) => byNet.get(nets.net(end)!) ?? []);
    return {
      boxIds: [...new Set(all.map(({ boxId }) => boxId))],
      wires: new Set(all.map(({ runId, key }) => `${runId} ${key}`)),
    };
  };
  const apart: RingStep[] = [];
  const seen = new Set<string>();
  for (const boxId of order) {
    const here = [...(inBox.get(boxId) ?? [])];
    // In the panel nothing of another circuit is joined with anything: what is beside this one there says nothing.
    const beside =
      boxId === order[0] ? [] : [...(foreign.get(boxId) ?? [])].filter(([net]) => !byNet.has(net));
    const pairs = here.flatMap(([a], at) =>
      [...here.slice(at + 1), ...beside].map(([b]) => (a < b ? `${a} ${b}` : `${b} ${a}`)),
    );
    if (pairs.every((pair) => seen.has(pair))) continue;
    pairs.forEach((pair) => seen.add(pair));
    const byRank = (of: typeof here): WireEnd[] =>
      of.map(([, end]) => end).sort((a, b) => rankOf(a) - rankOf(b));
    const [ends, strangers] = [byRank(here), byRank(beside)];
    const names = [...ends, ...strangers].map(nameOf).join(',');
    apart.push({
      key: printOf(`apart@${boxId}:${names}`),
      ...through(ends),
      kind: 'apart',
      proves: [],
      boxId,
      ends,
      ...(strangers.length && { strangers }),
    });
  }

  const joined: RingStep[] = [];
  const proven = new Set<string>();
  const nameIn = (end: WireEnd): string => `${end.boxId} ${nameOf(end)}`;
  const nearest = [...byNet]
    .filter(([, [end]]) => end!.role !== 'spare' && end!.role !== 'undecided')
    .sort(([, a], [, b]) => rankOf(a[0]!) - rankOf(b[0]!));
  /** Proves a net whole from as near to the panel as it can be read to one of its ends; what is not read from the first is proven in turn. */
  const prove = (net: number, boxes: readonly string[], end: WireEnd): void => {
    const at = boxes.indexOf(end.boxId);
    if (at <= 0 || proven.has(nameIn(end))) return;
    proven.add(nameIn(end));
    for (const near of boxes.slice(0, at)) {
      // With what it is joined there for the time: what also ends at both, in the same cable where there is one.
      const others = (atBox.get(end.boxId) ?? []).flatMap((other) => {
        const of = nets.net(other)!;
        const start = of === net ? undefined : inBox.get(near)!.get(of);
        return start ? [{ net: of, start, end: other }] : [];
      });
      const isWanted = ({ end: other }: (typeof others)[number]): number =>
        (other.role === 'neutral' ? 0 : other.role === 'ground' ? 2 : 4) + Number(other.runId !== end.runId);
      const [companion] = others.sort((a, b) => isWanted(a) - isWanted(b));
      if (!companion) continue;
      const start = inBox.get(near)!.get(net)!;
      // Read from the first box of both, one step proves both.
      const isFirst = boxes[0] === near && byNet.get(companion.net)![0]!.boxId === near;
      const provesBoth = isFirst && !proven.has(nameIn(companion.end));
      if (provesBoth) proven.add(nameIn(companion.end));
      joined.push({
        key: printOf(
          `joined@${near}:${nameOf(start)},${nameOf(companion.start)}@${end.boxId}:${nameOf(end)}`,
        ),
        ...through([start, companion.start]),
        kind: 'joined',
        boxId: near,
        ends: [start, companion.start],
        join: { boxId: end.boxId, ends: [end, companion.end] },
        proves: provesBoth ? [end, companion.end] : [end],
      });
      prove(net, boxes, start);
      return;
    }
  };
  for (const [net, ends] of nearest) {
    const boxes = [...new Set(ends.map(({ boxId }) => boxId))];
    // Where it ends: in a joint from which no conductor of it leads on, away from the panel.
    const leadsOn = (end: WireEnd): boolean =>
      ends.some(
        (other) =>
          other.runId === end.runId &&
          other.key === end.key &&
          place.get(other.boxId)! > place.get(end.boxId)!,
      );
    const last = new Map<number, WireEnd | undefined>();
    for (const end of ends)
      last.set(end.joint, leadsOn(end) || (last.has(end.joint) && !last.get(end.joint)) ? undefined : end);
    for (const end of last.values()) if (end) prove(net, boxes, end);
  }
  return [...apart, ...joined];
}

/** By house id: conductors as they are to be joined. Grounds of circuits meet in boxes: what rings may ring through another circuit. */
const SOUND_NETS: Derivation<BareNets> = {
  name: 'sound nets',
  compute: (reader) =>
    new BareNets(
      reader,
      jointsOfBoxes(allBoxes(reader), (boxId) => soundJoints(reader, boxId)),
    ),
};
/** By house id: conductors as they are joined, as far as that is recorded. */
const MADE_NETS: Derivation<BareNets> = {
  name: 'made nets',
  compute: (reader) =>
    new BareNets(
      reader,
      jointsOfBoxes(allBoxes(reader), (boxId) => boxJoints(reader, boxId).joints),
    ),
};
const allBoxes = (reader: HouseReader): string[] => reader.all('boxes').map(({ id }) => id);

/** The first dead tests of a ring: line with line, neutral with neutral, CPC with CPC, between its two ends at the panel (r1, rn, r2). */
function ringEnds(reader: HouseReader, circuitId: string, nets: BareNets): RingStep[] {
  const { tree } = wireCircuit(reader, circuitId);
  const ring = ringOf(tree);
  if (!ring) return [];
  const [first, last] = [ring.runs[0]!.id, ring.runs.at(-1)!.id];
  const atPanel = nets.ends.filter(
    ({ boxId, runId }) => boxId === tree.panelId && (runId === first || runId === last),
  );
  const through = new Set(ring.runs.map(({ id }) => id));
  return (['hot', 'neutral', 'ground'] as const).flatMap((role): RingStep[] => {
    const [a, b] = [first, last].map((id) => atPanel.find((end) => end.runId === id && end.role === role));
    if (!a || !b) return [];
    return [
      {
        key: printOf(`ends@${tree.panelId}:${nameOf(a)},${nameOf(b)}`),
        boxIds: [tree.panelId, ...ring.boxIds],
        wires: new Set(
          nets.ends
            .filter((end) => through.has(end.runId) && end.role === role)
            .map(({ runId, key }) => `${runId} ${key}`),
        ),
        kind: 'ends',
        boxId: tree.panelId,
        ends: [a, b],
        proves: [],
      },
    ];
  });
}

/**
 * Dead tests in their order (BS 7671 chapter 64, from memory): continuity of line and CPC with polarity at every accessory, what else has to
 * be whole, then insulation between all that is apart.
 */
function deadTests(
  reader: HouseReader,
  order: readonly string[],
  own: ReadonlySet<string>,
  nets: BareNets,
  rung: readonly RingStep[],
): RingStep[] {
  const [panelId, ...boxes] = order;
  const at = (boxId: string | undefined, role: WireEnd['role']): WireEnd | undefined =>
    nets.ends.find((end) => end.boxId === boxId && end.role === role && own.has(end.runId));
  const [line, cpc] = [at(panelId, 'hot'), at(panelId, 'ground')];
  const polarity = boxes.flatMap((boxId): RingStep[] => {
    const isAccessory = devicesIn(reader, boxId).length > 0;
    const ends = [at(boxId, 'hot'), at(boxId, 'ground')] as const;
    if (!isAccessory || !line || !cpc || !ends[0] || !ends[1]) return [];
    const through = new Set(ends.map((end) => nets.net(end!)));
    const there = nets.ends.filter((end) => own.has(end.runId) && through.has(nets.net(end)!));
    return [
      {
        key: printOf(`polarity@${boxId}:${nameOf(ends[0])},${nameOf(ends[1])}`),
        boxIds: [...new Set(there.map((end) => end.boxId))],
        wires: new Set(there.map(({ runId, key }) => `${runId} ${key}`)),
        kind: 'polarity',
        boxId,
        ends: [ends[0], ends[1]],
        join: { boxId: panelId!, ends: [line, cpc] },
        proves: [ends[0], ends[1]],
      },
    ];
  });
  const isMore = ({ kind, proves }: RingStep): boolean =>
    kind === 'joined' && proves.some(({ role }) => role !== 'hot' && role !== 'ground');
  return [...polarity, ...rung.filter(isMore), ...rung.filter(({ kind }) => kind === 'apart')];
}

/** By the first circuit of a wiring group. */
const RING_OUT: Derivation<RingOut> = {
  name: 'ring-out',
  compute: (reader, circuitId) => {
    const { order, own, circuitIds } = ringScope(reader, circuitId);
    const nets = reader.derive(SOUND_NETS, reader.houseId);
    const ends = ringEnds(reader, circuitId, nets);
    const rung = ringSteps(nets, order, own);
    const steps =
      reader.rules().jurisdiction.testing === 'dead-tests'
        ? [...ends, ...deadTests(reader, order, own, nets, rung)]
        : [...ends, ...rung];
    return { circuitIds, boxIds: order, steps };
  },
};

/** What a ring-out is about: boxes from the panel on, the runs of the circuit (or of those that share its neutral). */
export function ringScope(
  reader: HouseReader,
  circuitId: string,
): {
  readonly order: readonly string[];
  readonly own: ReadonlySet<string>;
  readonly circuitIds: readonly string[];
} {
  const wiring = wireCircuit(reader, circuitId);
  const own = new Set(wiring.runs.keys());
  const there = boxesOfRuns(reader, own);
  const { tree } = wiring;
  const order = [...new Set(tree.nodes.map((node) => tree.boxOf.get(node)!))].filter((boxId) =>
    there.has(boxId),
  );
  return { order, own, circuitIds: wiring.circuitIds };
}

/** How a circuit is rung out, step by step: what any two read, what is joined at a far end, what then rings. */
export const ringOut = (reader: HouseReader, circuitId: string): RingOut =>
  reader.derive(RING_OUT, wireCircuit(reader, circuitId).circuitIds[0] ?? circuitId);

/** What a house reads whose joints are as they are recorded, or as `joints` of all boxes says. */
export function readings(reader: HouseReader, circuitId: string, joints?: JointsByBox): RingReading[] {
  const nets = joints ? new BareNets(reader, joints) : reader.derive(MADE_NETS, reader.houseId);
  return ringOut(reader, circuitId).steps.map((step) => readStep(nets, step));
}
