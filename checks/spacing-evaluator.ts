/**
 * A second opinion on where receptacles are missing along walls and counters, and on where boxes stand. It reads the JSON of a
 * house file, walks each wall by steps of a quarter inch, and shares no code with the core. NEC 210.52(A) and (C)(1), from memory.
 */

type Row = Readonly<Record<string, unknown>> & { readonly id: string };
interface Place {
  readonly x: number;
  readonly y: number;
}
const STEP = 0.25;
/** Studs of 2 × 4 between rooms, of 2 × 6 where a wall has the outside behind it, or water on it. */
const [THIN, DEEP] = [3.5, 5.5];
const WET = ['basin', 'vanity', 'tub', 'shower'];
const WALL_ROOMS = ['dining', 'living', 'family', 'bedroom', 'office', 'other', 'kitchen'];

interface Step {
  readonly kind: 'wall' | 'counter' | 'gap';
  readonly corner: string;
  readonly s: number;
  /** A receptacle stands here, and serves the wall or the counter. */
  wall: boolean;
  counter: boolean;
}

export interface Missing {
  /** Inches of wall, and of counter, that are too far from a receptacle. */
  readonly wallIn: number;
  readonly counterIn: number;
}

const num = (row: Row, field: string): number => Number(row[field]);

/** What each drawn room lacks, by its id. */
export function missingIn(house: Readonly<Record<string, unknown>>): Map<string, Missing> {
  const list = (name: string): readonly Row[] => (house[name] ?? []) as readonly Row[];
  const rooms = new Map(list('rooms').map((room) => [room.id, room]));
  const corners = (room: Row): readonly Place[] =>
    (room['outline'] as readonly { xIn: number; yIn: number }[]).map(({ xIn, yIn }) => ({ x: xIn, y: yIn }));
  const along = (room: Row, corner: string, inches: number): Place => {
    const ring = corners(room);
    const at = Number(corner.slice(1));
    const [a, b] = [ring[at]!, ring[(at + 1) % ring.length]!];
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    return { x: a.x + ((b.x - a.x) * inches) / length, y: a.y + ((b.y - a.y) * inches) / length };
  };
  const doors = list('openings')
    .filter(({ kind }) => kind !== 'window')
    .map((opening) => {
      const room = rooms.get(String(opening['roomId']))!;
      const corner = String(opening['corner']);
      const ring = corners(room);
      const [a, b] = [ring[Number(corner.slice(1))]!, ring[(Number(corner.slice(1)) + 1) % ring.length]!];
      // What reaches past the end of its wall cuts no other.
      const length = Math.hypot(b.x - a.x, b.y - a.y);
      const from = num(opening, 'alongIn');
      return [
        along(room, corner, Math.min(length, from)),
        along(room, corner, Math.min(length, from + num(opening, 'widthIn'))),
        String(room['storeyId']),
      ] as const;
    });
  const receptacle = (boxId: string): boolean =>
    list('devices').some(
      (device) =>
        device['boxId'] === boxId &&
        list('points').some((point) => point['deviceId'] === device.id && point['role'] === 'receptacle'),
    );
  const isWithin = (ring: readonly Place[], { x, y }: Place): boolean => {
    let crossed = 0;
    ring.forEach((a, at) => {
      const b = ring[(at + 1) % ring.length]!;
      if (a.y > y !== b.y > y && x < a.x + ((y - a.y) * (b.x - a.x)) / (b.y - a.y)) crossed++;
    });
    return crossed % 2 === 1;
  };
  const wet = list('bands').filter((band) => WET.includes(String(band['kind'])));
  /** How deep a wall is: walked by steps, by what lies two inches behind it; as most of it is. */
  const depthOf = (room: Row, at: number): number => {
    const ring = corners(room);
    const [a, b] = [ring[at]!, ring[(at + 1) % ring.length]!];
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    const [dx, dy] = [(b.x - a.x) / length, (b.y - a.y) / length];
    const pieces: { other: Row | undefined; from: number; to: number }[] = [];
    for (let s = STEP / 2; s < length; s += STEP) {
      const behind = { x: a.x + dx * s + dy * 2, y: a.y + dy * s - dx * 2 };
      const other = [...rooms.values()].find(
        (one) =>
          one !== room &&
          one['outline'] &&
          one['storeyId'] === room['storeyId'] &&
          isWithin(corners(one), behind),
      );
      const last = pieces.at(-1);
      if (last && last.other === other) last.to = s;
      else pieces.push({ other, from: s, to: s });
    }
    const sums = new Map<number, number>();
    for (const { other, from, to } of pieces) {
      // Where a basin of either room stands on this stretch, as it lies on the plan.
      const isWet = wet.some((band) => {
        const owner = rooms.get(String(band['roomId']))!;
        if (band['corner'] === undefined || (owner !== room && owner !== other)) return false;
        const ends = [num(band, 'alongIn'), num(band, 'alongIn') + num(band, 'widthIn')].map((inches) => {
          const { x, y } = along(owner, String(band['corner']), inches);
          return { t: (x - a.x) * dx + (y - a.y) * dy, off: Math.abs((x - a.x) * dy - (y - a.y) * dx) };
        });
        if (ends.some(({ off }) => off > 0.5)) return false;
        const [low, high] = ends.map(({ t }) => t).toSorted((one, two) => one - two);
        return low! < to && high! > from;
      });
      const depth = !other || isWet ? DEEP : THIN;
      sums.set(depth, (sums.get(depth) ?? 0) + to - from + STEP);
    }
    return (sums.get(DEEP) ?? 0) >= (sums.get(THIN) ?? 0) ? DEEP : THIN;
  };
  const result = new Map<string, Missing>();
  for (const room of rooms.values()) {
    if (!room['outline']) continue;
    const ring = corners(room);
    const own = (name: string): readonly Row[] => list(name).filter((row) => row['roomId'] === room.id);
    const bands = own('bands');
    const hasCounter = bands.some(({ kind }) => kind === 'counter');
    const isAsked = WALL_ROOMS.includes(String(room['kind'])) && (room['kind'] !== 'kitchen' || hasCounter);
    const outlets = own('boxes').filter(
      (box) => box['corner'] !== undefined && !box['facesOut'] && receptacle(box.id),
    );
    const middle = (box: Row): number | undefined =>
      box['heightIn'] === undefined
        ? undefined
        : num(box, 'heightIn') + { top: -1.875, bottom: 1.875 }[String(box['heightReference'])]! ||
          num(box, 'heightIn');
    const walk: Step[] = [];
    ring.forEach((a, at) => {
      const b = ring[(at + 1) % ring.length]!;
      const length = Math.hypot(b.x - a.x, b.y - a.y);
      const corner = `c${at}`;
      const mine = bands.filter((band) => band['corner'] === corner);
      const isIn = (band: Row, s: number): boolean =>
        s > num(band, 'alongIn') && s < num(band, 'alongIn') + num(band, 'widthIn');
      // Its face runs from face to face of the walls at its ends, which stand square to it.
      const [before, after] = [
        depthOf(room, (at + ring.length - 1) % ring.length),
        depthOf(room, (at + 1) % ring.length),
      ];
      for (let s = before / 2 + STEP / 2; s < length - after / 2; s += STEP) {
        const place = { x: a.x + ((b.x - a.x) * s) / length, y: a.y + ((b.y - a.y) * s) / length };
        const inDoor = doors.some(([from, to, storeyId]) => {
          if (storeyId !== room['storeyId']) return false;
          const wide = Math.hypot(to.x - from.x, to.y - from.y);
          if (wide === 0) return false;
          const [dx, dy] = [(to.x - from.x) / wide, (to.y - from.y) / wide];
          // A door of a wall that runs along this one, in the same line.
          const across = Math.abs(dx * (b.y - a.y) - dy * (b.x - a.x)) / length;
          const beside = Math.abs((place.x - from.x) * dy - (place.y - from.y) * dx);
          const t = (place.x - from.x) * dx + (place.y - from.y) * dy;
          return across < 1e-6 && beside < 0.5 && t > 0 && t < wide;
        });
        const counter = mine.some((band) => band['kind'] === 'counter' && isIn(band, s));
        const cut = mine.some(
          (band) =>
            (['fireplace', 'vanity', 'tub', 'shower'].includes(String(band['kind'])) ||
              (band['kind'] === 'cabinet' && num(band, 'fromIn') < 6)) &&
            isIn(band, s),
        );
        walk.push({
          kind: counter ? 'counter' : inDoor || cut ? 'gap' : 'wall',
          corner,
          s,
          wall: false,
          counter: false,
        });
      }
    });
    for (const box of outlets) {
      const [at, height] = [num(box, 'alongIn'), middle(box)];
      const serves = bands.some(
        (band) =>
          band['kind'] === 'counter' &&
          band['corner'] === box['corner'] &&
          at >= num(band, 'alongIn') &&
          at <= num(band, 'alongIn') + num(band, 'widthIn') &&
          (height === undefined || (height >= num(band, 'toIn') && height <= num(band, 'toIn') + 20)),
      );
      const kind = serves ? 'counter' : 'wall';
      if (!serves && (height ?? 0) > 66) continue;
      // One that stands a little beyond the end of a wall is at its end.
      const [nearest] = walk
        .filter(
          (step) =>
            step.corner === box['corner'] && step.kind === kind && Math.abs(step.s - at) - STEP / 2 <= 4,
        )
        .toSorted((one, other) => Math.abs(one.s - at) - Math.abs(other.s - at));
      if (nearest) nearest[kind] = true;
    }
    const missing = (kind: 'wall' | 'counter', reach: number, least: number): number => {
      const start = walk.findIndex((step) => step.kind !== kind);
      const turned = start < 0 ? walk : [...walk.slice(start), ...walk.slice(0, start)];
      let far = 0;
      for (let from = 0; from < turned.length; from++) {
        if (turned[from]!.kind !== kind) continue;
        let to = from;
        while (to < turned.length && turned[to]!.kind === kind) to++;
        const run = turned.slice(from, to);
        const sockets = run.flatMap((step, index) => (step[kind] ? [index] : []));
        if (run.length * STEP >= least - STEP)
          run.forEach((_step, index) => {
            const isNear = sockets.some((socket) => {
              const straight = Math.abs(socket - index);
              const away = start < 0 ? Math.min(straight, run.length - straight) : straight;
              return away * STEP <= reach;
            });
            if (!isNear) far++;
          });
        from = to;
      }
      return far * STEP;
    };
    result.set(room.id, {
      wallIn: isAsked ? missing('wall', 72, 24) : 0,
      counterIn: missing('counter', 24, 12),
    });
  }
  return result;
}
