import type { SingleChangeBody } from '../changes/change.js';
import { setting } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import { readerOf } from '../derive/reader.js';
import type { House } from '../house/house.js';
import { withHead } from '../house/house.js';
import type { Box, Room } from '../house/model.js';
import { deviceSoldIn } from '../rulebook/catalogue.js';
import { rulebookFor } from '../rulebook/rulebook.js';
import type { KitItem, RoomKit } from '../vocabulary/room-kit-types.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { largestModel, modelThatHolds, modelsFor } from './box-models.js';
import { loadOf, panelSpaces, planCircuits } from './circuit-plan.js';
import { Frozen, keysOf } from './frozen.js';
import { KnownDraft } from './known-draft.js';
import type { Wanted } from './merge.js';
import { DraftMerge } from './merge.js';
import { legOf } from './panel.js';
import { otherHalf } from './planned.js';
import type { Edge, Group, LookAt, PlannedBox, PlannedCircuit, RoomPlan } from './planned.js';
import { onPlates } from './plates.js';
import { planRoom } from './room-plan.js';
import type { BoxPlace } from './room-places.js';
import { RoomPlaces } from './room-places.js';
import { sizeOfRoom } from './room-size.js';

export interface DraftChoices {
  /** Kits of the crew, in the place of those of the rulebook for their kinds of room. */
  readonly kits?: readonly RoomKit[];
  /** Rooms that get nothing; of a room that was drafted before, what is there stays as it is. */
  readonly leaveOut?: ReadonlySet<string>;
  /** Answers to what is asked first, by key of the rule: what the house does from then on. */
  readonly rules?: Readonly<Record<string, string>>;
  /** Rooms that are furnished although somebody has set boxes in them already. */
  readonly include?: ReadonlySet<string>;
}

export interface DraftedRoom {
  readonly roomId: string;
  readonly boxes: number;
  /** What it gets, by item of its kit. */
  readonly items: readonly { readonly item: string; readonly count: number }[];
}

/** A draft before it is used. */
export interface HouseDraft {
  /** All it changes, to be applied as one; empty where there is nothing to do. */
  readonly changes: readonly SingleChangeBody[];
  /** The house as it would be. */
  readonly house: House;
  readonly added: number;
  readonly changed: number;
  readonly removed: number;
  readonly kept: number;
  /** Records that somebody took away, which stay away. */
  readonly takenAway: number;
  readonly rooms: readonly DraftedRoom[];
  readonly lookAt: readonly LookAt[];
}

/** The kit that rooms of a kind get: the crew's own, or the rulebook's. */
export const kitFor = (
  reader: HouseReader,
  kits: readonly RoomKit[],
  { kind }: Pick<Room, 'kind'>,
): RoomKit =>
  kits.find(({ roomKind }) => roomKind === kind) ??
  reader.rules().jurisdiction.roomKits.find(({ roomKind }) => roomKind === kind) ?? {
    roomKind: kind,
    ways: 1,
    items: [],
  };

/** Rooms in walking order, floor by floor as the house lists them. */
export function inWalkingOrder(reader: HouseReader): Room[] {
  const storeys = new Map(reader.all('storeys').map(({ id }, index) => [id, index]));
  return reader
    .all('rooms')
    .toSorted((a, b) => storeys.get(a.storeyId)! - storeys.get(b.storeyId)! || a.order - b.order);
}

/**
 * A whole house from its rooms, by the kits of their kinds and the rules of its rulebook: boxes and devices, what switches
 * what, circuits with their breakers and spaces, a plain tree of runs, box sizes by what enters. Nothing of it is certain: it
 * is shown before it is used. Drafting again brings it together with what stands (see {@link DraftMerge}). Deterministic; ids
 * follow from house and key. Lengths in inches.
 */
export function draftHouse(house: House, choices: DraftChoices = {}): HouseDraft {
  const rules = rulebookFor(house.head.rulebook);
  const chosen = Object.entries(choices.rules ?? {}).filter(([key, value]) => rules.text(key) !== value);
  const overrides = Object.fromEntries(chosen.map(([key, value]) => [key, { value }]));
  const { rulebook } = house.head;
  const asked = chosen.length
    ? withHead(house, {
        ...house.head,
        rulebook: { ...rulebook, overrides: { ...rulebook.overrides, ...overrides } },
      })
    : house;
  const draft = new Drafting(asked, choices).draft();
  const said = chosen.map(([key, value]): SingleChangeBody => ({
    kind: 'rule.set',
    key,
    override: { value },
  }));
  return { ...draft, changes: [...said, ...draft.changes] };
}

