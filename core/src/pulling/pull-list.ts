import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxesInRoom, roomOf, runsAt, standingPull } from '../facts/box-facts.js';
import { pulledLengthIn } from '../facts/reel-usage.js';
import type { CableId } from '../rulebook/cables.js';
import type { Run } from '../house/model.js';
import { cutOf } from '../routing/cut.js';
import type { Steps } from '../structures/steps.js';
import { areaOf } from '../vocabulary/size.js';
import { gaugeOfCircuit } from '../wiring/circuit/gauge.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';

export type RunState = 'planned' | 'part' | 'in';

export interface ListedRun {
  readonly runId: string;
  readonly circuitId?: string;
  /** Power carries the feed on; everything else waits until power is in. */
  readonly role: 'power' | 'leg';
  readonly state: RunState;
  readonly planned?: CableId;
  readonly pulled?: CableId;
  /** What the wiring asks for. */
  readonly needed?: CableId;
  /** It is not pulled yet: breaker and wire wait for somebody to read the nameplate. */
  readonly waitsForPlate?: true;
  /** How long it is to be cut, in: measured, or estimated. A raceway has no such length. */
  readonly plannedIn?: number;
  /** Nobody has measured it. */
  readonly isEstimate?: true;
  /** Length of what was pulled, in. */
  readonly pulledIn?: number;
}

export interface Tally {
  readonly in: number;
  readonly runs: number;
}

/**
 * Cable of one type: planned over all runs, with how many of these are estimates; pulled over all pulls that stand, where those
 * without a length are counted apart.
 */
export interface CableTotal {
  readonly cable: CableId;
  readonly plannedIn: number;
  readonly estimated: number;
  readonly pulledIn: number;
  readonly pulledWithoutLength: number;
}

export interface PullList {
  readonly runs: readonly ListedRun[];
  readonly tally: Tally;
  readonly totals: readonly CableTotal[];
}

const wiringOf = (reader: HouseReader, { id, circuitIds: [circuitId] }: Run) =>
  circuitId ? wireCircuit(reader, circuitId).runs.get(id) : undefined;

/** Whether a run carries the feed on, as it was said to or else as its circuit is wired. */
export const roleOf = (reader: HouseReader, run: Run): ListedRun['role'] =>
  (run.purpose ? run.purpose === 'power' : wiringOf(reader, run)?.power) ? 'power' : 'leg';

function listed(reader: HouseReader, run: Run): ListedRun {
  const circuitId = run.circuitIds[0];
  const pull = standingPull(reader, run.id);
  const wiring = wiringOf(reader, run);
  const pulledIn = pull && pulledLengthIn(pull);
  const cut = run.kind === 'raceway' ? undefined : cutOf(reader, run);
  return {
    runId: run.id,
    role: roleOf(reader, run),
    state: pull ? (pull.state === 'in' ? 'in' : 'part') : 'planned',
    ...(circuitId && { circuitId }),
    ...(run.plannedCable && { planned: run.plannedCable }),
    ...(pull && { pulled: pull.cable }),
    ...(wiring?.needed && { needed: wiring.needed }),
    ...(cut && { plannedIn: cut.lengthIn, ...(cut.isEstimate && { isEstimate: true as const }) }),
    ...(pulledIn !== undefined && { pulledIn }),
    ...(!pull && waitsForPlate(reader, run) && { waitsForPlate: true as const }),
  };
}

/** Wide cable of an appliance that goes by its nameplate is bought and pulled once that has been read. */
const waitsForPlate = (reader: HouseReader, run: Run): boolean =>
  run.circuitIds.some((id) => reader.get('circuits', id)?.nameplateOpen === true);

/**
 * The order in which runs are pulled: thinner circuits first (the 12 AWG ones are one batch), a circuit finished before
 * the next, power before legs, and outward from the home run.
 */
function inPullOrder(reader: HouseReader, runs: readonly Run[]): Run[] {
  const circuits = new Map<string, { area: number; number: number; step: Map<string, number> }>();
  const place = (run: Run): readonly number[] => {
    const id = run.circuitIds[0];
    const circuit = id ? reader.get('circuits', id) : undefined;
    if (!id || !circuit) return [99, 0, 0, 0];
    let known = circuits.get(id);
    if (!known) {
      const { tree } = wireCircuit(reader, id);
      const step = new Map<string, number>();
      tree.nodes.forEach((node, index) => {
        const feed = tree.feed.get(node);
        if (feed) step.set(feed.run.id, index);
      });
      const gauge = gaugeOfCircuit(reader, circuit);
      known = { area: gauge ? areaOf(gauge) : Infinity, number: circuit.number, step };
      circuits.set(id, known);
    }
    const role = listed(reader, run).role === 'power' ? 0 : 1;
    return [known.area, known.number, role, known.step.get(run.id) ?? 9999];
  };
  return runs
    .map((run) => ({ run, place: place(run) }))
    .sort((a, b) => {
      for (let i = 0; i < 4; i++) if (a.place[i] !== b.place[i]) return a.place[i]! - b.place[i]!;
      return 0;
    })
    .map(({ run }) => run);
}

/** All runs of the house, in the order in which they are pulled. */
export const pullOrder = (reader: HouseReader): readonly Run[] => inPullOrder(reader, reader.all('runs'));

