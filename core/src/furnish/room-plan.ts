import type { HouseReader } from '../derive/reader.js';
import type { Room } from '../house/model.js';
import { builtInDevice } from '../rulebook/catalogue.js';
import type { HeightReference } from '../vocabulary/kinds.js';
import type { KitItem, KitThing, RoomKit } from '../vocabulary/room-kit-types.js';
import type {
  BoxShape,
  Edge,
  Group,
  LookAt,
  LowVoltage,
  PlannedAsk,
  PlannedBox,
  PlannedControl,
  PlannedDevice,
  RoomPlan,
  Why,
} from './planned.js';
import { RoomPlaces } from './room-places.js';
import type { BoxPlace } from './room-places.js';
import { measured, sizeOfRoom } from './room-size.js';
import { standing } from './seats.js';

/** Most gangs of one box that is nailed to a stud: common practice. */
const MOST_GANGS = 4;

/** What is set for a thing: its box, what is in it, the letter of its tag. */
const THINGS: Readonly<Record<KitThing, { shape: BoxShape; device?: string; prefix: string }>> = {
  light: { shape: 'ceiling', device: 'luminaire', prefix: 'L' },
  'wall-light': { shape: 'buried-point', device: 'luminaire', prefix: 'W' },
  recessed: { shape: 'light-box', device: 'luminaire', prefix: 'L' },
  'fan-light': { shape: 'fan', device: 'fan-light', prefix: 'L' },
  exhaust: { shape: 'ceiling', device: 'fan', prefix: 'F' },
  receptacle: { shape: 'device', device: 'receptacle', prefix: 'R' },
  appliance: { shape: 'device', device: 'appliance', prefix: '' },
  alarm: { shape: 'ceiling', device: 'alarm', prefix: 'A' },
  data: { shape: 'low-voltage', prefix: 'D' },
  doorbell: { shape: 'low-voltage', prefix: 'B' },
  thermostat: { shape: 'low-voltage', prefix: 'T' },
};
const LOW_VOLTAGE: ReadonlySet<KitThing> = new Set(['data', 'doorbell', 'thermostat']);
const RECEPTACLES: Readonly<Record<string, string>> = {
  '120': 'receptacle-single',
  '240': 'receptacle-240',
  '120/240': 'receptacle-240-neutral',
};

/** What decides a room beside its kit. */
export interface RoomTask {
  readonly room: Room;
  readonly kit: RoomKit;
  /** Items of a kit of which one for the floor or the house is there already. */
  readonly isThere: (item: KitItem) => boolean;
  /** Outside lights whose switches hang in this room. */
  readonly switchedFromHere: readonly { readonly room: Room; readonly item: KitItem }[];
  /** Of a flight of stairs: the hall of the floor it leads to, where its upper switch hangs. */
  readonly above?: Room | undefined;
  readonly note: (look: LookAt) => void;
}

const countOf = (reader: HouseReader, room: Room, item: KitItem): number => {
  const size = sizeOfRoom(reader, room);
  if (item.onlyFrom && measured(size, item.onlyFrom.of) < item.onlyFrom.least) return 0;
  const many = item.every ? Math.ceil(measured(size, item.every.of) / item.every.each - 1e-9) : 0;
  return Math.max(item.least, many);
};

/** A light, or the two controls of a fan with its light. */
interface Switched {
  readonly item: KitItem;
  readonly name: string;
  readonly key: string;
  readonly order: number;
  readonly room: Room;
  readonly loads: readonly string[];
}

/** The kit of one room as boxes, devices, controls and what hangs on one circuit together. */
export function planRoom(reader: HouseReader, task: RoomTask): RoomPlan {
  return new RoomPlanning(reader, task).plan();
}

class RoomPlanning {
  private readonly boxes: PlannedBox[] = [];
  private readonly controls: PlannedControl[] = [];
  private readonly groups: Group[] = [];
  private readonly asks: PlannedAsk[] = [];
  private readonly lowVoltage: LowVoltage[] = [];
  private readonly isFanWired: boolean;
  private readonly places = new Map<string, RoomPlaces>();

