import { gaugeNumber } from '../../vocabulary/size.js';
import type { FixWords } from '../language/language.js';

/** What stands on the button of every way out. */
export const ENGLISH_FIXES: FixWords = {
  'change-box': (say, { boxId, catalogueId }) => `Change ${say.box(boxId)} to ${say.boxType(catalogueId)}`,
  'derive-order': (say, { controlId }) => `Let the order of ${say.control(controlId)} be worked out`,
  'draw-wires': (say, { wires }) =>
    `Draw ${wires.map(({ gauge, colour }) => `${gaugeNumber(gauge)} ${say.colour(colour)}`).join(', ')} into it`,
  'edition-value': () => 'Go back to the edition’s value',
  excuse: (say, { boxId, reason }) => `Excuse ${say.box(boxId)}: ${say.exception(reason)}`,
  'feed-other-end': (say, { boxId, insteadOf }) =>
    `Let power come in at ${say.box(boxId)} instead of ${say.box(insteadOf)}`,
  'gfci-receptacle': (say, { boxId }) =>
    `Make it a ${say.term('GFCI')} ${say.term('receptacle')} in ${say.box(boxId)}`,
  'leave-group': (say, { circuitId }) => `Take ${say.circuit(circuitId)} out of the group`,
  'made-again': (_say, { all }) =>
    all ? 'All of it has been made again as it should be' : 'It has been made again as it should be',
  'make-ring': (say, { circuitId }) => `Make ${say.circuit(circuitId)} a ring`,
  'ring-home': (say, { boxId }) => `Plan a cable from ${say.box(boxId)} home`,
  'no-ring': (say, { circuitId }) => `Let ${say.circuit(circuitId)} be no ring`,
  'marked-for-two': (say) => `The ${say.term('breaker')} is marked for two wires`,
  'marked-now': () => 'It is marked now',
  'move-panel': (say, { boxId, roomId }) => `Move ${say.box(boxId)} to ${say.room(roomId)}`,
  'let-go-points': () => 'Leave out the points that it cannot get to',
  'let-in-walls': () => 'Let it through every wall',
  'way-around': (say, { runId, moreIn }) =>
    `Take ${say.run(runId)} round by safe zones${moreIn >= 6 ? `, ${say.units.long(moreIn)} longer` : ''}`,
  'move-box': (say, { boxId, byIn }) => `Move ${say.box(boxId)} by ${say.units.long(byIn)}`,
  'name-once': () => 'Name each once',
  'plain-switch': (say, { boxId }) => `Put a standard switch in ${say.box(boxId)}`,
  'plan-cable': (say, { cable, runId }) => `Plan ${cable} ${runId ? say.ends(runId) : 'for this run'}`,
  protect: (say, { circuitId, protection }) =>
    `${protection === 'dual' ? `${say.term('AFCI')} and ${say.term('GFCI')}` : say.term(protection === 'afci' ? 'AFCI' : 'GFCI')} ${say.term('breaker')} on ${say.circuit(circuitId)}`,
  'put-on-circuit': (say, { circuitId }) => `Put it on ${say.circuit(circuitId)}`,
  'reorder-switches': (say, { boxId }) => `Change the order in ${say.box(boxId)}`,
  'set-out': (say, { boxId, outIn }) => `${say.box(boxId)} stands out ${say.units.short(outIn)}`,
  'fewer-in-hole': (_say, { cables }) => `At most ${cables} cables in a hole of this house`,
  'set-height': (say, { boxId, heightIn }) => `Set ${say.box(boxId)} at ${say.units.short(heightIn)}`,
  'own-box': (say, { boxId, cables }) =>
    `Set a bracket beside ${say.box(boxId)} for the low-voltage ${cables === 1 ? 'cable' : 'cables'}`,
  'own-circuit': (say, { roomId, circuits }) =>
    circuits > 1
      ? `Give the receptacles of ${say.room(roomId)} ${circuits} circuits of their own`
      : `Give the receptacles of ${say.room(roomId)} a circuit of their own`,
  'set-light': (say, { roomId }) => `Set a light and its switch in ${say.room(roomId)}`,
  'set-receptacle': (say, { roomId }) => `Set a ${say.term('receptacle')} in ${say.room(roomId)}`,
  'set-switch': (say, { roomId }) => `Set a switch in ${say.room(roomId)}`,
  'side-by-side': (_say, { first, second }) => `Run two side by side: ${first} and ${second}`,
};
