import type { SaidHere } from '../../../vocabulary/said-in.js';
import { saidIn } from '../../../vocabulary/said-in.js';

/** What is said in Britain for words of the United States, in what is taken over from there. */
export const GB_SAID: SaidHere = [
  [/duplex receptacle/gi, 'twin socket outlet'],
  [/receptacle/gi, 'socket outlet'],
  [/recessed light/gi, 'downlight'],
  [/common disconnect/gi, 'linked switch'],
  [/GFCI/g, 'RCD'],
  [/AFCI/g, 'AFDD'],
  [/switch leg/gi, 'switched line'],
  [/\bthe leg of\b/gi, 'the switched line of'],
  [/\ba meter$/gi, 'a metre'],
  [/\bleg(s?) (and|or) traveler(s?)/gi, 'switched line$1 and strappers'],
  [/traveler/gi, 'strapper'],
  [/home run/gi, 'board cable'],
  [/pigtail/gi, 'tail'],
  [/raceway/gi, 'conduit'],
  [/breaker/gi, 'MCB'],
  [/\bpanel(s?)\b/gi, 'consumer unit$1'],
  [/\b(?:equipment )?grounds\b/gi, 'CPCs'],
  [/\b(?:equipment )?ground\b/gi, 'CPC'],
  [/\bcounter(?:top)?(s?)\b/gi, 'worktop$1'],
  [/\bhot(s?)\b/gi, 'line$1'],
  [/\bstaple/gi, 'clip'],
  [/\battic/gi, 'loft'],
  [/\btop plate/gi, 'head plate'],
  [/drywall/gi, 'plasterboard'],
  [/crawl space/gi, 'space under the floor'],
  [/yoke/gi, 'plate'],
  [/\bwater closet/gi, 'toilet'],
  [/\bcloset/gi, 'cupboard'],
  [/\bfoyer/gi, 'entrance hall'],
  [/\btrim test/gi, 'second fix test'],
  [/\brough-in/gi, 'first fix'],
  // Of length: what is measured with is a meter here too.
  [/\bmillimeter/gi, 'millimetre'],
  [/\bmeters\b/gi, 'metres'],
  [/^meter$/gi, 'metre'],
  [/\bmeter (in|of)\b/gi, 'metre $1'],
  [/\beach meter\b/gi, 'each metre'],
  [/\bsquare meter\b/gi, 'square metre'],
  [/\bcenter/gi, 'centre'],
  [/\bcolor/gi, 'colour'],
  [/\baluminum/gi, 'aluminium'],
];

/** A text of another country in the words of this one. */
export const saidHere = (text: string): string => saidIn(GB_SAID, text);
