import type { Terminal } from '../../vocabulary/terminal.js';

/** What terminals were called in files of version 1, in English words, on a device and on the box itself. */
const OF_A_LEVER = /^(supply|leg|common)(?: ([1-8]))?$/;
const TRAVELER = /^traveler ([AB])(?: ([1-8]))?$/;
const PAIR = /^pair ([12]) ([AB])(?: ([1-8]))?$/;
const FED = /^(?:(line|load) )?(hot|neutral)(?: ([1-8]))?$/;
const BREAKER = /^breaker(?: (\d+))?(, second pole|, neutral)?$/;
const BOX: Readonly<Record<string, Terminal>> = {
  'ground screw of the box': { kind: 'box-ground' },
  'capped, for a later device': { kind: 'capped' },
  'ground bar': { kind: 'ground-bar' },
  'neutral bar': { kind: 'neutral-bar' },
  'main lug 1': { kind: 'lug', pole: 1 },
  'main lug 2': { kind: 'lug', pole: 2 },
};
const LINK = 'link ';

const lever = (digit: string | undefined): { lever?: number } => (digit ? { lever: Number(digit) } : {});

function ofDevice(text: string): Terminal | undefined {
  const own = OF_A_LEVER.exec(text);
  if (own) return { kind: own[1] as 'supply', ...lever(own[2]) };
  const traveler = TRAVELER.exec(text);
  if (traveler) return { kind: 'traveler', side: traveler[1] === 'A' ? 'a' : 'b', ...lever(traveler[2]) };
  const pair = PAIR.exec(text);
  if (pair)
    return {
      kind: 'pair',
      pair: pair[1] === '1' ? 1 : 2,
      side: pair[2] === 'A' ? 'a' : 'b',
      ...lever(pair[3]),
    };
  const fed = FED.exec(text);
  if (fed)
    return {
      kind: fed[2] as 'hot',
      ...(fed[1] && { of: fed[1] as 'line' }),
      ...(fed[3] && { part: Number(fed[3]) }),
    };
  if (text === 'hot B') return { kind: 'hot', pole: 2 };
  return text === 'ground' || text === 'interconnect' ? { kind: text } : undefined;
}

function ofBox(text: string, circuitId: string | undefined): Terminal | undefined {
  if (Object.hasOwn(BOX, text)) return BOX[text];
  if (text.startsWith(LINK)) return { kind: 'link', link: text.slice(LINK.length) || 'link' };
  const breaker = BREAKER.exec(text);
  if (!breaker) return undefined;
  const number = Number(breaker[1]);
  if (breaker[1] && !(number >= 1 && number <= 400)) return undefined;
  const told = circuitId ? { circuitId } : breaker[1] ? { number } : {};
  return breaker[2] === ', neutral'
    ? { kind: 'breaker-neutral', ...told }
    : { kind: 'breaker', pole: breaker[2] ? 2 : 1, ...told };
}

/** The terminal that words of version 1 meant; what they do not tell is kept as it was written. */
export function terminalOfVersion1(text: string, isOnDevice: boolean, circuitId?: string): Terminal {
  return (isOnDevice ? ofDevice(text) : ofBox(text, circuitId)) ?? { kind: 'other', text };
}
