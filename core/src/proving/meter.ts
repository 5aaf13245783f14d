import type { HouseReader } from '../derive/reader.js';
import { boxesOf, conductorsOf, standingPull } from '../facts/box-facts.js';
import type { Run } from '../house/model.js';
import { pulledLengthIn } from '../facts/reel-usage.js';
import { cutOf } from '../routing/cut.js';
import type { RingStep } from './ring-out.js';
import { ringOut } from './ring-out.js';
import { ringState } from './tested.js';

/** What the meter of a step is set to, and what it is expected to show. */
export interface Meter {
  readonly unit: 'Ω' | 'MΩ';
  /** By the length of its cable, in ohms; undefined where nothing is measured along one, or a length is not known. */
  readonly expected?: number;
}

/** What does not fit in what a meter showed. */
export type ReadingQuestion =
  /** Under what is asked of insulation, in megohms: never good. */
  | { readonly kind: 'insulation-low'; readonly least: number }
  /** Line and neutral of a ring read otherwise: a leg that is longer, or a joint that is loose. */
  | { readonly kind: 'ring-unlike'; readonly other: number }
  /** The CPC of a ring reads otherwise than its thinner core would. */
  | { readonly kind: 'ring-cpc'; readonly expected: number }
  /** Far from what the length of its cable gives. */
  | { readonly kind: 'far-from-length'; readonly expected: number };

/** Readings nearer to each other than this are alike whatever they are: of leads and hands. */
const NEAR_OHMS = 0.1;
/** A reading over one by length, or under it, that is taken without asking. */
const LIKELY = 2;
const METERS = 0.0254;

/** Meters of a run: as it was measured, else as it is to be cut. */
function metersOf(reader: HouseReader, run: Run): number {
  const pull = standingPull(reader, run.id);
  const measured = pull && pull.lengthFrom !== 'planned' ? pulledLengthIn(pull) : undefined;
  return (measured ?? cutOf(reader, run).lengthIn) * METERS;
}

/** Ohms of one conductor of a run; undefined where the rulebook has no resistance for it. */
function ohmsOf(reader: HouseReader, run: Run, key: string): number | undefined {
  const conductor = conductorsOf(reader, run).find((own) => own.key === key);
  const rule = conductor && `test.ohm.${conductor.gauge}`;
  const rules = reader.rules();
  return rule && rules.has(rule) ? (metersOf(reader, run) * rules.number(rule)) / 1000 : undefined;
}

interface Leg {
  readonly run: Run;
  readonly key: string;
}

/** The runs along which a joined conductor leads from one end to a box, the fewest of them; undefined where it does not. */
function wayOf(
  reader: HouseReader,
  from: { readonly boxId: string; readonly runId: string; readonly isGround: boolean },
  to: string,
  wires: ReadonlySet<string>,
): Leg[] | undefined {
  const legs = [...wires].flatMap((wire): Leg[] => {
    const at = wire.indexOf(' ');
    const [run, key] = [reader.get('runs', wire.slice(0, at)), wire.slice(at + 1)];
    const conductor = run && conductorsOf(reader, run).find((own) => own.key === key);
    return run && (conductor?.ground ?? false) === from.isGround ? [{ run, key }] : [];
  });
  const waits: { readonly boxId: string; readonly way: readonly Leg[] }[] = [{ boxId: from.boxId, way: [] }];
  const seen = new Set([from.boxId]);
  for (const { boxId, way } of waits)
    for (const leg of legs) {
      const ends = boxesOf(leg.run);
      if (!ends.includes(boxId) || (way.length === 0 && leg.run.id !== from.runId)) continue;
      const next = ends.find((end) => end !== boxId)!;
      if (seen.has(next)) continue;
      seen.add(next);
      if (next === to) return [...way, leg];
      waits.push({ boxId: next, way: [...way, leg] });
    }
  return undefined;
}

const sum = (ohms: readonly (number | undefined)[]): number | undefined =>
  ohms.some((one) => one === undefined) ? undefined : ohms.reduce<number>((all, one) => all + one!, 0);

