import type { HouseReader } from '../derive/reader.js';
import { circuitOfPoint, deviceType } from '../facts/box-facts.js';
import type { Device } from '../house/model.js';
import type { ColourPlan, DeviceType } from '../vocabulary/catalogue-types.js';
import type { Colour } from '../vocabulary/text.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import type { Landing, Terminal } from '../vocabulary/terminal.js';
import { LEG, LOAD, SUPPLY, isNumbered, sameTerminal, terminalKey } from '../vocabulary/terminal.js';
import { heldInTerminal, tailsOf } from '../wiring/joints/splice-tails.js';
import type { LeverKind } from '../wiring/circuit/device-models.js';
import { LEVER_MODELS, leverKind } from '../wiring/circuit/device-models.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';

/** The wire that comes to a terminal. */
export type WireFrom =
  /** A conductor of a cable, landed or looped on to the next screw. */
  | {
      readonly kind: 'cable';
      readonly boxId: string;
      readonly runId: string;
      readonly colour: Colour;
      readonly looped: boolean;
    }
  | {
      readonly kind: 'loop-from-splice' | 'loop-from-screw' | 'link-from-screw' | 'link';
      readonly colour: Colour;
    }
  | { readonly kind: 'pigtail'; readonly of: BoxJoint['role']; readonly colour: Colour };

/** What to mind where a device comes. */
export type SheetNote =
  | 'seen-from-behind'
  | 'seen-from-front'
  | 'second-empty'
  | 'common-is-odd'
  | 'four-way-pairs'
  | 'break-tab-hot'
  | 'break-tab-supply'
  | 'break-tab-neutral'
  | 'line-and-load'
  | 'needs-neutral'
  | 'hand-tools';

/** A temporary join in place of a device: for each of its terminals the wire that comes to it, where one does. */
export interface TestJoin {
  readonly lever: LeverKind;
  readonly ends: readonly { readonly terminal: Terminal; readonly from?: WireFrom }[];
}

/** What goes where on one device, for when it comes. */
export interface DeviceSheet {
  readonly deviceId: string;
  readonly gang: number;
  readonly onYoke: boolean;
  /** Of a plate: from where its gangs are read, left to right, and its terminals are told. */
  readonly seen?: 'front' | 'behind';
  /** Kinds of its levers by their place in the electrical order, in the order of its points. */
  readonly levers: readonly LeverKind[];
  readonly terminals: readonly { readonly terminal: Terminal; readonly from: WireFrom }[];
  readonly notes: readonly SheetNote[];
  /** Temporary joins in place of this device for the rough-in test: on, or through. None where circuits are tested dead. */
  readonly test: readonly TestJoin[];
}

/** What a pigtail is cut from: scrap of the colour that its splice has; that of a hot where it has none of its own. */
export const pigtailColour = (plan: ColourPlan, role: BoxJoint['role']): Colour =>
  role === 'ground' ? 'BARE' : role === 'neutral' || role === 'interconnect' ? plan[role][0]! : plan.hot[0]!;

function comesFrom(reader: HouseReader, boxId: string, joint: BoxJoint, landing: Landing): WireFrom {
  const [end] = joint.ends;
  const tail =
    joint.kind === 'splice' ? tailsOf(reader, joint).find(({ to }) => to.includes(landing)) : undefined;
  const isFirst = tail?.to[0] === landing;
  if (end && heldInTerminal(reader, joint) === landing)
    return { kind: 'cable', boxId, runId: end.runId, colour: end.colour, looped: false };
  if (end && (joint.kind === 'land' || (tail && !tail.inSplice && tail.kind !== 'link' && isFirst)))
    return { kind: 'cable', boxId, runId: end.runId, colour: end.colour, looped: joint.kind !== 'land' };
  const colour = pigtailColour(reader.rules().jurisdiction.colours, joint.role);
  if (tail?.kind === 'loop') return { kind: isFirst ? 'loop-from-splice' : 'loop-from-screw', colour };
  if (tail?.kind === 'link') return { kind: 'link-from-screw', colour };
  return joint.ends.length ? { kind: 'pigtail', of: joint.role, colour } : { kind: 'link', colour };
}

/** Whichever side of a plate its gangs are drawn from: behind they are mirrored. */
const seenFrom = (side: string): 'front' | 'behind' => (side === 'front' ? 'front' : 'behind');
/** The gang of a terminal on its plate. */
const gangOf = (terminal: Terminal): number => ('lever' in terminal ? (terminal.lever ?? 0) : 0);

