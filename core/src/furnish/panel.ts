import type { SingleChangeBody } from '../changes/change.js';
import { setting } from '../changes/change.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import type { Circuit } from '../house/model.js';
import { legOfSpace } from '../wiring/circuit/panel-terminals.js';

/** What a space of a panel holds: a circuit, the second pole of one, or nothing. */
export interface PanelSpace {
  readonly space: number;
  readonly circuitId?: string;
  readonly isSecondPole?: true;
  /** Two breakers are said to stand here: the others. */
  readonly also?: readonly string[];
}

export interface PanelLayout {
  /** Odd spaces stand on the left, even ones on the right; by rows, from the top. */
  readonly rows: readonly (readonly [PanelSpace, PanelSpace])[];
  /** Circuits of this panel for which no space is said. */
  readonly without: readonly string[];
  /** Breakers on each of the two legs of the service: amperes of their poles. */
  readonly legAmps: readonly [number, number];
}

/** Spaces that are shown at least. */
const LEAST = 20;

const spacesOf = ({ spaces, poles }: Circuit): readonly number[] => {
  const [first] = spaces ?? [];
  if (first === undefined) return [];
  return spaces!.length >= poles ? spaces! : Array.from({ length: poles }, (_none, pole) => first + 2 * pole);
};

/** The leg of the service that a space stands on. */
export const legOf = (space: number): 0 | 1 => legOfSpace({ spaces: [space] })!;

/** A panel as it is seen with its cover off, by box id. */
const PANEL: Derivation<PanelLayout> = {
  name: 'panel layout',
  compute: (reader, panelId) => {
    const circuits = reader.mentioning('circuits', panelId).filter((circuit) => circuit.panelId === panelId);
    const held = new Map<number, { circuitId: string; isSecond: boolean }[]>();
    const legAmps: [number, number] = [0, 0];
    for (const circuit of circuits)
      spacesOf(circuit).forEach((space, pole) => {
        held.set(space, [...(held.get(space) ?? []), { circuitId: circuit.id, isSecond: pole > 0 }]);
        legAmps[legOf(space)] += circuit.breakerAmps;
      });
    const last = Math.max(LEAST, ...held.keys());
    const at = (space: number): PanelSpace => {
      const [first, ...more] = held.get(space) ?? [];
      return {
        space,
        ...(first && { circuitId: first.circuitId }),
        ...(first?.isSecond && { isSecondPole: true as const }),
        ...(more.length && { also: more.map(({ circuitId }) => circuitId) }),
      };
    };
    return {
      rows: Array.from({ length: Math.ceil(last / 2) + 1 }, (_none, row): [PanelSpace, PanelSpace] => [
        at(2 * row + 1),
        at(2 * row + 2),
      ]),
      without: circuits.filter((circuit) => spacesOf(circuit).length === 0).map(({ id }) => id),
      legAmps,
    };
  },
};

export const panelLayout = (reader: HouseReader, panelId: string): PanelLayout =>
  reader.derive(PANEL, panelId);

/**
 * Puts the breaker of a circuit on a space (its second pole on the next one of the same side). What stood there goes to the
 * spaces that it leaves, or, where these are too few, to the next ones that are free.
 */
export function moveBreaker(reader: HouseReader, circuitId: string, space: number): SingleChangeBody[] {
  const circuit = reader.get('circuits', circuitId);
  if (!circuit) return [];
  const others = reader
    .mentioning('circuits', circuit.panelId)
    .filter((other) => other.panelId === circuit.panelId && other.id !== circuitId);
  const own = Array.from({ length: circuit.poles }, (_none, pole) => space + 2 * pole);
  const left = spacesOf(circuit);
  const moved = others.filter((other) => spacesOf(other).some((taken) => own.includes(taken)));
  const used = new Set([
    ...own,
    ...others.filter((other) => !moved.includes(other)).flatMap((other) => spacesOf(other)),
  ]);
  const fits = (first: number, poles: number): number[] | undefined => {
    const all = Array.from({ length: poles }, (_none, pole) => first + 2 * pole);
    return all.every((one) => !used.has(one)) ? all : undefined;
  };
  const changes = [setting('circuits', circuitId, { spaces: own })];
  for (const other of moved) {
    let next = left.map((first) => fits(first, other.poles)).find(Boolean);
    for (let first = 1; !next; first++) next = fits(first, other.poles);
    next.forEach((one) => used.add(one));
    changes.push(setting('circuits', other.id, { spaces: next }));
  }
  return changes;
}
