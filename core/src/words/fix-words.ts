import { gaugeNumber } from '../vocabulary/size.js';
import type { FixCode, FixFacts } from '../findings/facts.js';
import type { Say } from './say.js';

type Labels = { readonly [C in FixCode]: (say: Say, facts: FixFacts[C]) => string };

/** What stands on the button of every way out. */
export const FIX_WORDS: Labels = {
  'change-box': (say, { boxId, catalogueId }) => `Change ${say.box(boxId)} to ${say.boxType(catalogueId)}`,
  'derive-order': (say, { controlId }) => `Let the order of ${say.control(controlId)} be derived`,
  'draw-wires': (_say, { wires }) =>
    `Draw ${wires.map(({ gauge, colour }) => `${gaugeNumber(gauge)} ${colour}`).join(', ')} into it`,
  'edition-value': () => 'Go back to the edition’s value',
  excuse: (say, { boxId, reason }) => `Excuse ${say.box(boxId)}: ${say.exception(reason)}`,
  'feed-other-end': (say, { boxId, insteadOf }) =>
    `Bring the feed to ${say.box(boxId)} instead of ${say.box(insteadOf)}`,
  'gfci-receptacle': (say, { boxId }) =>
    `Make it a ${say.term('GFCI')} ${say.term('receptacle')} in ${say.box(boxId)}`,
  'leave-group': (say, { circuitId }) => `Take ${say.circuit(circuitId)} out of the group`,
  'made-again': (_say, { all }) =>
    all ? 'All of it has been made again as it should be' : 'It has been made again as it should be',
  'marked-for-two': (say) => `The ${say.term('breaker')} is marked for two wires`,
  'marked-now': () => 'It is marked now',
  'name-once': () => 'Name each once',
  'plain-switch': (say, { boxId }) => `Put a plain switch in ${say.box(boxId)}`,
  'plan-cable': (say, { cable, runId }) => `Plan ${cable} for ${runId ? say.run(runId) : 'this run'}`,
  'put-on-circuit': (say, { circuitId }) => `Put it on ${say.circuit(circuitId)}`,
  'side-by-side': (_say, { first, second }) => `Run two side by side: ${first} and ${second}`,
};
