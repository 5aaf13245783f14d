import { recordedJoints } from '../circuit/recorded-joints.js';
import { loadModel } from '../circuit/device-models.js';
import type { CircuitSupply } from '../../facts/circuit-facts.js';
import { supplyOf } from '../../facts/circuit-facts.js';
import { NO_FACTS } from '../../findings/finding.js';
import type { HouseReader } from '../../derive/reader.js';
import { deviceType } from '../../facts/box-facts.js';
import type { Device } from '../../house/model.js';
import type { Finding } from '../../findings/finding.js';
import type { Landing } from '../../vocabulary/terminal.js';
import { circuitOfTerminal, sameTerminal } from '../../vocabulary/terminal.js';
import type { CircuitTree } from '../circuit/circuit-tree.js';
import type { ReachedPoint } from '../circuit/controls.js';
import type { TreeNeeds } from '../needs/needs.js';
import type { Carried, Signal, SignalLanding } from '../../vocabulary/signal.js';
import {
  hotOf,
  protectedBy,
  protectedHotOf,
  protectedNeutralOf,
  secondHotOf,
} from '../../vocabulary/signal.js';
import type { LeverPlace } from '../circuit/device-models.js';
import { terminalsOf } from '../circuit/terminals.js';
import { Union } from '../../structures/union.js';

/** The levers of a group by their place in the electrical order. */
export function leversOf(needs: TreeNeeds): Map<string, LeverPlace> {
  const levers = new Map<string, LeverPlace>();
  for (const [controlId, order] of needs.orders)
    order.forEach((pointId, index) =>
      levers.set(pointId, {
        controlId,
        index,
        of: order.length,
        ...(needs.isConverted && order.length > 1 && { isConverted: true }),
      }),
    );
  return levers;
}

export interface DeviceTerminals {
  readonly terminals: readonly SignalLanding[];
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
  for (const reached of needs.points) {
    const known = byDevice.get(reached.device);
    if (known) known.push(reached);
    else byDevice.set(reached.device, [reached]);
  }
  const alarms = needs.points.filter(({ point }) => point.role === 'alarm').length;
  const terminals: SignalLanding[] = [];
  const openDevices = new Set<string>();
  const findings: Finding[] = [];
  // Devices that have something to protect: their LOAD side is used.
  const beyond = new Set(
    [...needs.needs.values()].flatMap((signals) => signals.flatMap((one) => protectedBy(one) ?? [])),
  );
  for (const [device, points] of byDevice) {
    const { boxId, node } = points[0]!;
    const type = deviceType(reader, device);
    const both = loadModel(type).hots === 2;
    const wrong = points.find((point) => both !== (supplyOf(reader, point.circuitId)!.poles === 2));
    const { circuitId } = wrong ?? points[0]!;
    if (wrong) {
      openDevices.add(device.id);
      findings.push({
        code: 'device.wrong-voltage',
        severity: 'stop',
        where: { circuitId, boxId, deviceId: device.id },
        facts: { hots: both ? 2 : 1 },
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
          controlOfLoad,
          placeOfLever: (pointId) => levers.get(pointId),
          onward: onward
            ? { hot: protectedHotOf(device.id), neutral: protectedNeutralOf(device.id) }
            : undefined,
          alarmsJoined: alarms > 1,
        },
        needs.protection,
      ),
    );
    for (const { point, circuitId: own } of points) {
      if (point.role !== 'lever' || needs.controls.ofPoint.has(point.id)) continue;
      findings.push({
        code: 'control.switch-without',
        severity: 'fix',
        where: { circuitId: own, boxId, pointId: point.id },
        facts: NO_FACTS,
      });
    }
  }
  return { terminals, openDevices, findings };
}

/** What conductors carry already, by what was made. */
export interface MadeSignals {
  /** Of one run, by conductor key. */
  readonly of: (runId: string) => ReadonlyMap<string, Signal>;
  /** What a run has been given to carry: what is joined with its conductors carries the same. */
  readonly learn: (runId: string, carries: ReadonlyMap<string, Carried>) => void;
}

const NONE: ReadonlyMap<string, Signal> = new Map();
const NOTHING_MADE: MadeSignals = { of: () => NONE, learn: () => undefined };

/**
 * What conductors carry already, read off the joints recorded as made in the boxes of a group: what is joined there hangs
 * together, and carries what lands on any of its terminals.
 */
export function madeSignals(
  reader: HouseReader,
  group: readonly CircuitSupply[],
  tree: CircuitTree,
  terminals: ReadonlyMap<string, readonly SignalLanding[]>,
): MadeSignals {
  const boxes = new Set(tree.boxOf.values());
  const joints = [...boxes].flatMap((boxId) =>
    recordedJoints(reader, boxId).map((joint) => ({ boxId, joint })),
  );
  if (joints.length === 0) return NOTHING_MADE;
  const ids = new Set(group.map(({ id }) => id));
  /** What lands on a terminal of the panel, where it is this group's. */
  const panelSignal = (boxId: string, { terminal }: Landing): Signal | undefined => {
    if (boxId !== tree.panelId) return undefined;
    if (terminal.kind === 'neutral-bar') return 'neutral';
    const circuitId = circuitOfTerminal(terminal);
    if (!circuitId || !ids.has(circuitId)) return undefined;
    if (terminal.kind !== 'breaker') return 'neutral';
    return terminal.pole === 2 ? secondHotOf(circuitId) : hotOf(circuitId);
  };
  /** By run and conductor. */
  const numbers = new Map<string, Map<string, number>>();
  const union = new Union();
  const place = (runId: string, conductor: string): number => {
    const own = numbers.get(runId) ?? new Map<string, number>();
    numbers.set(runId, own);
    let number = own.get(conductor);
    if (number === undefined) own.set(conductor, (number = union.make()));
    return number;
  };
  const landed: { at: number; signal: Signal }[] = [];
  for (const { boxId, joint } of joints) {
    const runs = joint.ends.map(({ runId }) => runId);
    // Two of one run in one joint is a fault of the making, and says nothing about which of them carries what.
    if (joint.ends.length === 0 || new Set(runs).size < runs.length) continue;
    const [first, ...others] = joint.ends.map(({ runId, conductor }) => place(runId, conductor));
    for (const other of others) union.join(other, first!);
    for (const landing of joint.landings) {
      const { deviceId, terminal } = landing;
      const signal = deviceId
        ? terminals
            .get(boxId)
            ?.find((known) => known.deviceId === deviceId && sameTerminal(known.terminal, terminal))?.signal
        : panelSignal(boxId, landing);
      if (signal) landed.push({ at: first!, signal });
    }
  }
  const carries = new Map<number, Signal | 'several'>();
  for (const { at, signal } of landed) {
    const top = union.find(at);
    const known = carries.get(top);
    carries.set(top, known === undefined || known === signal ? signal : 'several');
  }
  return {
    of: (runId) => {
      const signals = new Map<string, Signal>();
      for (const [conductor, number] of numbers.get(runId) ?? []) {
        const signal = carries.get(union.find(number));
        if (signal && signal !== 'several') signals.set(conductor, signal);
      }
      return signals;
    },
    learn: (runId, given) => {
      for (const [conductor, number] of numbers.get(runId) ?? []) {
        const carried = given.get(conductor);
        const top = union.find(number);
        if (carried && carried !== 'spare' && carried !== 'undecided' && !carries.has(top))
          carries.set(top, carried);
      }
    },
  };
}
