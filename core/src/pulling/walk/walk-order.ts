import type { Derivation, HouseReader } from '../../derive/reader.js';
import { boxFacts, boxesInRoom, roomOf, runsAt } from '../../facts/box-facts.js';
import type { Place } from '../../plan/outline.js';
import { distance } from '../../plan/outline.js';
import { storeyPlan } from '../../plan/storey-plan.js';

/** A doorway belongs to the rooms whose outline it is so near to. Inches. */
const IN_WALL_IN = 8;
/** Feet on the stairs, and a way that is drawn nowhere, count as so much more walking. Inches. */
const STAIRS_IN = 240;
const AROUND = 1.5;

/** What is walked between: boxes, doorways, stairs. */
interface Spot extends Place {
  readonly storeyId: string;
  readonly roomIds: readonly string[];
}

/** How far a place is from the nearest of these walls. */
function besides(outline: readonly Place[], { xIn, yIn }: Place): number {
  return Math.min(
    ...outline.map((a, at) => {
      const b = outline[(at + 1) % outline.length]!;
      const [dx, dy] = [b.xIn - a.xIn, b.yIn - a.yIn];
      const share = ((xIn - a.xIn) * dx + (yIn - a.yIn) * dy) / (dx * dx + dy * dy || 1);
      const on = Math.max(0, Math.min(1, share));
      return Math.hypot(xIn - a.xIn - on * dx, yIn - a.yIn - on * dy);
    }),
  );
}

const middle = (places: readonly Place[]): Place => ({
  xIn: places.reduce((sum, { xIn }) => sum + xIn, 0) / places.length,
  yIn: places.reduce((sum, { yIn }) => sum + yIn, 0) / places.length,
});

/** Ways through the doors of a house: how far it is on foot from box to box, in inches. */
export interface OnFoot {
  /** Boxes that have a place on the plan. */
  readonly boxIds: readonly string[];
  /** Between the boxes with these indices. */
  readonly between: (from: number, to: number) => number;
}

/** How far it is on foot between the boxes that are drawn: across the room, through doorways, up the stairs. */
export function onFoot(reader: HouseReader): OnFoot {
  const spots: Spot[] = [];
  const boxIds: string[] = [];
  const gates: number[] = [];
  const stairs: number[] = [];
  for (const { id: storeyId } of reader.all('storeys')) {
    const plan = storeyPlan(reader, storeyId);
    for (const { boxId, xIn, yIn } of plan.boxes) {
      const room = roomOf(reader, boxId)?.id;
      spots.push({ xIn, yIn, storeyId, roomIds: room ? [room] : [] });
      boxIds.push(boxId);
    }
  }
  for (const { id: storeyId } of reader.all('storeys')) {
    const plan = storeyPlan(reader, storeyId);
    for (const { openingId, a, b } of plan.openings) {
      if (reader.get('openings', openingId)?.kind === 'window') continue;
      const at = middle([a, b]);
      const roomIds = plan.rooms
        .filter(({ outline }) => besides(outline, at) <= IN_WALL_IN)
        .map(({ id }) => id);
      if (roomIds.length < 2) continue;
      gates.push(spots.length);
      spots.push({ ...at, storeyId, roomIds });
    }
    for (const { id, outline } of plan.rooms) {
      if (reader.get('rooms', id)?.kind !== 'stairs') continue;
      stairs.push(spots.length);
      gates.push(spots.length);
      spots.push({ ...middle(outline), storeyId, roomIds: [id] });
    }
  }
  const share = (a: Spot, b: Spot): boolean => a.roomIds.some((id) => b.roomIds.includes(id));
  /** From each gate to each, the shortest way; common practice of all-pairs ways (Floyd and Warshall). */
  const ways = gates.map((a) =>
    gates.map((b) =>
      a === b
        ? 0
        : share(spots[a]!, spots[b]!)
          ? distance(spots[a]!, spots[b]!)
          : stairs.includes(a) && stairs.includes(b)
            ? STAIRS_IN
            : Infinity,
    ),
  );
  for (let via = 0; via < gates.length; via++)
    for (const row of ways)
      for (let to = 0; to < gates.length; to++) row[to] = Math.min(row[to]!, row[via]! + ways[via]![to]!);
  const count = boxIds.length;
  const gatesOf = new Map<string, number[]>();
  gates.forEach((spot, at) => {
    for (const id of spots[spot]!.roomIds) gatesOf.set(id, [...(gatesOf.get(id) ?? []), at]);
  });
  /** Each box with the ways out of its room, and how far these are. */
  const out = spots
    .slice(0, count)
    .map((spot) =>
      spot.roomIds
        .flatMap((id) => gatesOf.get(id) ?? [])
        .map((gate) => ({ gate, far: distance(spot, spots[gates[gate]!]!) })),
    );
  const known = new Float64Array(count * count);
  for (let from = 0; from < count; from++)
    for (let to = from + 1; to < count; to++) {
      const [a, b] = [spots[from]!, spots[to]!];
      let least = Infinity;
      if (share(a, b)) least = distance(a, b);
      else
        for (const one of out[from]!)
          for (const other of out[to]!)
            least = Math.min(least, one.far + ways[one.gate]![other.gate]! + other.far);
      if (least === Infinity)
        least = distance(a, b) * AROUND + (a.storeyId === b.storeyId ? 0 : 2 * STAIRS_IN);
      known[from * count + to] = known[to * count + from] = least;
    }
  return { boxIds, between: (from, to) => known[from * count + to]! };
}

