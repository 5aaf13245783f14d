import type * as z from 'zod';
import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxSoldIn, deviceSoldIn } from '../rulebook/catalogue.js';
import type { BoxType, DeviceType } from '../vocabulary/catalogue-types.js';
import { cableOf } from '../rulebook/cables.js';
import type { CableId } from '../rulebook/cables.js';
import type { Box, BoxModel, Device, Point, Pull, Room, Run } from '../house/model.js';
import { partOf } from '../derive/part.js';
import { BURIED_POINT, MODEL_FIELDS } from '../house/model.js';
import type { CatalogueBox } from '../vocabulary/catalogue-types.js';
import type { Clamps } from '../vocabulary/kinds.js';
import type { Gauge } from '../vocabulary/size.js';
import { gaugeOf } from '../vocabulary/size.js';
import type { Colour } from '../vocabulary/text.js';

/** What is known of a box's shape, from the catalogue or from what is marked in it. */
export interface BoxFacts {
  readonly name: string;
  readonly material: CatalogueBox['material'];
  readonly kind: CatalogueBox['kind'];
  readonly gangs: number;
  readonly slots: number;
  readonly clamps: z.infer<typeof Clamps>;
  readonly groundScrew: boolean;
  /** Made to carry a fan. */
  readonly fanRated?: boolean | undefined;
  /** The most cables that are marked on a light's own splice box. */
  readonly mostCables?: number | undefined;
  /** Cubic inches; undefined where fill does not apply (panel, buried point, low voltage). */
  readonly volumeIn3?: number;
  readonly volumeSource: string;
  /** Width, height and depth inside, where a box is chosen by them. */
  readonly insideIn?: BoxType['insideIn'];
}

/** What kind of box it is: all that its shape and volume follow from. */
export const BOX_SHAPE = partOf('boxes', 'shape', [...MODEL_FIELDS, 'fittings', 'clamps']);
export const BOX_MADE = partOf('boxes', 'made', ['asBuilt']);
export const BOX_EXCUSED = partOf('boxes', 'excused', ['neutralException']);
export const BOX_WIRES = partOf('boxes', 'wires', ['fixtureWires', 'isolatedGround']);
const BOX_MODEL = partOf('boxes', 'model', ['catalogueId']);
const BOX_ROOM = partOf('boxes', 'room', ['roomId']);
const ROOM_KIND = partOf('rooms', 'kind', ['id', 'kind']);

/** Facts of models from the built-in catalogue, which do not change, by the country whose names they go by. */
const BUILT_IN = new WeakMap<object, Map<string, BoxFacts>>();

function factsOfModel(reader: HouseReader, model: BoxModel): BoxFacts | undefined {
  const { catalogueId } = model;
  if (catalogueId === undefined) {
    const { markedVolumeIn3, markedClamps, material, kind, gangs, slots, groundScrew, fanRated } = model;
    return {
      material: material!,
      kind: kind!,
      gangs: gangs!,
      slots: slots!,
      clamps: markedClamps!,
      groundScrew: groundScrew!,
      fanRated,
      name: `${material} ${kind} as marked`,
      volumeIn3: markedVolumeIn3!,
      volumeSource: 'marked in the box',
    };
  }
  const rules = reader.rules();
  let names = BUILT_IN.get(rules.jurisdiction);
  if (!names) BUILT_IN.set(rules.jurisdiction, (names = new Map<string, BoxFacts>()));
  const known = names.get(catalogueId);
  if (known) return known;
  const builtIn = boxSoldIn(rules, catalogueId);
  const type = builtIn ?? reader.get('catalogueBoxes', catalogueId);
  if (!type) return undefined;
  const facts: BoxFacts = {
    ...type,
    volumeSource: builtIn ? (builtIn.section ?? builtIn.provenance) : 'the house’s own catalogue',
  };
  if (builtIn) names.set(catalogueId, facts);
  return facts;
}