/** The panel that circuits come from. */
interface PanelOfDraft {
  readonly id: string;
  readonly key: string;
  /** A new one. */
  readonly box?: PlannedBox;
  readonly place: BoxPlace;
  /** What gives one that is there its place. */
  readonly changes: readonly SingleChangeBody[];
}

class Drafting {
  private readonly reader: HouseReader;
  private readonly known: KnownDraft;
  private readonly merge: DraftMerge;
  private readonly looks: LookAt[] = [];
  private readonly rooms: readonly Room[];
  /** What stays as it is, once it is known what there would be. */
  private frozen: Frozen | undefined;

  constructor(
    house: House,
    private readonly choices: DraftChoices,
  ) {
    this.reader = readerOf(house);
    this.known = new KnownDraft(house);
    this.merge = new DraftMerge(this.known, (key) => this.stays(key));
    this.rooms = this.furnished();
  }

  /** What belongs to a room that is left out, or hangs on a circuit that has been pulled, stays as it is. */
  private stays(key: string): boolean {
    if (this.frozen?.keys.has(key)) return true;
    const isOut = (id: string): boolean => this.choices.leaveOut?.has(id) ?? false;
    return key.split(' ').some(isOut);
  }

  /** Rooms that are furnished. Where somebody has set boxes of their own, nothing is added unless it is asked for. */
  private furnished(): Room[] {
    const drafted = new Set(
      [...this.known.byKey.values()].flatMap(({ record }) =>
        'roomId' in record && record.roomId ? [record.roomId] : [],
      ),
    );
    const own: string[] = [];
    const rooms = inWalkingOrder(this.reader).filter(({ id }) => {
      // One that was drafted before is planned along, and stays as it is: others hang on it.
      if (this.choices.leaveOut?.has(id)) return drafted.has(id);
      const hasOwn = this.reader
        .mentioning('boxes', id)
        .some(({ catalogueId, drafted: mark }) => catalogueId !== 'panel' && !mark);
      if (!hasOwn || drafted.has(id) || this.choices.include?.has(id)) return true;
      own.push(id);
      return false;
    });
    if (own.length) this.looks.push({ code: 'own-boxes', roomIds: own });
    return rooms;
  }

  draft(): HouseDraft {
    const { jurisdiction } = this.reader.rules();
    const plans = this.withoutGone(this.plans()).map((plan) => ({
      ...plan,
      boxes: plan.boxes.map((box) => onPlates(jurisdiction, box)),
    }));
    const panel = this.panel(plans);
    const groups = plans.flatMap((plan) => plan.groups);
    const frozen = new Frozen(this.reader, this.known, groups, this.choices.leaveOut ?? new Set());
    this.frozen = frozen;
    const free = groups.filter((group) => !frozen.holds(group));
    const circuits = planCircuits(this.reader, free).map((circuit) => this.ownKey(circuit, frozen));
    const home = this.lowVoltageHome(plans, panel);
    const boxes = [
      ...(panel.box ? [panel.box] : []),
      ...(home ? [home] : []),
      ...plans.flatMap((plan) => plan.boxes),
    ];
    const missing = new Set(this.newIn(groups, frozen));
    const planned = boxes.filter(({ key }) => !missing.has(key) && !frozen.keys.has(key));

    const halves = this.halves(circuits, planned);
    const wanted: Wanted[] = [
      ...this.boxes(planned, halves),
      ...this.circuits(circuits, panel.id),
      ...this.controls(plans, planned),
      ...this.asks(plans, planned),
    ];
    const runs = this.runs(circuits, panel, home?.key, plans, planned);
    const cabled = this.withCables([...wanted, ...runs]);
    const sized = this.withModels(cabled, planned);
    const result = this.merge.merged(sized);
    this.sizesAssumed();
    const open = circuits.filter(({ nameplateOpen }) => nameplateOpen).map(({ name }) => name);
    if (open.length) this.looks.push({ code: 'nameplate', circuits: open });
    return {
      ...result,
      changes: [...result.changes, ...panel.changes],
      house: this.merge.houseWith(sized),
      takenAway: this.known.gone.size,
      rooms: plans
        .filter(({ room }) => !this.choices.leaveOut?.has(room.id))
        .map(({ room }) => this.counted(room, plans)),
      lookAt: this.looks,
    };
  }

