import type { HouseReader } from '../../derive/reader.js';
import { boxFacts, runsAt } from '../../facts/box-facts.js';
import type { Circuit } from '../../house/model.js';
import type { Landing } from './landing.js';
import { byNumber } from '../../house/breaker-by-number.js';
import {
  BREAKER,
  BREAKER_NEUTRAL,
  GROUND_BAR,
  LINK,
  NEUTRAL_BAR,
  SECOND_POLE,
} from '../../vocabulary/panel-parts.js';

const ON_BREAKER: ReadonlySet<string> = new Set([BREAKER, SECOND_POLE, BREAKER_NEUTRAL]);
export const isOnBreaker = ({ terminal }: Landing): boolean => ON_BREAKER.has(terminal);
export const isPanelTerminal = ({ deviceId, terminal }: Landing): boolean =>
  !deviceId && (ON_BREAKER.has(terminal) || terminal === NEUTRAL_BAR || terminal === GROUND_BAR);

/** The circuits of a panel, by number. */
export const circuitsOfPanel = (reader: HouseReader, panelId: string): readonly Circuit[] =>
  reader
    .mentioning('circuits', panelId)
    .filter((circuit) => circuit.panelId === panelId)
    .sort((a, b) => a.number - b.number);

/** A landing as recorded, with its breaker told by circuit. */
export function panelLanding(reader: HouseReader, boxId: string, landing: Landing): Landing {
  if (landing.deviceId || landing.circuitId || !landing.terminal.startsWith('breaker ')) return landing;
  return byNumber(circuitsOfPanel(reader, boxId), landing.terminal) ?? landing;
}

/** Whether the breaker of a circuit watches its neutral, which then lands on the breaker and not on the bar. */
export const hasOwnNeutral = ({ protection }: Pick<Circuit, 'protection'>): boolean => protection !== 'none';

/** A panel that a circuit of another panel feeds: neutral and ground are kept apart in it (NEC 250.24(A)(5), from memory). */
export const isSubPanel = (reader: HouseReader, boxId: string): boolean =>
  boxFacts(reader, reader.get('boxes', boxId)!).kind === 'panel' &&
  runsAt(reader, boxId).some(
    (run) =>
      run.kind !== 'low-voltage' &&
      run.circuitIds.some((id) => (reader.get('circuits', id)?.panelId ?? boxId) !== boxId),
  );

/**
 * The leg of the service that a pole stands on, 0 or 1: rows of two spaces alternate, and the second pole of a breaker stands
 * on the other leg. Undefined while its space is not said.
 */
export function legOfSpace({ spaces }: Pick<Circuit, 'spaces'>): 0 | 1 | undefined {
  const space = spaces?.[0];
  return space === undefined ? undefined : ((Math.floor((space - 1) / 2) % 2) as 0 | 1);
}

/** "breaker 5, neutral", "link to the other splice", or the name of the terminal itself. */
export function terminalWords(reader: HouseReader, { terminal, circuitId }: Landing): string {
  if (terminal.startsWith(LINK)) return 'link to the other splice';
  const number = circuitId && reader.get('circuits', circuitId)?.number;
  return number ? terminal.replace(BREAKER, `${BREAKER} ${number}`) : terminal;
}

export const isLink = ({ deviceId, terminal }: Landing): boolean => !deviceId && terminal.startsWith(LINK);