  constructor(
    private readonly reader: HouseReader,
    private readonly task: RoomTask,
  ) {
    this.isFanWired = reader.rules().text('draft.fans') === 'wired';
  }

  plan(): RoomPlan {
    const { room, kit, isThere, switchedFromHere } = this.task;
    // What is switched from another room is drafted with that one.
    const items = kit.items.filter(
      (item, at) =>
        !isThere(item) &&
        item.switch?.hangs !== 'before' &&
        // Two lines of one key would be one thing: the first is it.
        kit.items.findIndex(({ key }) => key === item.key) === at,
    );
    const switched: Switched[] = [];
    const chains: { item: KitItem; boxes: PlannedBox[] }[] = [];
    for (const item of items) {
      const boxes = this.boxesOf(room, this.asChosen(item));
      if (boxes.length === 0) continue;
      if (item.switch) chains.push({ item, boxes });
      else this.unswitched(item, boxes);
    }
    for (const { room: outside, item } of switchedFromHere)
      chains.push({ item, boxes: this.boxesOf(outside, item) });
    const byReceptacle = chains.filter(({ item }) => this.isByReceptacle(item));
    for (const { item, boxes } of chains) switched.push(...this.switchesOf(item, boxes));
    if (switched.length) this.switchGroup(chains, switched, byReceptacle.length > 0);
    return {
      room,
      boxes: this.boxes,
      controls: this.controls,
      groups: this.groups,
      asks: this.asks,
      lowVoltage: this.lowVoltage,
    };
  }

  private why(item: KitItem, room: Room = this.task.room): Why {
    return { kit: room.kind, item: item.key };
  }

  /** A fan with light is a light alone where the house goes by that. */
  private asChosen(item: KitItem): KitItem {
    const isPaddle =
      item.thing === 'fan-light' && this.reader.rules().jurisdiction.fanRooms.includes(this.task.room.kind);
    return isPaddle && !this.isFanWired ? { ...item, thing: 'light', name: 'Light' } : item;
  }

  private isByReceptacle(item: KitItem): boolean {
    return (
      item.orReceptacle === true &&
      this.reader.rules().text('draft.livingLight') === 'receptacle' &&
      this.firstOutlet !== undefined
    );
  }

  /** The first receptacles of the room that serve its walls: one of them may be switched by half. */
  private get firstOutlet(): KitItem | undefined {
    return this.task.kit.items.find(({ thing, circuit }) => thing === 'receptacle' && circuit === 'outlets');
  }

  private placeOf(item: KitItem): Pick<PlannedBox, 'heightIn' | 'heightReference'> {
    if (item.heightIn !== undefined)
      return {
        heightIn: item.heightIn,
        ...(item.heightReference && { heightReference: item.heightReference }),
      };
    // Data is set level with the receptacle beside it.
    return item.thing === 'receptacle' || item.thing === 'data' ? this.houseHeight('receptacle') : {};
  }

  private houseHeight(kind: 'switch' | 'receptacle'): Pick<PlannedBox, 'heightIn' | 'heightReference'> {
    const rules = this.reader.rules();
    return {
      heightIn: rules.number(`height.${kind}`),
      heightReference: rules.text(`height.${kind}To`) as HeightReference,
    };
  }