  private counted(room: Room, plans: readonly RoomPlan[]): DraftedRoom {
    const boxes = plans.flatMap((plan) => plan.boxes.filter(({ roomId }) => roomId === room.id));
    const items = new Map<string, number>();
    for (const box of boxes) {
      const item = box.shape === 'switch' ? 'switch' : (box.why.item ?? '');
      items.set(item, (items.get(item) ?? 0) + 1);
    }
    return {
      roomId: room.id,
      boxes: boxes.length,
      items: [...items].map(([item, count]) => ({ item, count })),
    };
  }

  private sizesAssumed(): void {
    const rooms = this.rooms.filter(
      (room) => !this.choices.leaveOut?.has(room.id) && sizeOfRoom(this.reader, room).isAssumed,
    );
    if (rooms.length) this.looks.push({ code: 'size-assumed', roomIds: rooms.map(({ id }) => id) });
  }

  /** The kit of each room. Lights outside are switched from the room before: the last that has a switch of its own. */
  private plans(): RoomPlan[] {
    const { kits = [] } = this.choices;
    const seen = new Set<string>();
    const kitOf = new Map(this.rooms.map((room) => [room.id, kitFor(this.reader, kits, room)]));
    const isSwitched = (room: Room): boolean =>
      kitOf.get(room.id)!.items.some((item) => item.switch && item.switch.hangs !== 'before') &&
      !['closet', 'bath', 'water-closet', 'stairs'].includes(room.kind);
    const fromRoom = new Map<string, { room: Room; item: KitItem }[]>();
    const there = new Map<string, Set<string>>();
    this.rooms.forEach((room, at) => {
      const own = new Set<string>();
      there.set(room.id, own);
      for (const item of kitOf.get(room.id)!.items) {
        if (item.once) {
          const once = `${item.once === 'storey' ? room.storeyId : ''} ${item.thing} ${item.key}`;
          if (seen.has(once)) own.add(item.key);
          seen.add(once);
        }
        if (item.switch?.hangs !== 'before') continue;
        const before =
          this.rooms.slice(0, at).findLast(isSwitched) ?? this.rooms.slice(at + 1).find(isSwitched);
        const host = before ?? room;
        fromRoom.set(host.id, [...(fromRoom.get(host.id) ?? []), { room, item }]);
      }
    });
    return this.rooms.map((room) =>
      planRoom(this.reader, {
        room,
        kit: kitOf.get(room.id)!,
        isThere: (item) => there.get(room.id)!.has(item.key),
        switchedFromHere: fromRoom.get(room.id) ?? [],
        above: room.kind === 'stairs' ? this.hallAbove(room) : undefined,
        note: (look) => this.looks.push(look),
      }),
    );
  }

  /** The hall of the floor that is next in the list, where one is furnished: there a flight of stairs ends. */
  private hallAbove(stairs: Room): Room | undefined {
    const storeys = this.reader.all('storeys');
    const next = storeys[storeys.findIndex(({ id }) => id === stairs.storeyId) + 1];
    // A basement or a floor on the ground stands under others, not over them.
    if (!next || (next.below !== undefined && next.below !== 'storey')) return undefined;
    return this.rooms.find(
      ({ id, kind, storeyId }) =>
        storeyId === next.id && (kind === 'hall' || kind === 'foyer') && !this.choices.leaveOut?.has(id),
    );
  }

