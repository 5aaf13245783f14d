import type { CircuitSupply } from '../../facts/circuit-facts.js';
import { circuitsOfPanel, numberOf, supplyOf } from '../../facts/circuit-facts.js';
import type { Derivation, HouseReader } from '../../derive/reader.js';
import { BOX_SHAPE, shapeOfBox, runsAt } from '../../facts/box-facts.js';
import type { Landing, TerminalKind } from '../../vocabulary/terminal.js';
import { circuitOfTerminal } from '../../vocabulary/terminal.js';
import { byNumber } from '../../house/breaker-by-number.js';

export const isOnBreaker = ({ terminal: { kind } }: Landing): boolean =>
  kind === 'breaker' || kind === 'breaker-neutral';
const OF_A_PANEL: ReadonlySet<TerminalKind> = new Set([
  'breaker',
  'breaker-neutral',
  'neutral-bar',
  'ground-bar',
]);
export const isPanelTerminal = ({ deviceId, terminal }: Landing): boolean =>
  !deviceId && OF_A_PANEL.has(terminal.kind);

/** A landing as recorded, with its breaker told by circuit. */
export function panelLanding(reader: HouseReader, boxId: string, landing: Landing): Landing {
  if (landing.deviceId || !isOnBreaker(landing) || circuitOfTerminal(landing.terminal)) return landing;
  const numbered = circuitsOfPanel(reader, boxId).map(({ id }) => ({ id, number: numberOf(reader, id) }));
  return { terminal: byNumber(numbered, landing.terminal) };
}

/** Whether the breaker of a circuit watches its neutral, which then lands on the breaker and not on the bar. */
export const hasOwnNeutral = ({ protection }: Pick<CircuitSupply, 'protection'>): boolean =>
  protection !== 'none';

/** By box id. */
const SUB_PANEL: Derivation<boolean> = {
  name: 'sub-panel',
  cutsOff: true,
  compute: (reader, boxId) =>
    reader.part(BOX_SHAPE, boxId) !== undefined &&
    shapeOfBox(reader, boxId).kind === 'panel' &&
    runsAt(reader, boxId).some(
      (run) =>
        run.kind !== 'low-voltage' &&
        run.circuitIds.some((id) => (supplyOf(reader, id)?.panelId ?? boxId) !== boxId),
    ),
};

/** A panel that a circuit of another panel feeds: neutral and ground are kept apart in it (NEC 250.24(A)(5), from memory). */
export const isSubPanel = (reader: HouseReader, boxId: string): boolean => reader.derive(SUB_PANEL, boxId);

/**
 * The leg of the service that a pole stands on, 0 or 1: rows of two spaces alternate, and the second pole of a breaker stands
 * on the other leg. Undefined while its space is not said.
 */
export function legOfSpace({ spaces }: Pick<CircuitSupply, 'spaces'>): 0 | 1 | undefined {
  const space = spaces?.[0];
  return space === undefined ? undefined : ((Math.floor((space - 1) / 2) % 2) as 0 | 1);
}

export const isLink = ({ deviceId, terminal }: Landing): boolean => !deviceId && terminal.kind === 'link';
export const isGroundBar = ({ terminal }: Landing): boolean => terminal.kind === 'ground-bar';
