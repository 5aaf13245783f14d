import { setting } from '../changes/change.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import { devicesIn, shapeOfBox, standingPull } from '../facts/box-facts.js';
import { supplyOf } from '../facts/circuit-facts.js';
import type { Finding, Fix } from '../findings/finding.js';
import type { FramingGraph } from '../routing/framing-graph.js';
import { framingGraph } from '../routing/framing-graph.js';
import { attachedAt } from '../routing/attached.js';
import { cableOnWay } from '../routing/run-cable.js';
import { standingOf } from '../routing/standing.js';
import type { WaySegment } from '../routing/way-geometry.js';
import type { Way } from '../routing/way.js';
import { RUN_WAY, forcedWay, wayOfRun } from '../routing/way.js';

/** An accessory that is seen on a wall: how far along the wall, and how high over the lowest floor, from where to where. Inches. */
interface Seen {
  readonly wall: number;
  readonly alongIn: readonly [from: number, to: number];
  readonly zIn: readonly [from: number, to: number];
}

/** Half the height of a plate, and half the width of a gang: 86 mm (common practice). */
const HALF_IN = 43 / 25.4;

/** Every accessory on every wall of the house, by house id. */
const SEEN: Derivation<readonly Seen[]> = {
  name: 'accessories seen on walls',
  compute: (reader) => {
    const graph = framingGraph(reader);
    return reader.all('boxes').flatMap(({ id }): Seen[] => {
      const { kind, gangs } = shapeOfBox(reader, id);
      if (kind !== 'panel' && devicesIn(reader, id).length === 0) return [];
      const at = attachedAt(graph, standingOf(reader, id), 0);
      if (typeof at === 'string' || at.wall === undefined || at.alongIn === undefined) return [];
      const half = HALF_IN * Math.max(1, gangs);
      return [
        {
          wall: at.wall,
          alongIn: [at.alongIn - half, at.alongIn + half],
          zIn: [at.spot.zIn - HALF_IN, at.spot.zIn + HALF_IN],
        },
      ];
    });
  },
};

const isWithin = (at: number, [from, to]: readonly [number, number]): boolean =>
  at >= from - 0.5 && at <= to + 0.5;

/** Whether a stretch in a wall lies in a safe zone: at its top, in a corner, or straight up, down or across from an accessory. */
function isSafe(
  graph: FramingGraph,
  seen: readonly Seen[],
  { from, to }: WaySegment,
  wall: number,
  bandIn: number,
): boolean {
  const { framed, storey } = graph.walls[wall]!;
  const { a, lengthIn } = framed.wall;
  const along = [from, to].map(({ xIn, yIn }) => Math.hypot(xIn - a.xIn, yIn - a.yIn));
  const [low, high] = [Math.min(from.zIn, to.zIn), Math.max(from.zIn, to.zIn)];
  if (low >= storey.floorIn + storey.ceilingIn - bandIn - 0.5) return true;
  const own = seen.filter((one) => one.wall === wall);
  const isUpright = Math.abs(along[0]! - along[1]!) < 1;
  if (isUpright) {
    const inCorner = along[0]! <= bandIn || along[0]! >= lengthIn - bandIn;
    return inCorner || own.some(({ alongIn }) => isWithin(along[0]!, alongIn));
  }
  return high - low < 1 && own.some(({ zIn }) => isWithin(low, zIn));
}

/** Walls that somebody may shut a run out of. */
const MOST_SHUT = 40;

/**
 * The way round the walls in which a run lies outside of every safe zone, where there is one that lies in safe zones alone; of a run that
 * is in the wall already none helps.
 */