  /** Without the boxes that somebody took away: what hung on one hangs on what fed it. */
  private withoutGone(plans: readonly RoomPlan[]): RoomPlan[] {
    const isGone = (key: string): boolean => this.known.gone.has(key);
    const group = (own: Group): Group[] => {
      const all = keysOf(own);
      const left = all.filter((key) => !isGone(key));
      if (left.length === all.length) return [own];
      const [feed] = left;
      if (feed === undefined) return [];
      const from = new Map(own.edges.map((edge) => [edge.to, edge.from]));
      const up = (key: string): string => {
        let at = from.get(key) ?? feed;
        while (isGone(at)) at = from.get(at) ?? feed;
        return at;
      };
      const edges = left.filter((key) => key !== feed).map((key): Edge => ({ from: up(key), to: key }));
      return [
        {
          ...own,
          feed,
          onward: isGone(own.onward) ? feed : own.onward,
          edges,
          points: own.points - (all.length - left.length),
        },
      ];
    };
    return plans.map((plan) => ({
      ...plan,
      boxes: plan.boxes.filter(({ key }) => !isGone(key)),
      groups: plan.groups.flatMap(group),
      asks: plan.asks.filter(({ key, boxKey }) => !isGone(key) && !isGone(boxKey)),
      lowVoltage: plan.lowVoltage.filter(({ boxKey }) => !isGone(boxKey)),
    }));
  }

  /** The panel of the house, or a new one in the room where it usually hangs. */
  private panel(plans: readonly RoomPlan[]): PanelOfDraft {
    const present = this.reader.all('boxes').find(({ catalogueId }) => catalogueId === 'panel');
    const key = present?.drafted?.key ?? 'box panel';
    const { noPanel, panelRooms } = this.reader.rules().jurisdiction;
    if (present && !present.drafted) {
      const kind = present.roomId ? this.reader.get('rooms', present.roomId)?.kind : undefined;
      if (kind && noPanel.includes(kind)) this.looks.push({ code: 'panel-place', roomId: present.roomId! });
      return { id: present.id, key, ...this.hung(present, plans) };
    }
    const rooms = plans.map(({ room }) => room);
    const room =
      panelRooms.map((kind) => rooms.find((own) => own.kind === kind)).find(Boolean) ??
      rooms.find(({ kind }) => !noPanel.includes(kind)) ??
      rooms[0];
    if (!room) return { id: '', key, place: {}, changes: [] };
    if (noPanel.includes(room.kind)) this.looks.push({ code: 'panel-place', roomId: room.id });
    const box: PlannedBox = {
      key,
      roomId: room.id,
      prefix: this.reader.rules().jurisdiction.panelTag,
      shape: 'panel',
      ...this.placesWith(room, plans).panelAt(),
      devices: [],
      why: { item: 'panel' },
    };
    return { id: this.merge.idOf(key), key, box, place: box, changes: [] };
  }

  /** The place of a panel that is there, or one for it where nobody has said any and nothing is pulled to it. */
  private hung(panel: Box, plans: readonly RoomPlan[]): Pick<PanelOfDraft, 'place' | 'changes'> {
    const room = panel.roomId === undefined ? undefined : this.reader.get('rooms', panel.roomId);
    const isKnown =
      panel.corner !== undefined ||
      panel.xIn !== undefined ||
      this.reader
        .mentioning('runs', panel.id)
        .some(({ id }) => this.reader.mentioning('pulls', id).length > 0);
    if (!room || isKnown || this.choices.leaveOut?.has(room.id)) return { place: panel, changes: [] };
    const { corner, alongIn, heightIn, heightReference } = this.placesWith(room, plans).panelAt();
    if (corner === undefined || alongIn === undefined) return { place: panel, changes: [] };
    const fields = {
      corner,
      alongIn,
      ...(panel.heightIn === undefined && { heightIn, heightReference }),
    };
    return { place: fields, changes: [setting('boxes', panel.id, fields)] };
  }

  /** A room with what is planned for it. */
  private placesWith(room: Room, plans: readonly RoomPlan[]): RoomPlaces {
    const planned = plans.flatMap((plan) => plan.boxes.filter(({ roomId }) => roomId === room.id));
    return new RoomPlaces(this.reader, room).with(planned);
  }

