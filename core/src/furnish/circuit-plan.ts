import { saidIn } from '../vocabulary/said-in.js';
import type { HouseReader } from '../derive/reader.js';
import type { Circuit } from '../house/model.js';
import { needsAfci, receptacleNeedsGfci } from '../rulebook/rooms.js';
import type { Rulebook } from '../rulebook/rulebook.js';
import type { CircuitUse } from '../vocabulary/room-kit-types.js';
import { legOf } from './panel.js';
import { otherHalf } from './planned.js';
import type { Group, PlannedCircuit } from './planned.js';
import { areaFt2, sizeOfRoom } from './room-size.js';

/** Volt-amperes that one point is taken to draw for the balance of the panel: 220.14(I), from memory, counts 180 a yoke. */
const VA_OF_POINT = 180;

/** Uses that a house may put together on the circuits of its rooms. */
const ROOMS: readonly CircuitUse[] = ['lighting', 'outlets'];

/** Outlets that a code allows on one circuit; Infinity where it counts none. */
const mostOutlets = (rules: Rulebook): number =>
  rules.has('load.outlets') ? rules.number('load.outlets') : Infinity;

/** Points that one lighting circuit may have; Infinity where neither house nor code sets a limit. */
const mostPoints = (rules: Rulebook): number => {
  const limit = Number(rules.text('draft.points'));
  return Math.min(Number.isFinite(limit) ? limit : Infinity, mostOutlets(rules));
};

/**
 * Circuits that the general lighting load asks for at least: floor area times volt-amperes for each square foot over what a
 * breaker carries, whole circuits (NEC 210.11(A) with 220.12, from memory). Areas in square feet.
 */
export const lightingCircuits = (rules: Rulebook, floorFt2: number, amps: number): number =>
  Math.ceil((floorFt2 * rules.number('load.lighting')) / (rules.jurisdiction.lineVolts * amps) - 1e-9);

/** Finished floor, in square feet. */
export const lightingArea = (reader: HouseReader): number =>
  reader
    .all('rooms')
    .filter(({ kind }) => reader.rules().jurisdiction.lightingArea.includes(kind))
    .reduce((sum, room) => sum + areaFt2(sizeOfRoom(reader, room)), 0);

/** Groups one after another in circuits: a room stays whole where it fits into one. */
function inTurn(groups: readonly Group[], most: number): Group[][] {
  const circuits: Group[][] = [];
  let points = 0;
  let isFull = true;
  const put = (group: Group): void => {
    if (isFull || points + group.points > most) {
      circuits.push([]);
      points = 0;
      isFull = false;
    }
    circuits.at(-1)!.push(group);
    points += group.points;
  };
  const rooms = new Map<string, Group[]>();
  for (const group of groups) rooms.set(group.room.id, [...(rooms.get(group.room.id) ?? []), group]);
  for (const own of rooms.values()) {
    const all = own.reduce((sum, group) => sum + group.points, 0);
    if (all <= most && points + all > most) isFull = true;
    own.forEach(put);
  }
  return circuits;
}

/** As few circuits as the limit allows, and as many as the floor asks for: each with about as many points as the others. */
function inCircuits(groups: readonly Group[], most: number, least: number): Group[][] {
  const all = groups.reduce((sum, { points }) => sum + points, 0);
  const highest = Math.min(most, all);
  const many = Math.max(least, inTurn(groups, highest).length);
  let circuits = inTurn(groups, highest);
  for (let limit = highest - 1; limit > 0; limit--) {
    const tighter = inTurn(groups, limit);
    if (tighter.length > many && circuits.length >= least) break;
    circuits = tighter;
  }
  return circuits;
}

/** Evenly into so many, in order. */
function inParts(groups: readonly Group[], parts: number): Group[][] {
  const size = Math.ceil(groups.length / parts);
  return Array.from({ length: parts }, (_none, part) => groups.slice(part * size, (part + 1) * size)).filter(
    (part) => part.length > 0,
  );
}

/** A circuit of socket outlets with one end: common practice. */
const RADIAL_AMPS = 20;
/** Each of the two circuits of split receptacles over a counter (26-722, from memory). */
const SPLIT_AMPS = 15;

/** Whether counters get receptacles whose halves are on two circuits: a school where the code knows of it. */
const splitsCounters = (rules: Rulebook): boolean =>
  rules.has('draft.counter') && rules.text('draft.counter') === 'split';

const roomNames = (groups: readonly Group[]): string =>
  [...new Set(groups.map(({ room }) => room.name))].join(', ');