/** The order in which terminals are told and drawn: what feeds, what is fed, then neutral and what goes on. */
const TERMINAL_ORDER: readonly (readonly [Terminal['kind'], of?: 'line' | 'load'])[] = [
  ['ground'],
  ['supply'],
  ['common'],
  ['hot', 'line'],
  ['hot'],
  ['traveler'],
  ['pair'],
  ['leg'],
  ['neutral', 'line'],
  ['neutral'],
  ['hot', 'load'],
  ['neutral', 'load'],
  ['interconnect'],
];
const rankOf = (terminal: Terminal): number =>
  TERMINAL_ORDER.findIndex(
    ([kind, of]) => kind === terminal.kind && of === ('of' in terminal ? terminal.of : undefined),
  );

/** Kinds of its levers by their place in the electrical order. */
function leversOf(reader: HouseReader, device: Device): LeverKind[] {
  return reader.mentioning('points', device.id).flatMap((point) => {
    if (point.role !== 'lever') return [];
    const circuitId = circuitOfPoint(reader, point);
    const place = circuitId ? wireCircuit(reader, circuitId).levers.get(point.id) : undefined;
    return [place ? leverKind(place) : 'single-pole'];
  });
}

function notesOf(
  { connection, needsNeutral }: DeviceType,
  levers: readonly LeverKind[],
  terminals: DeviceSheet['terminals'],
  seen: DeviceSheet['seen'],
): SheetNote[] {
  const isScrews = connection === 'screws';
  /** More than one numbered terminal of a kind is used. */
  const isSplit = (kind: 'supply' | 'hot' | 'neutral'): boolean =>
    isScrews && terminals.filter(({ terminal }) => terminal.kind === kind && isNumbered(terminal)).length > 1;
  const isOnLoad = terminals.some(({ terminal }) => sameTerminal(terminal, LOAD.hot));
  return [
    ...(seen ? [`seen-from-${seen}` as const] : []),
    ...(seen && levers.includes('single-pole') ? (['second-empty'] as const) : []),
    ...(levers.includes('three-way') && !seen ? (['common-is-odd'] as const) : []),
    ...(levers.includes('four-way') ? (['four-way-pairs'] as const) : []),
    ...(isSplit('hot') ? (['break-tab-hot'] as const) : []),
    ...(isSplit('supply') && !seen ? (['break-tab-supply'] as const) : []),
    ...(isSplit('neutral') ? (['break-tab-neutral'] as const) : []),
    ...(isOnLoad ? (['line-and-load'] as const) : []),
    ...(needsNeutral ? (['needs-neutral'] as const) : []),
    'hand-tools',
  ];
}

/** How the levers of a device are bridged for the test without it. */
function testJoins(levers: readonly LeverKind[], terminals: DeviceSheet['terminals']): TestJoin[] {
  const from = (terminal: Terminal): WireFrom | undefined =>
    terminals.find((own) => sameTerminal(own.terminal, terminal))?.from;
  return levers.flatMap((lever, index): TestJoin[] => {
    const number = levers.length > 1 ? index + 1 : undefined;
    const end = (terminal: (lever?: number) => Terminal): TestJoin['ends'][number] => {
      const own = from(terminal(number));
      return { terminal: terminal(), ...(own && { from: own }) };
    };
    const { bridged, terminals: own } = LEVER_MODELS[lever];
    // Without a leg there is nothing to join.
    if (own.includes(LEG) && !from(LEG(number))) return [];
    const supply = from(SUPPLY(index + 1)) ?? from(SUPPLY());
    return [
      {
        lever,
        ends: bridged.map((terminal) =>
          terminal === SUPPLY ? { terminal: SUPPLY(), ...(supply && { from: supply }) } : end(terminal),
        ),
      },
    ];
  });
}

/** What lands where on one device, told by what the screws are; where they sit differs by maker. */
export function sheetOf(reader: HouseReader, device: Device, joints: readonly BoxJoint[]): DeviceSheet {
  const type = deviceType(reader, device);
  const rules = reader.rules();
  const terminals = joints
    .flatMap((joint) =>
      joint.landings
        .filter(({ deviceId }) => deviceId === device.id)
        .map((landing) => ({
          terminal: landing.terminal,
          from: comesFrom(reader, device.boxId, joint, landing),
        })),
    )
    .sort(
      (a, b) =>
        rankOf(a.terminal) - rankOf(b.terminal) ||
        (terminalKey(a.terminal) < terminalKey(b.terminal) ? -1 : 1),
    );
  const levers = leversOf(reader, device);
  const seen =
    type.commonsApart && rules.has('plates.seen') ? seenFrom(rules.text('plates.seen')) : undefined;
  if (seen)
    terminals.sort((a, b) => (gangOf(a.terminal) - gangOf(b.terminal)) * (seen === 'behind' ? -1 : 1));
  return {
    deviceId: device.id,
    gang: device.gang,
    onYoke: type.mount === 'yoke',
    levers,
    terminals,
    ...(seen && { seen }),
    notes: notesOf(type, levers, terminals, seen),
    // Where dead tests come first nothing is bridged and energized at rough-in.
    test: rules.jurisdiction.testing === 'ring-out' ? testJoins(levers, terminals) : [],
  };
}