  /** One box for each of an item; none where a receptacle stands for the light. */
  private boxesOf(room: Room, item: KitItem): PlannedBox[] {
    if (this.isByReceptacle(item)) {
      // The first receptacle of the room is switched by half: it is part of the switch's group.
      const outlet = this.firstOutlet!;
      return countOf(this.reader, room, outlet) > 0 ? [this.box(room, outlet, 1, 1)] : [];
    }
    const isHalf = this.task.kit.items.some((other) => this.isByReceptacle(other));
    const first = isHalf && item === this.firstOutlet ? 2 : 1;
    const outlets = this.placesOf(room).outlets(item);
    const count = countOf(this.reader, room, item);
    const isSpaced = item.every?.of === 'wall-ft' && item.circuit !== 'counter';
    const spaced = outlets && Math.max(isSpaced ? item.least : 0, outlets.length);
    const many = item.besideCounters ? (spaced ?? 0) : count && spaced !== undefined ? spaced : count;
    return Array.from({ length: Math.max(0, many - first + 1) }, (_none, index) =>
      this.box(room, item, index + first, many),
    );
  }

  private placesOf(room: Room): RoomPlaces {
    const known = this.places.get(room.id) ?? new RoomPlaces(this.reader, room);
    this.places.set(room.id, known);
    return known;
  }

  /** Where the n-th of so many of an item goes, where the room has an outline. */
  private placeIn(
    room: Room,
    item: KitItem,
    number: number,
    many: number,
    catalogueId: string | undefined,
  ): BoxPlace {
    const places = this.placesOf(room);
    const place = places.outlets(item)?.[number - 1];
    if (place) return place;
    const { shape } = THINGS[item.thing];
    const isOverhead = shape === 'ceiling' || shape === 'fan' || shape === 'light-box';
    // A second light belongs over something: the sink.
    if (!isOverhead || (item.thing === 'light' && (item.switch?.order ?? 1) > 1)) {
      const kind = shape === 'buried-point' || shape === 'low-voltage' ? shape : 'device';
      return places.seat(item, standing(kind, catalogueId), number, many, this.placeOf(item));
    }
    // Lights have the middle: an alarm and a fan that draws air out stand beside them.
    const beside: Partial<Record<KitThing, number>> = { alarm: 1, exhaust: 3 };
    const third = beside[item.thing];
    return third ? places.ceilingAt(third, 3) : places.ceilingAt(number, many);
  }

  private box(room: Room, item: KitItem, number: number, many: number): PlannedBox {
    const { shape, device, prefix } = THINGS[item.thing];
    const key = `box ${room.id} ${item.key} ${number}`;
    const supply = item.own?.supply ?? '120';
    const catalogueId =
      item.thing === 'receptacle' && item.own
        ? RECEPTACLES[supply]
        : item.thing === 'appliance' && supply !== '120'
          ? 'appliance-240'
          : device;
    const box: PlannedBox = {
      key,
      roomId: room.id,
      prefix: item.own || prefix === '' ? item.name.toUpperCase() : prefix,
      shape: this.shapeIn(room, item, shape),
      ...this.placeOf(item),
      ...this.placeIn(room, item, number, many, catalogueId),
      devices: catalogueId ? [this.device(key, 'own', 1, catalogueId)] : [],
      why: this.why(item, room),
    };
    this.boxes.push(box);
    const ask = (kind: PlannedAsk['kind']): void => {
      this.asks.push({ key: `ask ${kind} ${key}`, kind, roomId: room.id, boxKey: key, why: box.why });
    };
    if (item.blocking || box.shape === 'fan') ask('blocking');
    if (item.before) ask(item.before);
    return box;
  }

  /** A ceiling box is made for a fan where one hangs, and wherever the edition asks it of ceilings from which one could. */
  private shapeIn(room: Room, { thing, before }: KitItem, shape: BoxShape): BoxShape {
    const rules = this.reader.rules();
    const { fanRooms, exhaustRooms } = rules.jurisdiction;
    if (thing === 'doorbell' && before) return 'buried-point';
    if (thing === 'fan-light' && exhaustRooms.includes(room.kind)) return 'ceiling';
    const couldHang = fanRooms.includes(room.kind) && !['porch', 'other'].includes(room.kind);
    return thing === 'light' && couldHang && rules.flag('fan.everyCeilingBox') ? 'fan' : shape;
  }