  /** Where low voltage is gathered: beside the panel. */
  private lowVoltageHome(plans: readonly RoomPlan[], panel: PanelOfDraft): PlannedBox | undefined {
    const roomId = panel.box?.roomId ?? this.reader.get('boxes', panel.id)?.roomId;
    if (!roomId || plans.every(({ lowVoltage }) => lowVoltage.length === 0)) return undefined;
    const key = 'box low-voltage home';
    if (this.known.gone.has(key)) return undefined;
    const place = this.placesWith(this.reader.get('rooms', roomId)!, plans).besidePanel(panel.place);
    return {
      key,
      roomId,
      prefix: 'LV',
      shape: 'low-voltage',
      ...place,
      devices: [],
      why: { item: 'low-voltage' },
    };
  }

  private isThere(key: string): boolean {
    return this.known.byKey.has(key);
  }

  /** Boxes of groups that stay which would be new: on a circuit that stays they are for a person to add. */
  private newIn(groups: readonly Group[], frozen: Frozen): string[] {
    return groups
      .filter((group) => frozen.holds(group))
      .flatMap((group) => {
        const missing = keysOf(group).filter((key) => !this.isThere(key));
        if (missing.length)
          this.looks.push({ code: 'pulled-circuit', roomId: group.room.id, items: missing.length });
        return missing;
      });
  }

  /** A circuit that would bear the key of one that has been pulled is another one. */
  private ownKey(circuit: PlannedCircuit, frozen: Frozen): PlannedCircuit {
    let { key } = circuit;
    const isTaken = (own: string): boolean => {
      const known = this.known.byKey.get(own);
      return known !== undefined && frozen.circuits.has(known.record.id);
    };
    while (isTaken(key)) key = `${key} more`;
    return { ...circuit, key };
  }

  private fieldOf(key: string, field: string): unknown {
    return this.known.byKey.get(key)?.record.drafted.fields[field];
  }

  /** Keys of circuits that the halves of split receptacles are on, by the key of their points. */
  private halves(circuits: readonly PlannedCircuit[], planned: readonly PlannedBox[]): Map<string, string> {
    const boxes = new Map(planned.map((box) => [box.key, box]));
    const halves = new Map<string, string>();
    for (const circuit of circuits.filter(({ split }) => split))
      for (const key of circuit.groups.flatMap(keysOf))
        for (const { points } of boxes.get(key)?.devices ?? [])
          points.forEach((point, at) => halves.set(point.key, at ? otherHalf(circuit) : circuit.key));
    return halves;
  }

  private boxes(planned: readonly PlannedBox[], halves: ReadonlyMap<string, string>): Wanted[] {
    const taken = new Set(this.reader.all('boxes').map(({ tag }) => tag));
    const next = (prefix: string): string => {
      if (prefix.length > 1 && !taken.has(prefix)) return prefix;
      for (let number = 1; ; number++) if (!taken.has(`${prefix}${number}`)) return `${prefix}${number}`;
    };
    const { boxes: types } = this.reader.rules().jurisdiction;
    return planned.flatMap((box): Wanted[] => {
      const { key, roomId, prefix, shape, devices, why } = box;
      const tag = String(this.fieldOf(key, 'tag') ?? next(prefix));
      taken.add(tag);
      const gangs = gangsFor(this.reader, devices);
      return [
        {
          table: 'boxes',
          key,
          why,
          roomId,
          fields: {
            roomId,
            tag,
            catalogueId: largestModel(modelsFor(types, shape, gangs)).id,
            ...placed(box),
          },
        },
        ...devices.flatMap((device): Wanted[] => [
          {
            table: 'devices',
            key: device.key,
            why,
            roomId,
            fields: { boxId: this.merge.idOf(key), gang: device.gang, catalogueId: device.catalogueId },
          },
          ...device.points.map((point): Wanted => ({
            table: 'points',
            key: point.key,
            why,
            roomId,
            fields: {
              deviceId: this.merge.idOf(device.key),
              role: point.role,
              ...(halves.has(point.key) && { circuitId: this.merge.idOf(halves.get(point.key)!) }),
            },
          })),
        ]),
      ];
    });
  }

