import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../house/box-facts.js';
import type { Device, Run } from '../house/model.js';
import { boxName, circuitName } from '../house/naming.js';
import type { Finding } from '../inspection/finding.js';
import type { ReachedPoint } from './controls.js';
import type { TreeNeeds } from './needs.js';
import type { Signal, Terminal } from './signal.js';
import { protectedBy } from './signal.js';
import type { LeverPlace } from './terminals.js';
import { terminalsOf } from './terminals.js';

/** The levers of a group by their place in the electrical order. */
export function leversOf(needs: TreeNeeds): Map<string, LeverPlace> {
  const levers = new Map<string, LeverPlace>();
  for (const [controlId, order] of needs.orders)
    order.forEach((pointId, index) => levers.set(pointId, { controlId, index, of: order.length }));
  return levers;
}

export interface DeviceTerminals {
  readonly terminals: readonly Terminal[];
  readonly openDevices: ReadonlySet<string>;
  readonly findings: readonly Finding[];
}

/** Where every signal of a group lands, and what is wrong with the devices. */
export function landSignals(
  reader: HouseReader,
  needs: TreeNeeds,
  levers: ReadonlyMap<string, LeverPlace>,
): DeviceTerminals {
  const wired = new Map(needs.controls.wired.map((control) => [control.id, control]));
  const byDevice = new Map<Device, ReachedPoint[]>();
  for (const reached of needs.points)
    byDevice.set(reached.device, [...(byDevice.get(reached.device) ?? []), reached]);
  const alarms = needs.points.filter(({ point }) => point.role === 'alarm').length;
  const terminals: Terminal[] = [];
  const openDevices = new Set<string>();
  const findings: Finding[] = [];
  // Devices that have something to protect: their LOAD side is used.
  const beyond = new Set(
    [...needs.needs.values()].flatMap((signals) => signals.flatMap((one) => protectedBy(one) ?? [])),
  );
  for (const [device, points] of byDevice) {
    const { boxId, node, circuitId } = points[0]!;
    const type = deviceType(reader, device);
    const circuit = reader.get('circuits', circuitId)!;
    const both = type.supply === '240' || type.supply === '120/240';
    if (both !== (circuit.poles === 2)) {
      openDevices.add(device.id);
      findings.push({
        code: 'device.wrong-voltage',
        severity: 'stop',
        where: { circuitId, boxId, deviceId: device.id },
        message: `${type.name} in ${boxName(reader, boxId)} wants ${both ? '240' : '120'} V; ${circuitName(reader, circuitId)} has ${both ? 'one pole' : 'two poles'}.`,
      });
      continue;
    }
    const controlOfLoad = (pointId: string): string | undefined => {
      const id = needs.controls.ofPoint.get(pointId)?.id;
      return id && wired.has(id) ? id : undefined;
    };
    if (
      points.some(({ point }) => {
        const control = needs.controls.ofPoint.get(point.id);
        return control !== undefined && !wired.has(control.id);
      })
    ) {
      openDevices.add(device.id);
    }
    const onward = beyond.has(device.id);
    terminals.push(
      ...terminalsOf(
        reader,
        {
          device,
          points: points.filter(({ point }) => {
            const control = needs.controls.ofPoint.get(point.id);
            return control === undefined || wired.has(control.id);
          }),
          node,
          circuitId,
          controlOfLoad,
          placeOfLever: (pointId) => levers.get(pointId),
          ...(onward && {
            onward: { hot: `load-hot:${device.id}` as const, neutral: `load-neutral:${device.id}` as const },
          }),
          alarmsJoined: alarms > 1,
        },
        needs.protection,
      ),
    );
    for (const { point } of points) {
      if (point.role !== 'lever' || needs.controls.ofPoint.has(point.id)) continue;
      findings.push({
        code: 'control.switch-without',
        severity: 'mend',
        where: { circuitId, boxId, pointId: point.id },
        message: `A switch in ${boxName(reader, boxId)} switches nothing yet. Say what it controls.`,
      });
    }
  }
  return { terminals, openDevices, findings };
}

/** What conductors of a run have been landed already, read off the joints recorded as made in the boxes at its ends. */
export function madeOn(
  reader: HouseReader,
  run: Run,
  terminals: ReadonlyMap<string, readonly Terminal[]>,
): ReadonlyMap<string, Signal> {
  const made = new Map<string, Signal>();
  const boxes = [run.from.boxId, ...('boxId' in run.to ? [run.to.boxId] : [])];
  for (const boxId of boxes) {
    for (const joint of reader.get('boxes', boxId)?.asBuilt ?? []) {
      const landed = (joint.terminals ?? []).flatMap(
        ({ deviceId, terminal }) =>
          terminals.get(boxId)?.find((known) => known.deviceId === deviceId && known.name === terminal) ?? [],
      )[0];
      if (!landed) continue;
      // Two of one run on one screw is a fault of the making and says nothing about which of them carries what.
      const own = joint.ends.filter(({ runId }) => runId === run.id);
      if (own.length === 1) made.set(own[0]!.conductor, landed.signal);
    }
  }
  return made;
}
