import type { HouseReader } from '../derive/reader.js';
import { farName } from '../facts/naming.js';
import type { JointTitle } from '../findings/facts.js';
import type { Term } from '../vocabulary/glossary.js';
import { listed } from './sentence.js';

/** "circuit 5"; of a neutral that circuits share, all of them. */
function ofCircuits(
  reader: HouseReader,
  term: (word: Term) => string,
  circuitIds: readonly string[],
): string {
  const numbers = circuitIds.map((id) => String(reader.get('circuits', id)?.number ?? '?'));
  if (numbers.length === 0) return '';
  return numbers.length === 1
    ? ` of ${term('circuit')} ${numbers[0]}`
    : ` of ${term('circuits')} ${listed(numbers)}, which share it`;
}

/** The tag of the box at the other end of a run. */
export const toward = (reader: HouseReader, boxId: string, runId: string): string => {
  const run = reader.get('runs', runId);
  return run ? farName(reader, run, boxId) : 'a cable that is gone';
};

/** A joint as the title of its step, its first letter small where it begins with a word. */
export function jointTitle(reader: HouseReader, term: (word: Term) => string, title: JointTitle): string {
  const part = 'isPart' in title && title.isPart ? ', one part' : '';
  const on = 'circuitIds' in title ? ofCircuits(reader, term, title.circuitIds) : '';
  const side =
    'of' in title ? (title.of === 'load' ? ' from LOAD, protected' : title.of ? ' to LINE' : '') : '';
  const control =
    'controlId' in title ? ((title.controlId && reader.get('controls', title.controlId)?.name) ?? '') : '';
  switch (title.code) {
    case 'grounds-to-bar':
      return `all ${term('grounds')} to the bar`;
    case 'grounds':
      return part ? `${term('grounds')}, one part` : `all ${term('grounds')} together`;
    case 'traveler':
      return `${term('traveler')} ${title.side.toUpperCase()} of ${control}${title.isThrough ? ', straight through' : ''}`;
    case 'neutral-uncut':
      return `${term('neutral')}${on} goes through uncut`;
    case 'neutral-cap':
      return `cap the ${term('neutral')}${on}, left long`;
    case 'neutrals':
      return `${term('neutrals')}${on}${side}${part}`;
    case 'hot-cap':
      return `cap the ${term('hot')}${on}`;
    case 'hot':
      return `${term('hot')}${on}${side}${part}`;
    case 'interconnect':
      return `alarm ${term('interconnect')}${on}`;
    case 'leg':
      return `${term('leg')}: ${control}${part}`;
    case 'spares-spliced':
      return `${term('spares')} left spliced to each other`;
    case 'spare-cap':
      return `cap ${term('spare')} ${title.colour} of the cable to ${toward(reader, title.boxId, title.runId)}`;
    case 'not-derived':
      return `${title.colour} of the cable to ${toward(reader, title.boxId, title.runId)}: not derived yet`;
    case 'link-unasked':
      return 'a link that nothing asks for';
  }
}