  private circuits(circuits: readonly PlannedCircuit[], panelId: string): Wanted[] {
    const numbers = new Set(this.reader.all('circuits').map(({ number }) => number));
    const spaces = new Set(this.reader.all('circuits').flatMap((circuit) => circuit.spaces ?? []));
    // One that becomes split gets two spaces beside each other.
    const isPlaced = (circuit: PlannedCircuit): boolean =>
      this.isThere(circuit.key) && (!circuit.split || this.isThere(otherHalf(circuit)));
    const isNew = circuits.filter((circuit) => !isPlaced(circuit) && !this.known.gone.has(circuit.key));
    const given = panelSpaces(isNew, spaces, this.carried(circuits));
    let number = 0;
    const nextNumber = (): number => {
      do number++;
      while (numbers.has(number));
      numbers.add(number);
      return number;
    };
    const one = (circuit: PlannedCircuit, key: string, name: string): Wanted => {
      const { poles, breakerAmps, protection, nameplateOpen, why } = circuit;
      const own = this.known.byKey.get(key)?.record.drafted.fields;
      return {
        table: 'circuits',
        key,
        why,
        fields: {
          number: own?.['number'] ?? nextNumber(),
          name,
          panelId,
          poles,
          spaces: given.get(key) ?? own?.['spaces'] ?? [],
          breakerAmps,
          protection,
          ...(nameplateOpen && { nameplateOpen }),
          ...(circuit.ring && { ring: true }),
          ...(circuit.split && { neutralGroup: circuit.key.slice('circuit '.length) }),
        },
      };
    };
    return circuits.flatMap((circuit): Wanted[] => {
      const { key, name, split } = circuit;
      if (!split) return [one(circuit, key, name)];
      return [
        one(circuit, key, `${name}, upper halves`),
        one(circuit, otherHalf(circuit), `${name}, lower halves`),
      ];
    });
  }

  /** What the breakers that are there put on each leg of the panel: of drafted ones as planned, of others by their points. */
  private carried(planned: readonly PlannedCircuit[]): [number, number] {
    const legs: [number, number] = [0, 0];
    for (const circuit of this.reader.all('circuits')) {
      const key = circuit.drafted?.key;
      const plan = planned.find((one) => one.key === key || (one.split && otherHalf(one) === key));
      const load = plan ? plan.loadVa / (plan.split ? 2 : 1) : loadOf(this.reader, circuit);
      const spaces = circuit.spaces ?? [];
      for (const space of spaces) legs[legOf(space)] += load / spaces.length;
    }
    return legs;
  }

  /** Controls of the points that are there. */
  private controls(plans: readonly RoomPlan[], boxes: readonly PlannedBox[]): Wanted[] {
    const points = new Set(
      boxes.flatMap(({ devices }) =>
        devices.flatMap((device) =>
          this.known.gone.has(device.key)
            ? []
            : device.points.map(({ key }) => key).filter((key) => !this.known.gone.has(key)),
        ),
      ),
    );
    return plans.flatMap(({ room, controls }) =>
      controls.flatMap(({ key, name, places, loads, why }): Wanted[] => {
        const left = (keys: readonly string[]): string[] =>
          keys.filter((point) => points.has(point)).map((point) => this.merge.idOf(point));
        // One that reaches into what stays either stays itself or is for a person to make.
        if ([...places, ...loads].some((point) => !points.has(point) && !this.isAway(point))) return [];
        const fields = { name, places: left(places), loads: left(loads) };
        return fields.places.length && fields.loads.length
          ? [{ table: 'controls', key, why, roomId: room.id, fields }]
          : [];
      }),
    );
  }

  /** Somebody took it, or what it is part of, away. */
  private isAway(pointKey: string): boolean {
    return [pointKey, pointKey.split(' point ')[0]!, pointKey.split(' device ')[0]!].some((key) =>
      this.known.gone.has(key),
    );
  }

  private asks(plans: readonly RoomPlan[], boxes: readonly PlannedBox[]): Wanted[] {
    const present = new Set(boxes.map(({ key }) => key));
    return plans.flatMap(({ asks }) =>
      asks
        .filter(({ boxKey }) => present.has(boxKey))
        .map(({ key, kind, roomId, boxKey, why }): Wanted => ({
          table: 'asks',
          key,
          why,
          roomId,
          fields: { kind, roomId, boxId: this.merge.idOf(boxKey) },
        })),
    );
  }

