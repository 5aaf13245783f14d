import { carriedFacts } from '../vocabulary/signal.js';
import type { HouseReader } from '../derive/reader.js';
import { boxName, runName } from '../facts/naming.js';
import type { Netlist } from '../wiring/netlist/netlist.js';
import { jointWords } from '../words/joint-words.js';
import { sayingOf } from '../words/say.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import type { Signal } from '../vocabulary/signal.js';
import { signalText } from '../words/signal-text.js';
import { csvOf } from './csv.js';

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

/** The conductors of a netlist, from–to. */
export function conductorSchedule(reader: HouseReader, netlist: Netlist): ScheduleLine[] {
  const { tongue } = sayingOf(reader);
  const roleText = (role: BoxJoint['role']): string =>
    role === 'undecided' ? tongue.phrases.undecided : role === 'common' ? role : tongue.term(role);
  return netlist.conductors.map(({ runId, key, from, to }) => {
    const [start, end] = [netlist.joints[from]!, netlist.joints[to]!];
    const signal: Signal | undefined = start.joint.signal ?? end.joint.signal;
    return {
      run: runName(reader, reader.get('runs', runId)!),
      conductor: key,
      carries: signal ? signalText(reader, carriedFacts(signal), tongue) : roleText(start.joint.role),
      fromBox: boxName(reader, start.boxId),
      fromTo: jointWords(reader, start.joint, tongue),
      toBox: boxName(reader, end.boxId),
      toTo: jointWords(reader, end.joint, tongue),
    };
  });
}

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
  return csvOf([head, ...rows]);
}