/** Protection that the rooms of a circuit ask for by the edition: arc-fault by room, ground-fault where there are receptacles. */
export function protectionFor(
  rules: Rulebook,
  groups: readonly Pick<Group, 'room' | 'use' | 'hasReceptacle' | 'isCounter' | 'nearWater' | 'own'>[],
  amps: number,
  volts: number,
): Circuit['protection'] {
  const arc = groups.some(({ room }) => needsAfci(rules, room.kind, volts, amps));
  // Where cable hidden in walls is asked to have it, every circuit has.
  if (rules.has('zone.depth')) return arc ? 'dual' : 'gfci';
  const ground = groups.some(({ room, use, hasReceptacle, isCounter, nearWater, own }) => {
    // A powder room with its basin is a bath.
    if (own?.spec.gfci || use === 'bath') return true;
    return hasReceptacle && receptacleNeedsGfci(rules, room.kind, volts, isCounter, nearWater);
  });
  return arc && ground ? 'dual' : arc ? 'afci' : ground ? 'gfci' : 'none';
}

/** Every circuit that these groups need: those that are asked for first, then lighting and receptacles by neighbourhood. */
export function planCircuits(reader: HouseReader, groups: readonly Group[]): PlannedCircuit[] {
  const rules = reader.rules();
  const { circuitPlans, lineVolts } = rules.jurisdiction;
  const planOf = (use: CircuitUse) => circuitPlans.find((plan) => plan.use === use)!;
  const circuits: PlannedCircuit[] = [];
  const add = (
    key: string,
    name: string,
    own: readonly Group[],
    amps: number,
    more: Partial<PlannedCircuit> & { volts?: number } = {},
  ): void => {
    const { volts = lineVolts, ...rest } = more;
    const plan = circuitPlans.find(({ use }) => use === own[0]!.use);
    const isRing = plan?.ring === true && !own[0]!.own && own.length > 1;
    // Too short for a ring: a radial.
    const carries = plan?.ring && !isRing && !own[0]!.own ? RADIAL_AMPS : amps;
    circuits.push({
      key,
      name: saidIn(rules.jurisdiction.saidHere, name).slice(0, 200),
      poles: 1,
      breakerAmps: carries,
      ...(isRing && { ring: true as const }),
      protection: protectionFor(rules, own, carries, volts),
      groups: own,
      nameplateOpen: false,
      loadVa: own.reduce((sum, { points }) => sum + points, 0) * VA_OF_POINT,
      why: { circuit: own[0]!.use },
      ...rest,
    });
  };
  /** One circuit, or as many as the code asks for so many outlets. */
  const addAll = (key: string, name: string, own: readonly Group[], amps: number): void => {
    const most = mostOutlets(rules);
    const isOne = own.reduce((sum, { points }) => sum + points, 0) <= most;
    const parts = isOne ? [own].filter(({ length }) => length > 0) : inTurn(own, most);
    parts.forEach((part, at) =>
      add(at ? `${key} ${at + 1}` : key, at ? `${name} ${at + 1}` : name, part, amps),
    );
  };
  const left = new Set(groups);
  const take = (test: (group: Group) => boolean): Group[] => {
    const taken = [...left].filter(test);
    taken.forEach((group) => left.delete(group));
    return taken;
  };

  const isSplit = splitsCounters(rules);
  // What is split serves the counter alone: on the other walls of the kitchen it is like in any room.
  const counters = take(({ use, isCounter }) => use === 'counter' && (isCounter || !isSplit));
  // None serves more than one kitchen: 210.52(B)(3), from memory.
  const kitchens = [...new Set(counters.map(({ room }) => room.id))];
  kitchens
    .flatMap((id) => {
      const own = counters.filter(({ room }) => room.id === id);
      if (isSplit) return inParts(own, Math.ceil(own.length / rules.number('draft.counterMost')));
      const [tops, walls] = [true, false].map((isTop) =>
        inParts(
          own.filter(({ isCounter }) => isCounter === isTop),
          planOf('counter').least,
        ),
      ) as [Group[][], Group[][]];
      // Each serves some of the counter; what is on other walls of the kitchen is shared between them.
      const many = Math.max(tops.length, walls.length);
      return Array.from({ length: many }, (_none, at) => [...(tops[at] ?? []), ...(walls[at] ?? [])]);
    })
    .forEach((part, index) => {
      const [key, name] = [`circuit counter ${index + 1}`, `${planOf('counter').name} ${index + 1}`];
      if (isSplit) add(key, name, part, SPLIT_AMPS, { split: true });
      else addAll(key, name, part, planOf('counter').amps);
    });
  const dining = take(({ use }) => use === 'dining');
  addAll('circuit dining', `${roomNames(dining)} receptacles`, dining, planOf('dining').amps);

  const baths = take(({ use }) => use === 'bath');
  const bathRooms = [...new Set(baths.map(({ room }) => room.id))];
  if (rules.text('draft.baths') === 'each')
    for (const roomId of bathRooms) {
      // A circuit that serves this bath alone may feed its lights and fan too.
      const own = [
        ...baths.filter(({ room }) => room.id === roomId),
        ...take(({ room, use }) => room.id === roomId && use === 'lighting'),
      ];
      addAll(`circuit bath ${roomId}`, own[0]!.room.name, own, planOf('bath').amps);
    }
  else addAll('circuit bath', planOf('bath').name, baths, planOf('bath').amps);

  const laundry = take(({ use }) => use === 'laundry');
  addAll('circuit laundry', planOf('laundry').name, laundry, planOf('laundry').amps);
  // Outside receptacles may join those of the garage, never its lights.
  const garage = take(({ use }) => use === 'garage');
  const outdoors = take(({ use }) => use === 'outdoors');
  if (garage.length)
    addAll(
      'circuit garage',
      outdoors.length ? 'Garage and outside receptacles' : planOf('garage').name,
      [...garage, ...outdoors],
      planOf('garage').amps,
    );
  else addAll('circuit outdoors', planOf('outdoors').name, outdoors, planOf('outdoors').amps);

  for (const group of take(({ own }) => own !== undefined)) {
    const { item, spec } = group.own!;
    const isDouble = spec.supply !== '120';
    const volts = isDouble ? 2 * lineVolts : lineVolts;
    add(`circuit ${group.feed.slice('box '.length)}`, item.name, [group], spec.amps, {
      poles: isDouble ? 2 : 1,
      nameplateOpen: spec.nameplate,
      loadVa: 0.5 * spec.amps * volts,
      volts,
      why: { kit: group.room.kind, item: item.key },
    });
  }
  const alarms = take(({ use }) => use === 'alarms');
  addAll('circuit alarms', planOf('alarms').name, alarms, planOf('alarms').amps);

  const rooms = take(({ use }) => ROOMS.includes(use) || (isSplit && use === 'counter'));
  const least = lightingCircuits(rules, lightingArea(reader), planOf('lighting').amps);
  const most = mostPoints(rules);
  const isApart = rules.text('draft.lightsApart') === 'apart';
  const sets: readonly (readonly [CircuitUse, string, readonly Group[], number])[] = isApart
    ? ROOMS.map((use) => {
        const own = rooms.filter((group) => (group.use === 'lighting') === (use === 'lighting'));
        return [use, use === 'lighting' ? ' lights' : ' receptacles', own, Math.ceil(least / 2)] as const;
      })
    : [['lighting', '', rooms, least]];
  for (const [use, ending, own, atLeast] of sets)
    inCircuits(own, most, atLeast).forEach((part, index, all) => {
      // By the room it begins in, so that it is the same one when rooms are drafted again.
      const first = part[0]!.room.id;
      const before = all.slice(0, index).filter((other) => other[0]!.room.id === first).length;
      add(
        `circuit ${use} ${first}${before ? ` ${before + 1}` : ''}`,
        `${roomNames(part)}${ending}`,
        part,
        planOf(use).amps,
      );
    });
  return circuits;
}

