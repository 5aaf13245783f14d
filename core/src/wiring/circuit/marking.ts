import type { HouseReader } from '../../derive/reader.js';
import { cableIn } from '../../facts/box-facts.js';
import type { Run } from '../../house/model.js';
import { cableOf } from '../../rulebook/cables.js';
import type { ColourPlan } from '../../vocabulary/catalogue-types.js';
import type { SignalKind } from '../../vocabulary/signal.js';
import type { Colour } from '../../vocabulary/text.js';

/** What the colours of a run mean: those of its country, or of the old installation that its cable belongs to. */
export function coloursOf(reader: HouseReader, run: Run | undefined): ColourPlan {
  const plan = reader.rules().jurisdiction.colours;
  const cable = run && cableIn(reader, run);
  return (cable && cableOf(cable).old && plan.old) || plan;
}

/** Whether a conductor of cable is marked at its ends where it carries this. */
export const isMarkedAs = (plan: ColourPlan, colour: Colour, kind: SignalKind): boolean =>
  plan.marked[kind === 'neutral' ? 'neutral' : 'line'].includes(colour) &&
  (kind !== 'interconnect' || plan.neutral.includes(colour));

/** Whether a conductor of this colour is ever marked: only of these it is recorded whether it is. */
export const canBeMarked = (plan: ColourPlan, colour: Colour): boolean =>
  plan.marked.line.includes(colour) || plan.marked.neutral.includes(colour);

/** The first colour that one that carries this is marked with: a sleeve or tape. */
export const markColours = (plan: ColourPlan, kind: string): readonly Colour[] =>
  plan.markedWith[kind === 'neutral' ? 'neutral' : 'line'];