/** Facts of a box by its id, for what need not know more of it than its shape. */
export const shapeOfBox = (reader: HouseReader, boxId: string): BoxFacts =>
  boxFacts(reader, reader.part(BOX_SHAPE, boxId)!);

/** Facts of a box, with what the box itself says about its clamps and the gangs of the ring on it. */
export function boxFacts(reader: HouseReader, box: BoxModel & Pick<Box, 'fittings' | 'clamps'>): BoxFacts {
  const facts = factsOfModel(reader, box);
  if (!facts) throw new Error(`a box names no known model: ${box.catalogueId}`);
  const gangs = box.fittings?.findLast((fitting) => fitting.gangs !== undefined)?.gangs;
  if (!box.clamps && gangs === undefined) return facts;
  return {
    ...facts,
    ...(box.clamps && { clamps: box.clamps }),
    ...(gangs !== undefined && { gangs }),
  };
}

export function deviceType(reader: HouseReader, device: Device): DeviceType {
  const type =
    deviceSoldIn(reader.rules(), device.catalogueId) ?? reader.get('catalogueDevices', device.catalogueId);
  if (!type) throw new Error(`device ${device.id} names no known type`);
  return type;
}

/** Gangs that a device takes. */
export const gangsOf = (reader: HouseReader, device: Device): number =>
  device.widthGangs ?? deviceType(reader, device).widthGangs ?? 1;

/** A conductor of a run. `key` is its name within the run. */
export interface Conductor {
  readonly runId: string;
  readonly key: string;
  readonly colour: Colour;
  readonly gauge: Gauge;
  readonly ground: boolean;
}

/** The pull that counts: the latest one that is not scrapped, one that is in before one that is only part of the way. */
export function standingPull(reader: HouseReader, runId: string): Pull | undefined {
  const pulls = reader.mentioning('pulls', runId).filter((pull) => pull.state !== 'scrapped');
  return pulls.findLast((pull) => pull.state === 'in') ?? pulls.at(-1);
}

/** The cable in the wall, or else the one planned. */
export const cableIn = (reader: HouseReader, run: Run): CableId | undefined =>
  run.kind === 'cable' ? (standingPull(reader, run.id)?.cable ?? run.plannedCable) : undefined;

/** Conductors of runs with the cable that was asked for last. */
const IN_CABLE = new WeakMap<Run, { readonly id: CableId; readonly conductors: readonly Conductor[] }>();

/** Every conductor of a run, grounds included. A low-voltage run has none that count here. */
export function conductorsOf(reader: HouseReader, run: Run): readonly Conductor[] {
  if (run.kind === 'raceway') {
    const seen = new Map<Colour, number>();
    return (run.wires ?? []).map(({ size, colour }): Conductor => {
      const number = (seen.get(colour) ?? 0) + 1;
      seen.set(colour, number);
      const ground = colour === 'GN' || colour === 'BARE';
      return {
        runId: run.id,
        key: number === 1 ? colour : `${colour}#${number}`,
        colour,
        gauge: gaugeOf(size),
        ground,
      };
    });
  }
  const id = cableIn(reader, run);
  if (!id) return [];
  let known = IN_CABLE.get(run);
  if (known?.id !== id) {
    const { colours, gauge, groundGauge } = cableOf(id);
    const conductors = colours.map((colour): Conductor => ({
      runId: run.id,
      key: colour,
      colour,
      gauge,
      ground: false,
    }));
    conductors.push({ runId: run.id, key: 'BARE', colour: 'BARE', gauge: groundGauge, ground: true });
    IN_CABLE.set(run, (known = { id, conductors }));
  }
  return known.conductors;
}

/** The runs that end in a box, in list order. */
export const runsAt = (reader: HouseReader, boxId: string): readonly Run[] =>
  reader.mentioning('runs', boxId);