function wayAround(
  reader: HouseReader,
  runId: string,
  walls: ReadonlySet<number>,
  outsideOf: (way: Way) => readonly WaySegment[],
): Fix | undefined {
  const own = reader.part(RUN_WAY, runId);
  if (!own || standingPull(reader, runId)) return undefined;
  const graph = framingGraph(reader);
  const faces = [...walls].flatMap((wall) => {
    const { left, right } = graph.walls[wall]!.framed.wall;
    const face = left ?? right;
    return face ? [{ roomId: face.roomId, corner: face.corner }] : [];
  });
  const shutOut = [...(own.shutOut ?? []), ...faces];
  if (faces.length === 0 || shutOut.length > MOST_SHUT) return undefined;
  const cable = cableOnWay(reader, runId);
  const other = forcedWay(reader, runId, cable, { ...own, shutOut });
  if (other.unknown || other.isShut || other.unreached || outsideOf(other).length) return undefined;
  const moreIn = other.lengthIn - wayOfRun(reader, runId, cable).lengthIn;
  return {
    code: 'way-around',
    facts: { runId, moreIn: Math.max(0, moreIn) },
    change: setting('runs', runId, { shutOut }),
  };
}

/**
 * Concealed cable that is less deep than a rule asks lies in a safe zone *and* on a circuit with 30 mA RCD protection: the RCD never stands
 * for the zone (BS 7671 522.6.202, from memory). In walls with metal in them the RCD is asked at any depth (522.6.203). How deep it lies is
 * taken from the middle of the studs, the board over them not counted. By run id.
 */
export const ZONE_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'safe zones',
  cutsOff: true,
  compute: (reader, runId) => {
    const rules = reader.rules();
    const run = reader.get('runs', runId);
    if (!rules.has('zone.depth') || !run || run.kind !== 'cable') return [];
    const graph = framingGraph(reader);
    const seen = reader.derive(SEEN, reader.houseId);
    const way = wayOfRun(reader, runId, cableOnWay(reader, runId));
    const shallowOf = ({ segments }: Way): WaySegment[] =>
      segments.filter(
        ({ wall }) =>
          wall !== undefined && graph.walls[wall]!.framed.depthIn / 2 < rules.number('zone.depth') - 1e-6,
      );
    const shallow = shallowOf(way);
    const inWalls = way.segments.filter(({ wall }) => wall !== undefined);
    const outsideOf = (one: Way): WaySegment[] =>
      shallowOf(one).filter(
        (segment) =>
          segment.kind !== 'plate' && !isSafe(graph, seen, segment, segment.wall!, rules.number('zone.band')),
      );
    const outside = outsideOf(way);
    const where = { runId, boxId: run.from.boxId };
    const findings: Finding[] = [];
    if (outside.length) {
      const walls = new Set(outside.flatMap(({ wall }) => wall ?? []));
      const around = wayAround(reader, runId, walls, outsideOf);
      findings.push({
        code: 'zone.outside',
        severity: 'fix',
        where,
        facts: { lengthIn: outside.reduce((sum, { lengthIn }) => sum + lengthIn, 0) },
        source: { rule: 'zone.depth' },
        ...(around && { fixes: [around] }),
      });
    }
    const asksRcd = shallow.length > 0 || (inWalls.length > 0 && rules.flag('zone.metal'));
    const bare = run.circuitIds.filter(
      (id) => !['gfci', 'dual'].includes(supplyOf(reader, id)?.protection ?? 'gfci'),
    );
    const [first] = bare;
    const protection = first && supplyOf(reader, first)?.protection === 'afci' ? 'dual' : 'gfci';
    if (asksRcd && first)
      findings.push({
        code: 'zone.no-rcd',
        severity: 'stop',
        where: { ...where, circuitId: first },
        facts: { anyDepth: shallow.length === 0 },
        source: { rule: 'zone.depth' },
        fixes: [
          {
            code: 'protect',
            facts: { circuitId: first, protection },
            change: setting('circuits', first, { protection }),
          },
        ],
      });
    return findings;
  },
};

/** {@link ZONE_FINDINGS} of every run; the missing RCD of a circuit is said once. */
export function zoneFindings(reader: HouseReader): Finding[] {
  const said = new Set<string>();
  return reader.all('runs').flatMap(({ id }) =>
    reader.derive(ZONE_FINDINGS, id).filter((finding) => {
      const { circuitId } = finding.where;
      if (finding.code !== 'zone.no-rcd' || !circuitId) return true;
      if (said.has(circuitId)) return false;
      said.add(circuitId);
      return true;
    }),
  );
}
