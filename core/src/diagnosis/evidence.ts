import type { HouseReader } from '../derive/reader.js';
import type { Report } from '../house/report.js';
import { BareNets } from '../proving/bare-nets.js';
import type { RingStep } from '../proving/ring-out.js';
import { readStep } from '../proving/ring-out.js';
import { soundJoints } from '../wiring/joints/box-joints.js';
import type { JointsByBox } from '../wiring/netlist/netlist.js';
import type { MadeCase, Sights } from './predictions.js';
import { ON, SEEN, TRIPS } from './predictions.js';

/** What speaks for or against a cause: what somebody reports, and what was tested step by step. */
export type Evidence =
  | Report
  /** A step of ringing out. */
  | { readonly kind: 'ring'; readonly step: RingStep; readonly isGood: boolean }
  /** A step of the trim test: which lights are to be on with the levers so, and which off. */
  | {
      readonly kind: 'trim';
      readonly up: readonly string[];
      readonly lit: readonly string[];
      readonly dark: readonly string[];
      readonly isGood: boolean;
    };

/** How often a report is wrong: common practice, a lever misread, a lamp not looked at. */
export const WRONG = 0.04;
/** A box that was looked through is seen wrong less often, a meter as well, and a breaker that was set anew next to never. */
export const LOOKED_WRONG = 0.02;
const BREAKER_WRONG = 0.002;

export function wrongOf(evidence: Evidence): number {
  if (evidence.kind === 'looked') return evidence.place.kind === 'breaker' ? BREAKER_WRONG : LOOKED_WRONG;
  return evidence.kind === 'ring' || evidence.kind === 'rang' || evidence.kind === 'volts'
    ? LOOKED_WRONG
    : WRONG;
}

/** Of a reading that is next to nothing, and of one that is the full voltage of one or two hots. */
const NO_VOLTS = 2;
const isFull = (volts: number, lineVolts: number): boolean =>
  [lineVolts, 2 * lineVolts].some((full) => Math.abs(volts - full) < 0.05 * full);

/** What a meter says of so many volts, where there are these between a hot and neutral. */
export const readsOf = (volts: number, lineVolts: number): Extract<Report, { kind: 'volts' }>['reads'] =>
  isFull(volts, lineVolts) ? 'full' : volts < NO_VOLTS ? 'none' : 'between';

/** Bare conductors of a whole house in which the boxes of a circuit are made up so; what other circuits have there stays as it is. */
export function bareNetsOf(reader: HouseReader, sound: JointsByBox, joints: JointsByBox): BareNets {
  const all = new Map(
    reader.all('boxes').map(({ id }) => {
      const here = soundJoints(reader, id);
      const own = joints.get(id);
      if (!own) return [id, here] as const;
      const before = sound.get(id) ?? [];
      const ends = new Set(before.flatMap((joint) => joint.ends.map(({ runId, key }) => `${runId} ${key}`)));
      const others = here.filter(
        (joint) =>
          !before.includes(joint) && !joint.ends.some(({ runId, key }) => ends.has(`${runId} ${key}`)),
      );
      return [id, [...own, ...others]] as const;
    }),
  );
  return new BareNets(reader, all);
}

/** Whether a circuit that is made up so shows what a report says; `nets` only where it was rung. */
export function says(
  sights: Sights,
  made: MadeCase,
  evidence: Exclude<Evidence, { kind: 'looked' | 'parted' }>,
  nets?: BareNets,
): boolean {
  switch (evidence.kind) {
    case 'seen': {
      const load = sights.loads.indexOf(evidence.pointId);
      return load < 0 || made.at(sights.leversOf(evidence.up), load) === SEEN.indexOf(evidence.seen);
    }
    case 'trim': {
      const levers = sights.leversOf(evidence.up);
      const shows = (pointId: string, isOn: boolean): boolean => {
        const load = sights.loads.indexOf(pointId);
        return load < 0 || made.at(levers, load) === (isOn ? ON : 0);
      };
      const isGood =
        evidence.lit.every((id) => shows(id, true)) && evidence.dark.every((id) => shows(id, false));
      return isGood === evidence.isGood;
    }
    case 'habit': {
      const load = sights.loads.indexOf(evidence.pointId);
      if (load < 0) return true;
      const each = sights.positions.map((levers, at) => made.at(levers, load, at));
      if (evidence.does === 'trips') return each.every((seen) => seen === TRIPS);
      return each.every((seen) => (evidence.does === 'always' ? seen === ON : seen !== ON && seen !== TRIPS));
    }
    case 'with': {
      const [one, other] = [sights.loads.indexOf(evidence.pointId), sights.loads.indexOf(evidence.other)];
      if (one < 0 || other < 0) return true;
      return sights.positions.every((levers, at) => made.at(levers, one, at) === made.at(levers, other, at));
    }
    case 'ring':
      return !nets || readStep(nets, evidence.step).isGood === evidence.isGood;
    case 'rang': {
      const [a, b] = evidence.ends.map((end) => nets?.net(end));
      return a === undefined || b === undefined || (a === b) === evidence.rings;
    }
    case 'volts': {
      const volts = made.volts(evidence.ends, sights.leversOf(evidence.up));
      // What hangs on nothing shows nothing, or a ghost voltage on a meter of high impedance; now and then nearly all of it.
      if (volts === undefined) return evidence.reads !== 'full';
      return evidence.reads === readsOf(volts, sights.lineVolts);
    }
  }
}
