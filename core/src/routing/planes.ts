import type { HouseReader } from '../derive/reader.js';
import { partOf } from '../derive/part.js';
import type { Outline } from '../plan/outline.js';
import { builtStorey } from '../plan/storey-plan.js';
import type { CeilingPlane } from './ceiling-plane.js';
import { planeOver } from './ceiling-plane.js';
import type { StackedStorey } from './storey-stack.js';

const ROOM_ROOF = partOf('rooms', 'roof', ['vaulted']);

type Drawn = { readonly outline: Outline };

/** Whether a room lies, at least by a foot, over some other one. */
function isOver({ outline }: Drawn, others: readonly Drawn[]): boolean {
  const span = (of: Outline, field: 'xIn' | 'yIn'): readonly [number, number] => [
    Math.min(...of.map((one) => one[field])),
    Math.max(...of.map((one) => one[field])),
  ];
  return others.some((other) =>
    (['xIn', 'yIn'] as const).every((field) => {
      const [[a, b], [c, d]] = [span(outline, field), span(other.outline, field)];
      return Math.min(b, d) - Math.max(a, c) > 12;
    }),
  );
}

/** Every ceiling, floor and crawl space of a house, and which of them lies over and under each room. */
export function planesOf(
  reader: HouseReader,
  storeys: readonly StackedStorey[],
): {
  readonly planes: readonly CeilingPlane[];
  readonly over: ReadonlyMap<string, number>;
  readonly under: ReadonlyMap<string, number>;
} {
  const rules = reader.rules();
  const [between, depth, spacing] = [
    rules.number('cut.between'),
    rules.number('route.joistDepth'),
    rules.number('route.joists'),
  ];
  const isBoredAttic = rules.text('route.attic') === 'bored';
  const planes: CeilingPlane[] = [];
  const [over, under] = [new Map<string, number>(), new Map<string, number>()];
  const built = storeys.map(({ id }) => builtStorey(reader, id).rooms);
  storeys.forEach((storey, at) => {
    const rooms = built[at]!;
    const isUnderRoof = ({ id }: { readonly id: string }): boolean =>
      storey.above === 'roof' || (reader.part(ROOM_ROOF, id)?.vaulted ?? false);
    const beams = reader
      .mentioning('beams', storey.id)
      .map(({ a, b, boring }) => ({ a, b, ...(boring !== undefined && { boring }) }));
    const add = (
      of: readonly { readonly id: string; readonly outline: Outline }[],
      facts: Pick<CeilingPlane, 'kind' | 'heightIn' | 'crossing'> & { readonly name: string },
    ): number | undefined => {
      const corners = of.flatMap(({ outline }) => [...outline]);
      const size = (field: 'xIn' | 'yIn'): number =>
        Math.max(...corners.map((one) => one[field])) - Math.min(...corners.map((one) => one[field]));
      // Joists span the shorter way where nobody has said (common practice).
      const along =
        storey.framingRuns !== undefined
          ? storey.framingRuns === 'across'
            ? ('x' as const)
            : ('y' as const)
          : size('xIn') < size('yIn')
            ? ('x' as const)
            : ('y' as const);
      const { name, ...own } = facts;
      const plane = planeOver(
        of.map(({ outline }) => outline),
        { ...own, key: `${storey.id} ${name}`, storeyId: storey.id, along, beams, joistsIn: spacing },
      );
      return plane && planes.push(plane) - 1;
    };
    const ceiling = storey.floorIn + storey.ceilingIn;
    // A truss is never bored (IRC R802.10, from memory): where that is permitted, cable goes between its webs.
    const through =
      storey.framing === 'joists'
        ? ('bored' as const)
        : storey.boring === undefined
          ? ('none' as const)
          : storey.framing === 'trusses'
            ? ('webs' as const)
            : ('bored' as const);
    const flat = rooms.filter((room) => !isUnderRoof(room));
    const roofed = rooms.filter(isUnderRoof);
    if (storey.above === 'floor') {
      // Rooms of the next story with nothing under them stand on the ground.
      const upper =
        storeys[at + 1]?.below === 'floor' ? built[at + 1]!.filter((room) => isOver(room, rooms)) : [];
      const plane = add([...flat, ...upper], {
        name: 'over',
        kind: 'floor',
        heightIn: ceiling + between / 2,
        // No I-joist is bored but by its maker's chart: between floors nothing goes over them.
        crossing: through,
      });
      if (plane !== undefined) {
        for (const { id } of flat) over.set(id, plane);
        for (const { id } of upper) under.set(id, plane);
      }
    } else if (storey.above === 'attic') {
      const plane = add(flat, {
        name: 'over',
        kind: 'attic',
        heightIn: ceiling + depth / 2,
        crossing: isBoredAttic && through === 'bored' ? 'bored' : 'over',
      });
      if (plane !== undefined) {
        for (const { id } of flat) over.set(id, plane);
        if (storeys[at + 1]?.below === 'floor')
          for (const room of built[at + 1]!) if (isOver(room, rooms)) under.set(room.id, plane);
      }
    }
    const roof = add(roofed, {
      name: 'roof',
      kind: 'roof',
      heightIn: ceiling + depth / 2,
      crossing: through,
    });
    if (roof !== undefined) for (const { id } of roofed) over.set(id, roof);
    if (storey.below === 'basement' || storey.below === 'crawl-space') {
      const plane = add(rooms, {
        name: 'under',
        kind: storey.below,
        heightIn: storey.floorIn - between / 2,
        crossing: 'bored',
      });
      if (plane !== undefined) for (const { id } of rooms) under.set(id, plane);
    }
  });
  return { planes, over, under };
}