  private device(boxKey: string, key: string, gang: number, catalogueId: string): PlannedDevice {
    const own = `${boxKey} device ${key}`;
    const roles = builtInDevice(catalogueId)?.points ?? [];
    return {
      key: own,
      gang,
      catalogueId,
      points: roles.map((role, index) => ({ key: `${own} point ${index + 1}`, role })),
    };
  }

  /** What hangs on no switch: receptacles each by itself, alarms, low voltage. */
  private unswitched(item: KitItem, boxes: readonly PlannedBox[]): void {
    for (const box of boxes) {
      if (LOW_VOLTAGE.has(item.thing)) {
        this.lowVoltage.push({ boxKey: box.key, label: item.name, why: box.why });
        continue;
      }
      this.groups.push({
        use: item.circuit ?? 'outlets',
        room: this.task.room,
        feed: box.key,
        onward: box.key,
        edges: [],
        points: 1,
        hasReceptacle: item.thing === 'receptacle',
        isCounter: item.circuit === 'counter' && !item.besideCounters,
        nearWater: this.placesOf(this.task.room).nearWater(box),
        ...(item.own && { own: { item, spec: item.own } }),
      });
    }
  }

  /** The controls of an item: one of all its lights, or fan and light apart. */
  private switchesOf(item: KitItem, boxes: readonly PlannedBox[]): Switched[] {
    if (boxes.length === 0) return [];
    const room = item.switch!.hangs === 'before' ? this.roomOfBox(boxes[0]!) : this.task.room;
    const points = boxes.flatMap(({ devices }) => devices.flatMap((device) => device.points));
    const of = (role: string): string[] =>
      points.filter((point) => point.role === role).map(({ key }) => key);
    const one = (key: string, name: string, order: number, loads: string[]): Switched[] =>
      loads.length
        ? [{ item, key: room === this.task.room ? key : `${key} ${room.id}`, name, order, room, loads }]
        : [];
    const { order } = item.switch!;
    if (this.isByReceptacle(item)) {
      // One half follows the switch, the other stays on.
      return one(item.key, 'Switched receptacle', order, of('receptacle').slice(0, 1));
    }
    const fans = of('fan');
    const lamps = of('lamp');
    if (fans.length && lamps.length)
      return [
        ...one(`${item.key}-light`, 'Light', order, lamps),
        ...one(item.key, item.name, order + 0.5, fans),
      ];
    return one(item.key, item.name === 'Fan' && lamps.length ? 'Light' : item.name, order, [
      ...lamps,
      ...fans,
    ]);
  }

  private roomOfBox({ roomId }: PlannedBox): Room {
    return this.task.switchedFromHere.find(({ room }) => room.id === roomId)?.room ?? this.task.room;
  }

  /** Switch boxes at each way in, travelers between them, a leg to each load. */
  private switchGroup(
    chains: readonly { item: KitItem; boxes: readonly PlannedBox[] }[],
    switched: readonly Switched[],
    hasReceptacle: boolean,
  ): void {
    const { room, kit, note } = this.task;
    const ordered = switched.toSorted((a, b) => a.order - b.order);
    const said = room.ways ?? this.placesOf(room).ways ?? kit.ways;
    // A flight of stairs is switched from each level, by however many doors one comes to it.
    const ways =
      room.kind === 'stairs' ? Math.max(said, this.reader.rules().number('layout.stairsPlaces')) : said;
    const fromEvery =
      ways > 1 ? ordered.filter(({ item, key }) => item.switch!.from === 'every' && key === item.key) : [];
    // One pair of travelers is what a cable between two boxes carries beside the rest.
    const [shared] = fromEvery;
    for (const { item } of fromEvery.slice(1))
      note({ code: 'one-from-every', roomId: room.id, item: item.name });
    const first = this.switchBoxes(1, ordered);
    if (ordered.length > MOST_GANGS) note({ code: 'gangs-split', roomId: room.id, gangs: ordered.length });
    const others = shared
      ? Array.from({ length: ways - 1 }, (_none, index) => this.switchBoxes(index + 2, [shared])[0]!)
      : [];
    const edges: Edge[] = [];
    const boxOf = (entry: Switched): PlannedBox =>
      first.find(({ devices }) => devices.some(({ key }) => key.endsWith(` device ${entry.key}`)))!;
    first.slice(1).forEach((box) => edges.push({ from: first[0]!.key, to: box.key }));
    let last = shared ? boxOf(shared).key : '';
    for (const box of others) {
      edges.push({ from: last, to: box.key });
      last = box.key;
    }
    for (const { item, boxes } of chains) {
      const entry = ordered.find((one) => one.item === item);
      if (!entry) continue;
      let at = entry === shared ? last : boxOf(entry).key;
      for (const box of boxes) {
        edges.push({ from: at, to: box.key });
        at = box.key;
      }
    }
    for (const entry of ordered)
      this.control(entry, entry === shared ? [boxOf(entry), ...others] : [boxOf(entry)]);
    this.groups.push({
      use: 'lighting',
      room,
      ...this.fedAt(first[0]!, edges, ordered),
      points: chains.reduce((sum, { boxes }) => sum + boxes.length, 0),
      hasReceptacle,
      isCounter: false,
    });
  }