function listOf(reader: HouseReader, runs: readonly Run[]): PullList {
  const list = inPullOrder(reader, runs).map((run) => listed(reader, run));
  return { runs: list, tally: tallyOf(list), totals: totalsOf(list) };
}

const tallyOf = (runs: readonly ListedRun[]): Tally => ({
  in: runs.filter((run) => run.state === 'in').length,
  runs: runs.length,
});

function sumTotals(parts: readonly CableTotal[]): CableTotal[] {
  const totals = new Map<CableId, CableTotal>();
  for (const part of parts) {
    const old = totals.get(part.cable);
    totals.set(
      part.cable,
      old
        ? {
            cable: part.cable,
            plannedIn: old.plannedIn + part.plannedIn,
            estimated: old.estimated + part.estimated,
            pulledIn: old.pulledIn + part.pulledIn,
            pulledWithoutLength: old.pulledWithoutLength + part.pulledWithoutLength,
          }
        : part,
    );
  }
  return [...totals.values()].sort((a, b) => (a.cable < b.cable ? 1 : -1));
}

function totalsOf(runs: readonly ListedRun[]): CableTotal[] {
  const none = { plannedIn: 0, estimated: 0, pulledIn: 0, pulledWithoutLength: 0 };
  return sumTotals(
    runs.flatMap(({ planned, needed, plannedIn, isEstimate, pulled, pulledIn }): CableTotal[] => {
      const wanted = planned ?? needed;
      return [
        ...(wanted
          ? [
              {
                ...none,
                cable: wanted,
                plannedIn: plannedIn ?? 0,
                estimated: isEstimate ? 1 : 0,
              },
            ]
          : []),
        ...(pulled
          ? [
              {
                ...none,
                cable: pulled,
                pulledIn: pulledIn ?? 0,
                pulledWithoutLength: pulledIn === undefined ? 1 : 0,
              },
            ]
          : []),
      ];
    }),
  );
}

/** Runs belong to the room where they arrive. */
const arrivesIn = (run: Run, boxId: string): boolean => run.to.boxId === boxId;

/** The runs that arrive in a room, in pull order, by room id. */
const ROOM_PULLS: Derivation<PullList> = {
  name: 'room pulls',
  compute: (reader, roomId) =>
    listOf(
      reader,
      boxesInRoom(reader, roomId).flatMap((box) =>
        runsAt(reader, box.id).filter((run) => arrivesIn(run, box.id)),
      ),
    ),
};

/** How many of the runs that arrive in a room are in, by room id: nothing of the wiring is asked for. */
const ROOM_TALLY: Derivation<Tally> = {
  name: 'room tally',
  cutsOff: true,
  compute: (reader, roomId) => {
    const runs = boxesInRoom(reader, roomId).flatMap((box) =>
      runsAt(reader, box.id).filter((run) => arrivesIn(run, box.id)),
    );
    return {
      in: runs.filter(({ id }) => standingPull(reader, id)?.state === 'in').length,
      runs: runs.length,
    };
  },
};

export const roomTally = (reader: HouseReader, roomId: string): Tally => reader.derive(ROOM_TALLY, roomId);

/** Counts the runs of a house room by room. */
export function* readyTallies(reader: HouseReader): Steps<void> {
  for (const { id } of reader.all('rooms')) {
    roomTally(reader, id);
    yield;
  }
}

/** How many runs of the whole house are in. */
export const houseTally = (reader: HouseReader): Tally => {
  const tallies = reader.all('rooms').map(({ id }) => roomTally(reader, id));
  return {
    in: tallies.reduce((sum, tally) => sum + tally.in, 0),
    runs: tallies.reduce((sum, tally) => sum + tally.runs, 0),
  };
};

/** The runs of a circuit in pull order, by circuit id. */
export const CIRCUIT_PULLS: Derivation<PullList> = {
  name: 'circuit pulls',
  compute: (reader, circuitId) =>
    listOf(
      reader,
      reader.mentioning('runs', circuitId).filter((run) => run.circuitIds.includes(circuitId)),
    ),
};

/** Tally and cable of the whole house, summed over its rooms, by house id. */
export const HOUSE_PULLS: Derivation<Omit<PullList, 'runs'>> = {
  name: 'house pulls',
  compute: (reader) => {
    const lists = reader.all('rooms').map((room) => reader.derive(ROOM_PULLS, room.id));
    return { tally: houseTally(reader), totals: sumTotals(lists.flatMap((list) => list.totals)) };
  },
};

/** What leads on from a room: runs that start here and arrive elsewhere, for the crew standing in the room. */
export const runsLeaving = (reader: HouseReader, roomId: string): readonly Run[] =>
  boxesInRoom(reader, roomId).flatMap((box) =>
    runsAt(reader, box.id).filter(
      (run) => run.from.boxId === box.id && roomOf(reader, run.to.boxId)?.id !== roomId,
    ),
  );

/** Pull list of a room or a circuit. */
export const pullList = (reader: HouseReader, of: { roomId: string } | { circuitId: string }): PullList =>
  'roomId' in of ? reader.derive(ROOM_PULLS, of.roomId) : reader.derive(CIRCUIT_PULLS, of.circuitId);
