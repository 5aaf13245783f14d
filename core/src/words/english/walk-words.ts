import type { CableRole, Settling, WalkTold } from '../../findings/walk-facts.js';
import type { FindingWords, Say } from '../language/language.js';

/** Ways that are told; the rest is counted. */
const TOLD = 3;

const cable = (say: Say, role: CableRole): string => (role === 'power' ? 'power cable' : say.term('leg'));
const missing = (say: Say, as: WalkTold['as']): string =>
  as === 'home-run' ? say.term('home run') : say.term(as === 'leg' ? 'leg' : 'jumper');
const between = (say: Say, [a, b]: readonly [string, string]): string =>
  `between ${say.box(a)} and ${say.box(b)}`;

/** What to do about one thing that a walk found. */
function act(say: Say, { fault, as, isLogged }: WalkTold): string {
  switch (fault.kind) {
    case 'missing':
      return `Pull the missing ${missing(say, as)}: ${say.run(fault.runId)} is not there${isLogged ? ', though the log has it in' : ''}.`;
    case 'extra':
      return as === 'loop'
        ? `Take out the ${cable(say, fault.role)} ${between(say, fault.boxIds)}: it is not planned, and closes a loop.`
        : as === 'crossed'
          ? `Take out the ${cable(say, fault.role)} ${between(say, fault.boxIds)}: it joins two circuits.`
          : `Take out the ${cable(say, fault.role)} ${between(say, fault.boxIds)}, or plan it: nobody has asked for it.`;
    case 'misrouted':
      return `Bring ${say.run(fault.runId)} to ${say.box(fault.left)}: it came to ${say.box(fault.got)}${as === 'crossed' ? ', which is on another circuit' : ''}.`;
    case 'other-role':
      return `Look at ${say.run(fault.runId)}: power is there where a ${say.term('leg')} is planned, or the other way round.`;
    case 'not-in':
      return `Find the end of ${say.run(fault.runId)} at ${say.box(fault.boxId)}: it has not come into the box.`;
    case 'stray':
      return `Trace the ${cable(say, fault.role)} that ${say.box(fault.boxId)} has too many: its other end is in no box.`;
  }
}

/** One way in which it can be, in a clause. */
function clause(say: Say, { fault }: WalkTold): string {
  switch (fault.kind) {
    case 'missing':
      return `${say.run(fault.runId)} is missing`;
    case 'extra':
      return `a ${cable(say, fault.role)} ${between(say, fault.boxIds)} is too many`;
    case 'misrouted':
      return `${say.run(fault.runId)} came to ${say.box(fault.got)} instead of ${say.box(fault.left)}`;
    case 'other-role':
      return `${say.run(fault.runId)} is of the other kind`;
    case 'not-in':
      return `${say.run(fault.runId)} has not come into ${say.box(fault.boxId)}`;
    case 'stray':
      return `a ${cable(say, fault.role)} in ${say.box(fault.boxId)} comes from no box`;
  }
}

function settle(say: Say, settling: Settling): string {
  const box = say.box(settling.boxId);
  switch (settling.kind) {
    case 'trace':
      return `Tug at the cables in ${box}: whichever of ${say.boxes(settling.ends)} none of them leads to is the one it missed.`;
    case 'odd':
      return settling.ends.length
        ? `Tug at the cables in ${box}: those to ${say.boxes(settling.ends)} are planned, the one that leads elsewhere is not.`
        : `Tug at the cables in ${box} and see where each comes from: none of that kind is planned.`;
    case 'look':
      return `Look in ${box} which cable is there: several go the same way.`;
    case 'count':
      return `Count ${box} next: that tells which it is.`;
  }
}

export const WALK_WORDS: Pick<
  FindingWords,
  'walk.found' | 'walk.either' | 'walk.unclear' | 'walk.leg-early'
> = {
  'walk.found': (say, { facts }) => act(say, facts.told),
  'walk.either': (say, { facts: { ways, lessLikely, settling }, where }) => [
    settling
      ? settle(say, settling)
      : `Look into ${say.box(where.boxId)}: what comes in is not what is planned.`,
    `Either ${say.tongue.phrases.or(ways.slice(0, TOLD).map((way) => way.map((told) => clause(say, told)).join(' while ')))}${ways.length > TOLD ? `, or one of ${ways.length - TOLD} more` : ''}.${lessLikely ? ` ${lessLikely} less likely would count the same.` : ''}`,
  ],
  'walk.unclear': (say, { facts }) => [
    `Count ${say.boxes(facts.boxIds)} again: more is otherwise than a few mistakes explain.`,
    'If the counts hold, the plan is not what hangs in the walls: trace the cables there one by one.',
  ],
  'walk.leg-early': (say, { facts, where }) => [
    `Pull power of ${say.circuit(where.circuitId)} to its end and walk it before any more ${say.term('leg')} goes in.`,
    `${facts.legIds.length === 1 ? 'One leg is' : `${facts.legIds.length} legs are`} in while ${facts.powerIds.length === 1 ? `${say.run(facts.powerIds[0])} is` : `${facts.powerIds.length} runs of power are`} not: mixed is how a jumper is missed.`,
  ],
};
