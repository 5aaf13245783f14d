import type { Derivation, HouseReader } from '../../derive/reader.js';
import { boxesInRoom } from '../../facts/box-facts.js';
import { RoomPlaces } from '../../furnish/room-places.js';
import type { RoomSize } from '../../furnish/room-size.js';
import { areaFt2 } from '../../furnish/room-size.js';
import type { Point } from '../../house/model.js';
import type { Rulebook } from '../../rulebook/rulebook.js';
import { roomLayout } from '../../plan/room-layout.js';
import type { LaidBox, RoomLayout } from '../../plan/room-layout.js';
import { hasReceptacle, isGeneral } from '../../facts/outlets.js';
import type { OutletPlace } from '../../findings/facts.js';
import type { Finding, Fix, Source } from '../../findings/finding.js';
import { lightAddition, switchAddition } from './additions.js';
import { locationAddition } from './rewiring.js';
import { receptacleAnywhere } from './spacing-findings.js';

/** So much floor that the walls of a foyer are asked for receptacles, where a code asks that at all. Square feet. */
export const isLargeFoyer = (reader: HouseReader, areaFt2: number): boolean =>
  reader.rules().has('layout.foyerArea') && areaFt2 > reader.rules().number('layout.foyerArea');

/** Whether a code asks for something at all: where nobody publishes it, it is a habit. */
const isAsked = (rules: Rulebook, source: Source): boolean =>
  'rule' in source
    ? rules.has(source.rule)
    : 'section' in source && rules.jurisdiction.sections[source.section].publication !== 'common practice';

/** A receptacle beside a basin, in a garage and where the laundry is done: heights in inches, common practice. */
const HEIGHTS: Partial<Record<OutletPlace, number>> = {
  bath: 42,
  garage: 48,
  laundry: 42,
  porch: 18,
  outside: 18,
};

/** Receptacles that a room is asked for whatever its walls are. */
export function outletFindings(reader: HouseReader, layout: RoomLayout, size: RoomSize): Finding[] {
  const { room, boxes } = layout;
  const rules = reader.rules();
  const tooHigh = rules.number('layout.tooHigh');
  const serving = boxes.filter((box) => hasReceptacle(box) && isGeneral(box));
  const asked = (
    what: OutletPlace,
    needs: number,
    source: Source,
    counts: (box: LaidBox) => boolean = () => true,
  ): Finding[] => {
    const has = serving.filter(counts).length;
    if (has >= needs || !isAsked(rules, source)) return [];
    return [
      {
        code: 'layout.no-outlet',
        severity: 'fix',
        where: { roomId: room.id },
        facts: { what, has, needs },
        measured: { kind: 'number', number: has },
        allowed: { kind: 'number', number: needs },
        source,
        fixes: receptacleAnywhere(reader, layout, HEIGHTS[what]),
      },
    ];
  };
  switch (room.kind) {
    case 'bath':
      return rules.has('layout.basin') ? asked('bath', 1, { section: 'bathOutlet' }) : [];
    case 'hall':
      return rules.has('layout.hall') && Math.max(size.lengthIn, size.widthIn) >= rules.number('layout.hall')
        ? asked('hall', 1, { rule: 'layout.hall' })
        : [];
    case 'foyer':
      // Where it is drawn, it is told wall by wall.
      return !layout.outline && isLargeFoyer(reader, areaFt2(size))
        ? asked('foyer', 1, { rule: 'layout.foyerArea' })
        : [];
    case 'garage': {
      if (!rules.has('layout.bayArea')) return [];
      const bays = Math.max(1, Math.floor(areaFt2(size) / rules.number('layout.bayArea')));
      return asked(
        'garage',
        bays,
        { section: 'garageOutlets' },
        ({ middleIn }) => (middleIn ?? 0) <= tooHigh,
      );
    }
    case 'laundry':
      return asked('laundry', 1, { section: 'laundryOutlet' });
    case 'basement':
      return asked('basement', 1, { section: 'basementOutlet' });
    case 'utility':
      return asked('service', 1, { section: 'serviceOutlet' });
    case 'porch':
      return asked('porch', 1, { section: 'outdoorOutlets' });
    default:
      return [];
  }
}