function expectedOf(reader: HouseReader, step: RingStep): number | undefined {
  if (step.kind === 'ends')
    return sum(
      [...step.wires].map((wire) => {
        const run = reader.get('runs', wire.slice(0, wire.indexOf(' ')));
        return run && ohmsOf(reader, run, wire.slice(wire.indexOf(' ') + 1));
      }),
    );
  if (step.kind !== 'polarity') return undefined;
  return sum(
    step.join!.ends.map((end) =>
      sum(
        wayOf(reader, end, step.boxId, step.wires)?.map(({ run, key }) => ohmsOf(reader, run, key)) ?? [
          undefined,
        ],
      ),
    ),
  );
}

/**
 * What a step of the dead tests is measured in, and about what it shows: resistance of each core at 20 °C by its cross-section (BS EN
 * 60228, from memory) along the lengths of its cables. Undefined where circuits are rung out, and nothing is written down.
 */
export function meterOf(reader: HouseReader, step: RingStep): Meter | undefined {
  if (reader.rules().jurisdiction.testing !== 'dead-tests') return undefined;
  if (step.kind === 'apart') return { unit: 'MΩ' };
  const expected = expectedOf(reader, step);
  return { unit: 'Ω', ...(expected !== undefined && { expected }) };
}

/** The readings of the other cores of a ring, by what these are. */
function ringReadings(reader: HouseReader, circuitId: string, boarded: boolean): ReadonlyMap<string, number> {
  return new Map(
    ringState(reader, circuitId, boarded).steps.flatMap(({ step, record, is }) => {
      // What was made up otherwise since says nothing of the ring as it is.
      const reading = is === 'again' ? undefined : record?.tested?.reading;
      return step.kind === 'ends' && reading !== undefined ? [[step.ends[0]!.role, reading] as const] : [];
    }),
  );
}

/** Ohms of the CPC of a ring for each of its line. */
function ratioOf(reader: HouseReader, circuitId: string): number | undefined {
  const byRole = new Map(
    ringOut(reader, circuitId).steps.flatMap((step) => {
      const ohms = step.kind === 'ends' ? expectedOf(reader, step) : undefined;
      return ohms ? [[step.ends[0]!.role, ohms] as const] : [];
    }),
  );
  const [line, cpc] = [byRole.get('hot'), byRole.get('ground')];
  return line && cpc && cpc / line;
}

/**
 * What is to be asked about a reading before the step is taken as good. Insulation under its least is never good; of a ring r1 and rn
 * are alike, and r2 is as much more as its core is thinner (common practice); what is far from its length is asked about.
 */
export function askedOfReading(
  reader: HouseReader,
  circuitId: string,
  step: RingStep,
  reading: number,
  boarded = false,
): ReadingQuestion[] {
  const rules = reader.rules();
  const meter = meterOf(reader, step);
  if (!meter) return [];
  if (meter.unit === 'MΩ') {
    const least = rules.number('test.insulation');
    return reading < least ? [{ kind: 'insulation-low', least }] : [];
  }
  if (step.kind === 'ends') {
    const alike = rules.number('test.ringAlike');
    const [role, known] = [step.ends[0]!.role, ringReadings(reader, circuitId, boarded)];
    if (role === 'ground') {
      const [line, ratio] = [known.get('hot'), ratioOf(reader, circuitId)];
      const expected = line !== undefined && ratio !== undefined ? line * ratio : undefined;
      if (expected !== undefined)
        return Math.abs(reading - expected) > Math.max(alike, expected * 0.15)
          ? [{ kind: 'ring-cpc', expected }]
          : [];
    } else {
      const other = known.get(role === 'hot' ? 'neutral' : 'hot');
      if (other !== undefined && Math.abs(reading - other) > alike + 1e-9)
        return [{ kind: 'ring-unlike', other }];
    }
  }
  const { expected } = meter;
  if (expected === undefined || Math.abs(reading - expected) <= NEAR_OHMS) return [];
  return reading > expected * LIKELY || reading < expected / LIKELY
    ? [{ kind: 'far-from-length', expected }]
    : [];
}