/** So often a way is gone through again; pieces that are moved have up to so many places; less is no gain, in inches. */
const MOST_ROUNDS = 60;
const LONGEST_PIECE = 3;
const EPSILON_IN = 1e-6;

/**
 * A short way from the first through all others: the nearest first, then pieces are turned round and moved as long as that is
 * shorter (2-opt and or-opt, from the literature on the traveling salesman). Deterministic; not always the shortest.
 */
export function shortWay(count: number, between: (from: number, to: number) => number): number[] {
  if (count === 0) return [];
  const far = new Float64Array(count * count);
  for (let a = 0; a < count; a++) for (let b = 0; b < count; b++) far[a * count + b] = between(a, b);
  const way = [0];
  const left = new Set(Array.from({ length: count - 1 }, (_, at) => at + 1));
  while (left.size) {
    const here = way.at(-1)! * count;
    let next = -1;
    for (const at of left) if (next < 0 || far[here + at]! < far[here + next]!) next = at;
    way.push(next);
    left.delete(next);
  }
  /** Between what stands at two places of the way; nothing beyond its end. */
  const leg = (a: number, b: number): number => (b < count ? far[way[a]! * count + way[b]!]! : 0);
  for (let round = 0, isBetter = true; isBetter && round < MOST_ROUNDS; round++) {
    isBetter = false;
    for (let i = 1; i < count - 1; i++)
      for (let j = i + 1; j < count; j++) {
        if (leg(i - 1, i) + leg(j, j + 1) - leg(i - 1, j) - leg(i, j + 1) <= EPSILON_IN) continue;
        for (let a = i, b = j; a < b; a++, b--) [way[a], way[b]] = [way[b]!, way[a]!];
        isBetter = true;
      }
    for (let size = 1; size <= LONGEST_PIECE; size++)
      for (let i = 1; i + size <= count; i++) {
        const end = i + size - 1;
        const without = leg(i - 1, i) + leg(end, end + 1) - (end + 1 < count ? leg(i - 1, end + 1) : 0);
        if (without <= EPSILON_IN) continue;
        let best = { gain: EPSILON_IN, after: -1, turned: false };
        for (let after = 0; after < count; after++) {
          if (after >= i - 1 && after <= end) continue;
          const gap = without + leg(after, after + 1);
          const [head, tail] = [leg(after, i), leg(end, after + 1)];
          if (gap - head - tail > best.gain) best = { gain: gap - head - tail, after, turned: false };
          const [turnedHead, turnedTail] = [leg(after, end), leg(i, after + 1)];
          if (gap - turnedHead - turnedTail > best.gain)
            best = { gain: gap - turnedHead - turnedTail, after, turned: true };
        }
        if (best.after < 0) continue;
        const piece = way.splice(i, size);
        if (best.turned) piece.reverse();
        way.splice(best.after < i ? best.after + 1 : best.after + 1 - size, 0, ...piece);
        isBetter = true;
      }
  }
  return way;
}

/**
 * The boxes of a house in the order in which they are walked: those that are drawn on a short way over the plan that begins at
 * the panel, then room by room what is not. Boxes into which nothing is planned are left out. By house id.
 */
const WALK_ORDER: Derivation<readonly string[]> = {
  name: 'walk order',
  cutsOff: true,
  compute: (reader) => {
    const has = (boxId: string): boolean => runsAt(reader, boxId).length > 0;
    const { boxIds, between } = onFoot(reader);
    const isPanel = (id: string): boolean => boxFacts(reader, reader.get('boxes', id)!).kind === 'panel';
    const own = boxIds.map((id, at) => ({ id, at })).filter(({ id }) => has(id));
    own.sort((a, b) => Number(isPanel(b.id)) - Number(isPanel(a.id)));
    const drawn = shortWay(own.length, (from, to) => between(own[from]!.at, own[to]!.at)).map(
      (at) => own[at]!.id,
    );
    const isDrawn = new Set(drawn);
    const rest = [...reader.all('rooms')]
      .sort((a, b) => a.order - b.order)
      .flatMap(({ id }) => boxesInRoom(reader, id).map((box) => box.id))
      .filter((id) => has(id) && !isDrawn.has(id));
    const known = new Set([...drawn, ...rest]);
    const nowhere = reader.all('boxes').flatMap(({ id }) => (has(id) && !known.has(id) ? [id] : []));
    return [...drawn, ...rest, ...nowhere];
  },
};

/** The boxes of a house, or those of one circuit, in the order in which they are walked. */
export function walkOrder(reader: HouseReader, circuitId?: string): readonly string[] {
  const all = reader.derive(WALK_ORDER, reader.houseId);
  return circuitId === undefined
    ? all
    : all.filter((id) => runsAt(reader, id).some(({ circuitIds }) => circuitIds.includes(circuitId)));
}