/** Receptacles at the front and at the back of the house, by house id. */
export const OUTSIDE_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'outside receptacles',
  compute: (reader) => {
    const outside = reader.all('rooms').filter(({ kind }) => kind === 'porch' || kind === 'outdoors');
    const boxes = outside.flatMap(({ id }) => reader.mentioning('boxes', id));
    if (boxes.length === 0 || !reader.rules().has('layout.outside')) return [];
    const hasOne = (boxId: string): boolean =>
      reader.mentioning('devices', boxId).some(({ catalogueId }) => /^receptacle(-gfci)?$/.test(catalogueId));
    const has = boxes.filter(({ id }) => hasOne(id)).length;
    const needs = reader.rules().number('layout.outside');
    // Where the fewest are, first of all where there is none.
    const receptacles = (roomId: string): number =>
      reader.mentioning('boxes', roomId).filter(({ id }) => hasOne(id)).length;
    const [fewest] = outside.toSorted((a, b) => receptacles(a.id) - receptacles(b.id));
    const layout = fewest && roomLayout(reader, fewest.id);
    return has >= needs
      ? []
      : [
          {
            code: 'layout.no-outlet',
            severity: 'note',
            where: { roomId: outside[0]!.id },
            facts: { what: 'outside', has, needs },
            measured: { kind: 'number', number: has },
            allowed: { kind: 'number', number: needs },
            source: { rule: 'layout.outside' },
            fixes: layout ? receptacleAnywhere(reader, layout, HEIGHTS.outside) : [],
          },
        ];
  },
};

/** A light on a switch in every room that is asked for one; switch locations at both ends of a flight of stairs. */
export function lightFindings(reader: HouseReader, layout: RoomLayout): Finding[] {
  const { room } = layout;
  const rules = reader.rules();
  if (!rules.list('layout.lightRooms').includes(room.kind)) return [];
  const pointsOf = (boxId: string): readonly Point[] =>
    reader.mentioning('devices', boxId).flatMap(({ id }) => reader.mentioning('points', id));
  const boxes = boxesInRoom(reader, room.id);
  const points = boxes.flatMap(({ id }) => pointsOf(id).map((point) => ({ point, boxId: id })));
  const lamps = points.filter(({ point }) => point.role === 'lamp');
  const controlsOf = ({ id }: Point) =>
    reader.mentioning('controls', id).filter(({ loads, places }) => loads.includes(id) && places.length > 0);
  // A switched receptacle may stand for the light of a habitable room, not of kitchen and bath.
  const mayBeReceptacle = rules.list('layout.wallRooms').includes(room.kind) && room.kind !== 'kitchen';
  const lit = points.filter(
    ({ point }) => point.role === 'lamp' || (mayBeReceptacle && point.role === 'receptacle'),
  );
  const controls = lit.flatMap(({ point }) => controlsOf(point));
  const base = { code: 'layout.no-light', severity: 'fix', where: { roomId: room.id } } as const;
  const places = new RoomPlaces(reader, room);
  const locations = room.kind === 'stairs' ? rules.number('layout.stairsPlaces') : 1;
  if (controls.length === 0) {
    const source: Source = { section: 'lightingOutlets' };
    const fix = (code: 'set-light' | 'set-switch', change: Fix['change'] | undefined): Fix[] =>
      change ? [{ code, facts: { roomId: room.id }, change }] : [];
    if (lamps.length === 0)
      return [
        {
          ...base,
          facts: { lacks: 'light' },
          source,
          fixes: fix(
            'set-light',
            lightAddition(reader, room, {
              light: places.ceilingAt(1, 1),
              switches: Array.from({ length: locations }, (_none, at) => places.switchAt(at + 1)),
            }),
          ),
        },
      ];
    const { boxId } = lamps[0]!;
    const loads = lamps.filter((lamp) => lamp.boxId === boxId).map(({ point }) => point.id);
    return [
      {
        ...base,
        where: { roomId: room.id, boxId },
        facts: { lacks: 'switch' },
        source,
        fixes: fix('set-switch', switchAddition(reader, room, boxId, loads, places.switchAt(1))),
      },
    ];
  }
  if (room.kind !== 'stairs') return [];
  const has = Math.max(...controls.map((control) => control.places.length));
  return has >= locations
    ? []
    : [
        {
          ...base,
          facts: { lacks: 'switch-location' },
          measured: { kind: 'number', number: has },
          allowed: { kind: 'number', number: locations },
          source: { section: 'stairLights' },
          fixes: controls.slice(0, 1).flatMap((control): Fix[] => {
            const change = locationAddition(reader, room, control, places.switchAt(2));
            return change ? [{ code: 'set-switch', facts: { roomId: room.id }, change }] : [];
          }),
        },
      ];
}