  /** By the school: power comes to the switch, or to the light where one switch has one ceiling light. */
  private fedAt(
    box: PlannedBox,
    edges: readonly Edge[],
    ordered: readonly Switched[],
  ): Pick<Group, 'feed' | 'onward' | 'edges'> {
    const [only] = edges;
    const light = this.boxes.find(({ key }) => key === only?.to);
    const isAtLight =
      this.reader.rules().text('draft.feed') === 'light' &&
      ordered.length === 1 &&
      only?.from === box.key &&
      (light?.shape === 'ceiling' || light?.shape === 'light-box');
    if (!isAtLight) return { feed: box.key, onward: box.key, edges };
    return { feed: only.to, onward: only.to, edges: [{ from: only.to, to: box.key }, ...edges.slice(1)] };
  }

  private switchBoxes(way: number, entries: readonly Switched[]): PlannedBox[] {
    const { room } = this.task;
    const boxes: PlannedBox[] = [];
    for (let start = 0; start < entries.length; start += MOST_GANGS) {
      const key = `box ${room.id} switch ${way}${start ? ` ${start / MOST_GANGS + 1}` : ''}`;
      const places = this.placesOf(room);
      const gangs = Math.min(MOST_GANGS, entries.length - start);
      // Where the stairs come up in the hall.
      const above = way === 2 ? this.task.above : undefined;
      const from = above && places.middle;
      const place = !above
        ? places.switchAt(way, gangs)
        : from
          ? this.placesOf(above).switchNear(from, gangs)
          : this.placesOf(above).switchAt(1, gangs);
      const here = entries.slice(start, start + MOST_GANGS);
      // What is wanted first is reached first: at the gang beside the door.
      const inGangs = places.isReversed(place) ? here.toReversed() : here;
      const devices = inGangs.map((entry, index) =>
        this.device(key, entry.key, index + 1, entry.item.switch!.device ?? 'switch'),
      );
      const box: PlannedBox = {
        key,
        roomId: (above ?? room).id,
        prefix: 'S',
        shape: 'switch',
        ...this.houseHeight('switch'),
        ...place,
        devices,
        why: { kit: room.kind, item: entries[start]!.item.key },
      };
      this.boxes.push(box);
      boxes.push(box);
    }
    return boxes;
  }

  private control({ key, name, item, room, loads }: Switched, boxes: readonly PlannedBox[]): void {
    const places = boxes.map(
      ({ devices }) => devices.find((device) => device.key.endsWith(` device ${key}`))!.points[0]!.key,
    );
    this.controls.push({
      key: `control ${room.id} ${key}`,
      name: `${room.name} ${name.toLowerCase()}`,
      places,
      loads,
      why: this.why(item, room),
    });
  }
}
