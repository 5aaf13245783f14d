import type { Derivation, HouseReader } from '../derive/reader.js';
import type { CableId } from '../rulebook/cables.js';
import { cableOf } from '../rulebook/cables.js';
import { areaOf } from '../vocabulary/size.js';
import type { FramingGraph } from './framing-graph.js';
import { framingGraph } from './framing-graph.js';
import { cableOnWay } from './run-cable.js';
import type { Crossing } from './way-geometry.js';
import { wayOfRun } from './way.js';

/** What is wrong with a hole: larger than its member may lose, or nearer to an edge of it than the rest of it bears. */
export type HoleProblem = 'too-large' | 'too-near' | 'derated';

/** A hole that is bored in one member, for one cable or several. Inches. */
export interface Hole {
  /** The place in the framing, and which hole there: the first is 1. */
  readonly member: string;
  readonly number: number;
  readonly at: Crossing;
  /** The runs that go through it, in the order of their ids. */
  readonly runIds: readonly string[];
  readonly diameterIn: number;
  /** Wood that is left beside it, bored through the middle. Round a corner nobody knows. */
  readonly edgeIn?: number;
  /** A steel plate covers it (300.4(A)(1)). */
  readonly needsPlate: boolean;
  /** Through a plate, and so through a floor: closed again against fire spread. */
  readonly isSealed: boolean;
  readonly problems: readonly HoleProblem[];
}

/** What is known of a hole by what it is bored through; pure, for tables of limits. Lengths in inches. */
export function boredIn(
  reader: HouseReader,
  bored: Crossing['bored'],
  depthIn: number,
  diameterIn: number,
  isBearing: boolean,
): Pick<Hole, 'edgeIn' | 'needsPlate' | 'problems'> {
  const rules = reader.rules();
  // Of a corner, header or beam the maker's or engineer's word says what may be bored.
  if (bored === 'corner' || bored === 'header' || bored === 'beam')
    return { needsPlate: false, problems: [] };
  const edgeIn = (depthIn - diameterIn) / 2;
  const problems: HoleProblem[] = [];
  const isOver = (key: string): boolean => diameterIn > (depthIn * rules.number(key)) / 100 + 1e-9;
  if (bored === 'joist') {
    if (isOver('bore.joist')) problems.push('too-large');
    if (edgeIn < rules.number('bore.joistEdge') - 1e-9) problems.push('too-near');
    return { edgeIn, needsPlate: edgeIn < rules.number('bore.edge') - 1e-9, problems };
  }
  if (bored === 'plate') {
    if (isOver('bore.plateWidth')) problems.push('too-large');
  } else {
    if (isOver(isBearing ? 'bore.bearing' : 'bore.partition')) problems.push('too-large');
    if (edgeIn < rules.number('bore.wood') - 1e-9) problems.push('too-near');
  }
  return { edgeIn, needsPlate: edgeIn < rules.number('bore.edge') - 1e-9, problems };
}

/** Cables of 14 and 12 AWG share a hole; larger ones have their own. */
const isLight = (cable: CableId): boolean => areaOf(cableOf(cable).gauge) <= areaOf(12);

interface Through {
  readonly runId: string;
  readonly crossing: Crossing;
}

/** A record: what is kept is compared field by field. */
type ByMember = Readonly<Record<string, readonly Through[]>>;
const NONE: ByMember = {};
const spaceOf = (member: string): string => member.slice(0, member.indexOf('|'));

/** By house id: what goes through each member, in the order of the run ids, by the wall or ceiling that it is in. */
const THROUGH: Derivation<ReadonlyMap<string, ByMember>> = {
  name: 'what goes through members',
  compute: (reader) => {
    const spaces = new Map<string, Record<string, Through[]>>();
    const ids = reader
      .all('runs')
      .flatMap(({ id, kind }) => (kind === 'cable' ? [id] : []))
      .sort();
    for (const runId of ids)
      for (const crossing of wayOfRun(reader, runId, cableOnWay(reader, runId)).crossings) {
        const space = spaceOf(crossing.member);
        let through = spaces.get(space);
        if (!through) spaces.set(space, (through = {}));
        (through[crossing.member] ??= []).push({ runId, crossing });
      }
    return spaces;
  },
};

