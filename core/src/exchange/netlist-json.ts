import type { HouseReader } from '../derive/reader.js';
import { boxName } from '../facts/naming.js';
import type { Netlist } from '../wiring/netlist/netlist.js';
import { landingText } from '../words/landing-text.js';

/** A netlist as plain data for other programs: boxes, conductors and devices by name, nets by number. */
export function writeNetlistJson(reader: HouseReader, netlist: Netlist): string {
  const place = (joint: number | undefined) =>
    joint === undefined
      ? null
      : { box: boxName(reader, netlist.joints[joint]!.boxId), joint, net: netlist.joints[joint]!.net };
  return `${JSON.stringify(
    {
      format: 'mule-tally-netlist',
      version: 1,
      circuits: netlist.circuitIds,
      joints: netlist.joints.map(({ boxId, joint, net }) => ({
        box: boxName(reader, boxId),
        net,
        kind: joint.kind,
        role: joint.role,
        ends: joint.ends.map(({ runId, key }) => ({ run: runId, conductor: key })),
        terminals: joint.landings.map((landing) => ({
          device: landing.deviceId ?? null,
          terminal: landingText(reader, landing),
        })),
      })),
      conductors: netlist.conductors,
      levers: netlist.levers.map(({ pointId, kind, down, up }) => ({ point: pointId, kind, down, up })),
      loads: netlist.loads.map(({ pointId, role, hot, back, volts, ohms }) => ({
        point: pointId,
        role,
        hot: place(hot),
        back: place(back),
        volts,
        ohms,
      })),
      sources: netlist.sources.map(({ joint, kind, volts, landing }) => ({
        at: place(joint),
        kind,
        volts,
        name: landingText(reader, landing),
      })),
    },
    null,
    1,
  )}\n`;
}