/** The boxes that a run joins. */
export const boxesOf = (run: Run): readonly [string, string] => [run.from.boxId, run.to.boxId];

/** The end of a run that lies in this box. */
export const endAt = (run: Run, boxId: string): { boxId: string; slot?: number | undefined } =>
  run.from.boxId === boxId ? run.from : run.to;

export const farBox = (run: Run, boxId: string): string =>
  run.from.boxId === boxId ? run.to.boxId : run.from.boxId;

/**
 * The room of a box. A buried point of which nobody has said the room belongs to that of the box its cable comes from;
 * undefined where no cable comes to it.
 */
export function roomOf(reader: HouseReader, boxId: string): Pick<Room, 'id' | 'kind'> | undefined {
  const own = reader.part(BOX_ROOM, boxId)?.roomId;
  if (own !== undefined) return reader.part(ROOM_KIND, own);
  for (const run of runsAt(reader, boxId)) {
    const roomId = reader.part(BOX_ROOM, farBox(run, boxId))?.roomId;
    if (roomId !== undefined) return reader.part(ROOM_KIND, roomId);
  }
  return undefined;
}

/** The boxes of a room in list order, then the buried points that belong to it by their cables. By room id. */
const BOXES_IN_ROOM: Derivation<readonly Box[]> = {
  name: 'boxes in room',
  compute: (reader, roomId) => {
    const boxes = reader.mentioning('boxes', roomId);
    const buried = new Set<Box>();
    for (const { id } of boxes)
      for (const run of runsAt(reader, id)) {
        const far = reader.get('boxes', farBox(run, id));
        if (far && far.roomId === undefined && roomOf(reader, far.id)?.id === roomId) buried.add(far);
      }
    return buried.size ? [...boxes, ...buried] : boxes;
  },
};

export const boxesInRoom = (reader: HouseReader, roomId: string): readonly Box[] =>
  reader.derive(BOXES_IN_ROOM, roomId);

/** Whether a cable that ends in this box ends loose: at a buried point on which nothing has been put yet. */
export const isLooseEnd = (reader: HouseReader, boxId: string): boolean =>
  reader.part(BOX_MODEL, boxId)?.catalogueId === BURIED_POINT &&
  runsAt(reader, boxId).length < 2 &&
  reader.mentioning('devices', boxId).length === 0;

/** Circuits of lists of runs: a list stays the same one as long as its records do. */
const CIRCUITS_OF = new WeakMap<readonly Run[], readonly string[]>();

/** Circuits with a run in this box, in list order of the runs. */
export function circuitsAt(reader: HouseReader, boxId: string): readonly string[] {
  const runs = runsAt(reader, boxId);
  let circuits = CIRCUITS_OF.get(runs);
  if (!circuits) {
    circuits = [...new Set(runs.flatMap((run) => (run.kind === 'low-voltage' ? [] : run.circuitIds)))];
    CIRCUITS_OF.set(runs, circuits);
  }
  return circuits;
}

/** The circuit a point belongs to: the one it names, or the only one in its box. Undefined when nobody has said. */
export function circuitOfPoint(reader: HouseReader, point: Point): string | undefined {
  if (point.circuitId) return point.circuitId;
  const device = reader.get('devices', point.deviceId);
  const circuits = device ? circuitsAt(reader, device.boxId) : [];
  return circuits.length === 1 ? circuits[0] : undefined;
}

/** Lists of devices by gang: a list stays the same one as long as its records do. */
const BY_GANG = new WeakMap<readonly Device[], readonly Device[]>();

/** Devices of a box by gang, then list order. */
export function devicesIn(reader: HouseReader, boxId: string): readonly Device[] {
  const devices = reader.mentioning('devices', boxId);
  if (devices.length < 2) return devices;
  let sorted = BY_GANG.get(devices);
  if (!sorted) BY_GANG.set(devices, (sorted = [...devices].sort((a, b) => a.gang - b.gang)));
  return sorted;
}