/** By wall or ceiling: what goes through its members. Where that is the same, nothing is asked of them. */
const THROUGH_SPACE: Derivation<ByMember> = {
  name: 'what goes through a wall',
  cutsOff: true,
  compute: (reader, space) => reader.derive(THROUGH, reader.houseId).get(space) ?? NONE,
};

/** By member: what goes through it. */
const THROUGH_MEMBER: Derivation<readonly Through[]> = {
  name: 'what goes through a member',
  cutsOff: true,
  compute: (reader, member) => reader.derive(THROUGH_SPACE, spaceOf(member))[member] ?? [],
};

const depthOf = (reader: HouseReader, graph: FramingGraph, { bored, wall }: Crossing): number =>
  bored === 'joist' || wall === undefined
    ? reader.rules().number('route.joistDepth')
    : graph.walls[wall]!.framed.depthIn;

/**
 * By member: its holes. Each run is routed as if it were alone; here they share, in the order of their ids, up to what a hole takes
 * (common practice), and through a sealed one up to what need not be derated (334.80); then there is another hole.
 */
const HOLES: Derivation<readonly Hole[]> = {
  name: 'holes of a member',
  cutsOff: true,
  compute: (reader, member) => {
    const through = reader.derive(THROUGH_MEMBER, member);
    const rules = reader.rules();
    const graph = framingGraph(reader);
    const isSealed = through[0]?.crossing.bored === 'plate';
    const most = isSealed
      ? Math.min(rules.number('bore.perHole'), rules.number('bore.perSealed'))
      : rules.number('bore.perHole');
    const open: { readonly light: boolean; readonly runIds: string[]; readonly crossing: Crossing }[] = [];
    for (const { runId, crossing } of through) {
      const light = isLight(cableOnWay(reader, runId));
      const last = open.findLast((hole) => hole.light === light);
      // A run that comes through the same member again has a hole of its own there.
      if (light && last && last.runIds.length < Math.max(1, most) && !last.runIds.includes(runId))
        last.runIds.push(runId);
      else open.push({ light, runIds: [runId], crossing });
    }
    return open.map(({ light, runIds, crossing }, at): Hole => {
      const diameterIn = rules.number(light ? 'bore.diameter' : 'bore.large');
      const kind = crossing.wall === undefined ? undefined : graph.walls[crossing.wall]!.framed.kind;
      const isBearing = kind === 'exterior' || rules.text('bore.inner') === 'bearing';
      return {
        member,
        number: at + 1,
        at: crossing,
        runIds,
        diameterIn,
        isSealed,
        ...boredIn(reader, crossing.bored, depthOf(reader, graph, crossing), diameterIn, isBearing),
      };
    });
  },
};

/** The holes of a member, by its name. */
export const holesIn = (reader: HouseReader, member: string): readonly Hole[] => reader.derive(HOLES, member);

/** Every member that is bored, in a fixed order. */
export const boredMembers = (reader: HouseReader): readonly string[] =>
  [...reader.derive(THROUGH, reader.houseId).values()].flatMap((through) => Object.keys(through));

/** The holes that a run goes through, on its way. */
export function holesOfRun(reader: HouseReader, runId: string): readonly Hole[] {
  const seen = new Map<string, number>();
  return wayOfRun(reader, runId, cableOnWay(reader, runId)).crossings.flatMap(({ member }) => {
    const nth = seen.get(member) ?? 0;
    seen.set(member, nth + 1);
    return holesIn(reader, member).filter(({ runIds }) => runIds.includes(runId))[nth] ?? [];
  });
}
