import type { HouseReader } from '../derive/reader.js';
import { circuitOfPoint, deviceType } from '../facts/box-facts.js';
import type { Device } from '../house/model.js';
import { farName } from '../facts/naming.js';
import type { Colour } from '../vocabulary/text.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import type { Landing, Terminal } from '../vocabulary/terminal.js';
import {
  COMMON,
  LEG,
  LOAD,
  PAIR,
  SUPPLY,
  TRAVELER,
  isNumbered,
  sameTerminal,
  terminalKey,
} from '../vocabulary/terminal.js';
import { terminalText } from '../words/terminal-text.js';
import { tailsOf } from '../wiring/joints/splice-tails.js';
import type { LeverKind } from '../wiring/circuit/terminals.js';
import { leverKind } from '../wiring/circuit/terminals.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { terminalName } from './terminal-names.js';

/** What goes where on one device, for when it comes. */
export interface DeviceSheet {
  readonly deviceId: string;
  readonly name: string;
  readonly gang: number;
  readonly onYoke: boolean;
  /** Kinds of its levers by their place in the electrical order, in the order of its points. */
  readonly levers: readonly LeverKind[];
  readonly terminals: readonly {
    readonly terminal: Terminal;
    /** What a hand calls it. */
    readonly name: string;
    readonly from: string;
    readonly colour?: Colour;
  }[];
  readonly notes: readonly string[];
  /** Temporary joins in place of this device for the rough-in test: on, or through. */
  readonly test: readonly string[];
}

/** What a pigtail is cut from: scrap of the colour that its splice has; black where it has none of its own. */
export const PIGTAIL_COLOUR: Partial<Record<BoxJoint['role'], Colour>> = {
  ground: 'BARE',
  neutral: 'WH',
  interconnect: 'RD',
};

/** The wire that comes to a terminal: a conductor of a cable that lands there, a loop, or a pigtail. */
function comesFrom(
  reader: HouseReader,
  boxId: string,
  joint: BoxJoint,
  landing: Landing,
): { from: string; colour?: Colour } {
  const [end] = joint.ends;
  const tail =
    joint.kind === 'splice' ? tailsOf(reader, joint).find(({ to }) => to.includes(landing)) : undefined;
  const isFirst = tail?.to[0] === landing;
  if (end && (joint.kind === 'land' || (tail && !tail.inSplice && tail.kind !== 'link' && isFirst))) {
    const run = reader.get('runs', end.runId)!;
    const on = joint.kind === 'land' ? '' : ', looped on';
    return { from: `${end.colour} of the cable to ${farName(reader, run, boxId)}${on}`, colour: end.colour };
  }
  const colour = PIGTAIL_COLOUR[joint.role] ?? 'BK';
  const name =
    tail?.kind === 'loop'
      ? isFirst
        ? 'loop from the hot splice'
        : 'loop from the screw before'
      : tail?.kind === 'link'
        ? 'link from the screw before'
        : joint.ends.length
          ? `pigtail of the ${joint.role} splice`
          : 'link from terminal to terminal';
  return { from: name, colour };
}

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

/** What lands where on one device, told by what the screws are; where they sit differs by maker. */
export function sheetOf(reader: HouseReader, device: Device, joints: readonly BoxJoint[]): DeviceSheet {
  const type = deviceType(reader, device);
  const terminals: { terminal: Terminal; name: string; from: string; colour?: Colour }[] = [];
  for (const joint of joints) {
    for (const landing of joint.landings) {
      const { deviceId, terminal } = landing;
      if (deviceId !== device.id) continue;
      const name = terminalName(reader, device, terminal);
      terminals.push({ terminal, name, ...comesFrom(reader, device.boxId, joint, landing) });
    }
  }
  terminals.sort(
    (a, b) =>
      rankOf(a.terminal) - rankOf(b.terminal) || (terminalKey(a.terminal) < terminalKey(b.terminal) ? -1 : 1),
  );
  const levers: LeverKind[] = [];
  for (const point of reader.mentioning('points', device.id)) {
    if (point.role !== 'lever') continue;
    const circuitId = circuitOfPoint(reader, point);
    const place = circuitId ? wireCircuit(reader, circuitId).levers.get(point.id) : undefined;
    levers.push(place ? leverKind(place) : 'single-pole');
  }
  const notes: string[] = [];
  if (levers.includes('three-way'))
    notes.push(
      'The common is the odd-coloured screw, the other two are the travelers; where they sit differs by maker.',
    );
  if (levers.includes('four-way'))
    notes.push('A four-way has no common. Which screws make a pair differs by maker: follow its sheet.');
  const isScrews = type.connection === 'screws';
  /** How many numbered terminals of a kind are used. */
  const sides = (kind: 'supply' | 'hot' | 'neutral'): number =>
    terminals.filter(({ terminal }) => terminal.kind === kind && isNumbered(terminal)).length;
  if (isScrews && sides('hot') > 1) notes.push('Break the tab between the two hot screws.');
  if (isScrews && sides('supply') > 1) notes.push('Break the tab between the two supply screws.');
  if (isScrews && sides('neutral') > 1) notes.push('Break the tab between the two neutral screws too.');
  const at = (terminal: Terminal): string | undefined =>
    terminals.find((own) => sameTerminal(own.terminal, terminal))?.from;
  if (at(LOAD.hot)) notes.push('Incoming pair on LINE, onward pair on LOAD; never join the two sides.');
  if (type.needsNeutral) notes.push('This device needs its neutral.');
  notes.push(`Hand tools only; torque as the device marks it (${reader.rules().section('torque')}).`);
  const test = levers.flatMap((kind, index): string[] => {
    const lever = levers.length > 1 ? index + 1 : undefined;
    const pairOf = (terminal: (lever?: number) => Terminal): string =>
      at(terminal(lever)) ?? terminalText(terminal());
    if (kind === 'single-pole')
      return at(LEG(lever))
        ? [`Join supply (${at(SUPPLY(index + 1)) ?? at(SUPPLY()) ?? 'supply'}) and ${pairOf(LEG)}: on.`]
        : [];
    if (kind === 'three-way')
      return [
        `Join common (${pairOf(COMMON)}) and traveler A (${pairOf(TRAVELER.a)}); cap ${pairOf(TRAVELER.b)}.`,
      ];
    return [
      `Straight through: join A (${pairOf(PAIR[1].a)}) to A (${pairOf(PAIR[2].a)}), B (${pairOf(PAIR[1].b)}) to B (${pairOf(PAIR[2].b)}).`,
    ];
  });
  return {
    deviceId: device.id,
    name:
      levers.length && type.mount === 'yoke'
        ? `${type.name}, ${[...new Set(levers)].join(' and ')}`
        : type.name,
    gang: device.gang,
    onYoke: type.mount === 'yoke',
    levers,
    terminals,
    notes,
    test,
  };
}
