import { carriedFacts } from '../vocabulary/signal.js';
import Papa from 'papaparse';
import type { HouseReader } from '../derive/reader.js';
import { boxName, runName } from '../facts/naming.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import type { Netlist } from '../wiring/netlist/netlist.js';
import { landingText } from '../words/landing-text.js';
import { isGroundBar } from '../wiring/circuit/panel-terminals.js';
import type { Signal } from '../vocabulary/signal.js';
import { signalText } from '../words/signal-text.js';

/** One conductor from end to end. */
export interface ScheduleLine {
  readonly run: string;
  readonly conductor: string;
  readonly carries: string;
  readonly fromBox: string;
  readonly fromTo: string;
  readonly toBox: string;
  readonly toTo: string;
}

/** What a conductor meets in a box, in words: "lands on common of gang 1", "splice of 3 with pigtails to …", "capped". */
export function jointWords(reader: HouseReader, joint: BoxJoint): string {
  const terminal = (landing: BoxJoint['landings'][number]): string => {
    const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
    const name = landingText(reader, landing);
    return device ? `${name} of gang ${device.gang}` : name;
  };
  const bar = joint.landings.find(isGroundBar);
  if (bar) return `lands on ${terminal(bar)}`;
  switch (joint.kind) {
    case 'land':
      return `lands on ${terminal(joint.landings[0]!)}`;
    case 'cap':
      return 'capped';
    case 'uncut':
      return 'passes uncut';
    case 'undecided':
      return 'open';
    case 'splice':
      return `splice of ${joint.ends.length}${joint.landings.length ? ` with pigtails to ${joint.landings.map(terminal).join(', ')}` : ''}`;
  }
}

/** The conductors of a netlist, from–to. */
export function conductorSchedule(reader: HouseReader, netlist: Netlist): ScheduleLine[] {
  return netlist.conductors.map(({ runId, key, from, to }) => {
    const [start, end] = [netlist.joints[from]!, netlist.joints[to]!];
    const signal: Signal | undefined = start.joint.signal ?? end.joint.signal;
    return {
      run: runName(reader, reader.get('runs', runId)!),
      conductor: key,
      carries: signal ? signalText(reader, carriedFacts(signal)) : start.joint.role,
      fromBox: boxName(reader, start.boxId),
      fromTo: jointWords(reader, start.joint),
      toBox: boxName(reader, end.boxId),
      toTo: jointWords(reader, end.joint),
    };
  });
}

const FORMULA = /^[=+\-@\t\r]/;

/** The conductor schedule as CSV (RFC 4180), with a line of headings. */
export function writeScheduleCsv(lines: readonly ScheduleLine[]): string {
  const head = ['Run', 'Conductor', 'Carries', 'From box', 'There', 'To box', 'There'];
  const rows = lines.map((line) => [
    line.run,
    line.conductor,
    line.carries,
    line.fromBox,
    line.fromTo,
    line.toBox,
    line.toTo,
  ]);
  // What a spreadsheet would take for a formula is kept as text.
  return `${Papa.unparse([head, ...rows], { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
}