/** What a circuit of the house is taken to draw, in volt-amperes: its points, or half of its breaker where it feeds one thing of 240 V. */
export function loadOf(reader: HouseReader, { id, poles, breakerAmps }: Circuit): number {
  const { lineVolts } = reader.rules().jurisdiction;
  if (poles === 2) return breakerAmps * lineVolts;
  const boxes = new Set(reader.mentioning('runs', id).flatMap((run) => [run.from.boxId, run.to.boxId]));
  return VA_OF_POINT * Math.max(0, boxes.size - 1);
}

/**
 * Spaces of a panel for circuits that have none yet, so that its two legs carry about the same: breakers of two poles from the
 * top, then the heaviest first, each on the leg that carries less. By key of the circuit; `taken` are spaces
 * that are used, `already` what the breakers in them put on each leg, in volt-amperes.
 */
export function panelSpaces(
  circuits: readonly Pick<PlannedCircuit, 'key' | 'poles' | 'loadVa' | 'split'>[],
  taken: ReadonlySet<number>,
  already: readonly [number, number] = [0, 0],
): ReadonlyMap<string, readonly number[]> {
  const used = new Set(taken);
  const spaces = new Map<string, readonly number[]>();
  const carried: [number, number] = [...already];
  const take = (key: string, own: readonly number[]): void => {
    own.forEach((space) => used.add(space));
    spaces.set(key, own);
  };
  const free = (leg: 0 | 1): number => {
    for (let space = 1; ; space++) if (!used.has(space) && legOf(space) === leg) return space;
  };
  // Of two that share a neutral each has one of two such spaces: next to each other, on different legs.
  for (const circuit of circuits.filter(({ poles, split }) => poles === 2 || split)) {
    const { key, loadVa } = circuit;
    let space = 1;
    while (used.has(space) || used.has(space + 2)) space++;
    take(key, circuit.split ? [space] : [space, space + 2]);
    if (circuit.split) take(otherHalf(circuit), [space + 2]);
    carried[0] += loadVa / 2;
    carried[1] += loadVa / 2;
  }
  const single = circuits
    .filter(({ poles, split }) => poles === 1 && !split)
    .toSorted((a, b) => b.loadVa - a.loadVa || (a.key < b.key ? -1 : 1));
  for (const { key, loadVa } of single) {
    const leg = carried[0] <= carried[1] ? 0 : 1;
    take(key, [free(leg)]);
    carried[leg] += loadVa;
  }
  return spaces;
}