  /**
   * A plain tree: power from group to group in walking order, then legs and travelers; low voltage from where the panel hangs.
   * Which cable each takes is derived from what it has to carry.
   */
  private runs(
    circuits: readonly PlannedCircuit[],
    panel: { readonly id: string; readonly key: string },
    homeKey: string | undefined,
    plans: readonly RoomPlan[],
    boxes: readonly PlannedBox[],
  ): Wanted[] {
    const roomOf = new Map(boxes.map(({ key, roomId }) => [key, roomId]));
    const idOf = (key: string): string => (key === panel.key ? panel.id : this.merge.idOf(key));
    const run = (from: string, to: string, more: Record<string, unknown>, why: Wanted['why']): Wanted => ({
      table: 'runs',
      key: `run ${to}`,
      why,
      roomId: roomOf.get(to),
      fields: { from: { boxId: idOf(from) }, to: { boxId: idOf(to) }, ...more },
    });
    const power = circuits.flatMap((circuit) => {
      const { key, groups, ring, split, why } = circuit;
      const cable = {
        kind: 'cable',
        circuitIds: [key, ...(split ? [otherHalf(circuit)] : [])].map((own) => this.merge.idOf(own)),
      };
      let at = panel.key;
      const out = groups.flatMap((group) => {
        const own = [
          run(at, group.feed, cable, why),
          ...group.edges.map(({ from, to }) => run(from, to, cable, why)),
        ];
        at = group.onward;
        return own;
      });
      // A ring comes home from its last box.
      const home = ring
        ? [{ ...run(at, panel.key, cable, why), key: `run home ${key}`, roomId: roomOf.get(at) }]
        : [];
      return [...out, ...home];
    });
    const low = plans.flatMap(({ lowVoltage }) =>
      lowVoltage.flatMap(({ boxKey, label, why }) =>
        homeKey ? [run(homeKey, boxKey, { kind: 'low-voltage', circuitIds: [], label }, why)] : [],
      ),
    );
    return [...power, ...low];
  }

  /** Every run with the cable that its wiring asks for. */
  private withCables(wanted: readonly Wanted[]): Wanted[] {
    const reader = readerOf(this.merge.houseWith(wanted));
    return wanted.map((one) => {
      if (one.table !== 'runs' || one.fields['kind'] !== 'cable') return one;
      const [circuitId] = one.fields['circuitIds'] as string[];
      const needed = wireCircuit(reader, circuitId!).runs.get(this.merge.idOf(one.key))?.needed;
      return needed ? { ...one, fields: { ...one.fields, plannedCable: needed } } : one;
    });
  }

  /** Every box of the smallest model that holds what enters it. */
  private withModels(wanted: readonly Wanted[], boxes: readonly PlannedBox[]): Wanted[] {
    const reader = readerOf(this.merge.houseWith(wanted));
    const { boxes: types } = this.reader.rules().jurisdiction;
    const planned = new Map(boxes.map((box) => [box.key, box]));
    return wanted.map((one) => {
      const box = one.table === 'boxes' ? planned.get(one.key) : undefined;
      const id = this.merge.idOf(one.key);
      if (!box || !reader.get('boxes', id)) return one;
      const models = modelsFor(types, box.shape, gangsFor(this.reader, box.devices));
      const model = modelThatHolds(reader, id, models);
      if (!model)
        this.looks.push({ code: 'no-box-holds', roomId: box.roomId, tag: String(one.fields['tag']) });
      return { ...one, fields: { ...one.fields, catalogueId: (model ?? models.at(-1)!).id } };
    });
  }
}

/** What is known of the place of a box. */
function placed(box: PlannedBox): Partial<PlannedBox> {
  const { heightIn, heightReference, placeNote, corner, alongIn, facesOut, xIn, yIn } = box;
  const all = { heightIn, heightReference, placeNote, corner, alongIn, facesOut, xIn, yIn };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== undefined));
}

const gangsFor = (reader: HouseReader, devices: PlannedBox['devices']): number =>
  Math.max(
    1,
    ...devices.map(
      ({ gang, catalogueId }) => gang + (deviceSoldIn(reader.rules(), catalogueId)?.widthGangs ?? 1) - 1,
    ),
  );
