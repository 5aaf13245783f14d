import type { Derivation, HouseReader } from '../derive/reader.js';
import type { RoundState } from '../proving/tested.js';
import { roundState } from '../proving/tested.js';
import { printOf } from '../structures/print.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import type { Diagnosis } from './diagnosis.js';
import { DIAGNOSIS } from './known.js';
import { MadeCase, ON } from './predictions.js';
import { grayCode, shortestWalk } from './shortest-walk.js';

/** Up to so many switch locations a light is tried in every position; above it along the shortest walk that shows every single fault. */
const IN_FULL_TO = 4;
/** Walks over more levers of one control than this are not searched: nobody has so many. */
const MOST_LEVERS = 12;

/**
 * One step of the trim test (common practice: from every location, in all positions, not each switch once): with the levers so, which
 * lights are to be on and which off. Without a control: what is always on.
 */
export interface TrimStep {
  /** By what it is known again: a print. */
  readonly key: string;
  readonly controlId?: string;
  /** Points of the levers that are up; all others of the circuit are down. */
  readonly up: readonly string[];
  /** Levers that are thrown since the step before. */
  readonly thrown: readonly { readonly pointId: string; readonly up: boolean }[];
  readonly lit: readonly string[];
  readonly dark: readonly string[];
  /** Boxes in which a fault would show in this control, and conductors of the circuit. */
  readonly boxIds: readonly string[];
  readonly wires: ReadonlySet<string>;
}

export interface TrimTest {
  readonly circuitIds: readonly string[];
  readonly steps: readonly TrimStep[];
}

/** By the first circuit of a wiring group. */
const TRIM_TEST: Derivation<TrimTest> = {
  name: 'trim test',
  compute: (reader, circuitId) => {
    const wiring = wireCircuit(reader, circuitId);
    const diagnosis = reader.derive(DIAGNOSIS, circuitId);
    const { sights } = diagnosis;
    const sound = new MadeCase(reader, diagnosis.wirings, sights, diagnosis.sound, false);
    const wires = new Set(
      [...wiring.runs].flatMap(([runId, { carries }]) => [...carries.keys()].map((key) => `${runId} ${key}`)),
    );
    const own = new Set(wiring.circuitIds);
    const steps: TrimStep[] = [];
    let standing: readonly string[] = [];
    const add = (
      controlId: string | undefined,
      up: readonly string[],
      loads: readonly number[],
      boxIds: readonly string[],
    ): void => {
      const levers = sights.leversOf(up);
      const isOn = (load: number): boolean => sound.at(levers, load) === ON;
      const pointsOf = (some: readonly number[]): string[] => some.map((load) => sights.loads[load]!);
      const thrown = sights.levers.flatMap((pointId) => {
        const isUp = up.includes(pointId);
        return isUp === standing.includes(pointId) ? [] : [{ pointId, up: isUp }];
      });
      const lit = pointsOf(loads.filter(isOn));
      const dark = pointsOf(loads.filter((load) => !isOn(load)));
      const key = printOf(
        `trim@${controlId ?? circuitId}:${[...up].sort().join()}:${lit.join()}:${dark.join()}`,
      );
      steps.push({ key, ...(controlId && { controlId }), up, thrown, lit, dark, boxIds, wires });
      standing = up;
    };
    const loadsOf = (controlId: string | undefined): number[] =>
      [...sights.fed.keys()].filter(
        (load) => own.has(sights.fed[load]!.circuitId) && sights.fed[load]!.controlId === controlId,
      );
    const always = loadsOf(undefined);
    if (always.length) add(undefined, [], always, boxesShowing(diagnosis, sound, always, allOf(diagnosis)));
    for (const controlId of new Set(sights.fed.flatMap(({ controlId: id }) => id ?? []))) {
      const control = reader.get('controls', controlId);
      const loads = loadsOf(controlId);
      if (!control || !loads.length) continue;
      const places = control.places.filter((id) => sights.levers.includes(id)).slice(0, MOST_LEVERS);
      const positions = Array.from({ length: 1 << places.length }, (_, mask) =>
        sights.leversOf(places.filter((_place, bit) => (mask >>> bit) & 1)),
      );
      const boxIds = boxesShowing(diagnosis, sound, loads, positions);
      const walk =
        places.length <= IN_FULL_TO
          ? grayCode(places.length)
          : shortestWalk(places.length, showing(diagnosis, sound, loads, positions));
      for (const mask of walk)
        add(
          controlId,
          places.filter((_, bit) => (mask >>> bit) & 1),
          loads,
          boxIds,
        );
    }
    return { circuitIds: wiring.circuitIds, steps };
  },
};

const allOf = ({ sights }: Diagnosis): readonly Uint8Array[] => [sights.leversOf([])];

/** By fault in which of these positions a light of these would be otherwise; none of those that switches cannot show. */
function showing(
  { cases, hypotheses }: Diagnosis,
  sound: MadeCase,
  loads: readonly number[],
  positions: readonly Uint8Array[],
): ReadonlySet<number>[] {
  return hypotheses.map(
    (_, at) =>
      new Set(
        [...positions.keys()].filter((position) => {
          const levers = positions[position]!;
          return loads.some((load) => cases[at]!.at(levers, load) !== sound.at(levers, load));
        }),
      ),
  );
}

/** The boxes in which a fault would show so. */
function boxesShowing(
  diagnosis: Diagnosis,
  sound: MadeCase,
  loads: readonly number[],
  positions: readonly Uint8Array[],
): string[] {
  const shows = showing(diagnosis, sound, loads, positions);
  const boxIds = diagnosis.hypotheses.flatMap(({ place }, at) =>
    shows[at]!.size && (place.kind === 'box' || place.kind === 'panel') ? [place.id] : [],
  );
  return [...new Set(boxIds)];
}

/** How a circuit is tried once its devices are in: step by step which lever is thrown, and what is lit then. */
export const trimTest = (reader: HouseReader, circuitId: string): TrimTest =>
  reader.derive(TRIM_TEST, wireCircuit(reader, circuitId).circuitIds[0] ?? circuitId);

/** How a circuit stands in the trim test. */
export const trimState = (reader: HouseReader, circuitId: string): RoundState<TrimStep> => {
  const { circuitIds, steps } = trimTest(reader, circuitId);
  return roundState(reader, circuitIds[0] ?? circuitId, steps, 'trim');
};
