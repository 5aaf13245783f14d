import * as z from 'zod';
import { Id, ShortText } from './text.js';

const lever = z.int().min(1).max(8).optional();
const side = z.enum(['a', 'b']);
const pole = z.union([z.literal(1), z.literal(2)]);
const part = z.int().min(1).max(8).optional();
/** Of a feed-through device: the side that feeds it, or the one that it protects. */
const of = z.enum(['line', 'load']).optional();
/** A breaker by its circuit; records kept before that told it by the number written beside it. */
const breaker = { circuitId: Id.optional(), number: z.int().min(1).max(400).optional() };

/**
 * What a wire can land on, as data: a screw or lead of a device, told by what it is and never by where it sits, or a place of
 * the box itself. `lever` and `part` (of what is fed) count from 1 and stand only where there are several.
 */
export const Terminal = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('ground') }),
  z.strictObject({ kind: z.literal('supply'), lever }),
  z.strictObject({ kind: z.literal('leg'), lever }),
  z.strictObject({ kind: z.literal('common'), lever }),
  z.strictObject({ kind: z.literal('traveler'), side, lever }),
  z.strictObject({ kind: z.literal('pair'), pair: z.union([z.literal(1), z.literal(2)]), side, lever }),
  /** `pole` 2 is the second hot of what is fed with 240 V. */
  z.strictObject({ kind: z.literal('hot'), of, part, pole: z.literal(2).optional() }),
  z.strictObject({ kind: z.literal('neutral'), of, part }),
  z.strictObject({ kind: z.literal('interconnect') }),
  /** The ground screw of the box. */
  z.strictObject({ kind: z.literal('box-ground') }),
  /** A pigtail left in the box for a device that may come later. */
  z.strictObject({ kind: z.literal('capped') }),
  /** A wire from one splice of the box to another: both name the same link, which means nothing else. */
  z.strictObject({ kind: z.literal('link'), link: ShortText }),
  z.strictObject({ kind: z.literal('ground-bar') }),
  z.strictObject({ kind: z.literal('neutral-bar') }),
  z.strictObject({ kind: z.literal('breaker'), pole, ...breaker }),
  /** The neutral terminal of an AFCI, GFCI or dual-function breaker. */
  z.strictObject({ kind: z.literal('breaker-neutral'), ...breaker }),
  /** Where a hot of a feeder lands in a sub-panel. */
  z.strictObject({ kind: z.literal('lug'), pole }),
  /** What an older record says in words that are none of these. */
  z.strictObject({ kind: z.literal('other'), text: ShortText }),
]);
export type Terminal = z.infer<typeof Terminal>;
export type TerminalKind = Terminal['kind'];
export type Side = z.infer<typeof side>;

/** Where a wire lands: on a terminal of a device, or of the box itself. */
export const Landing = z.strictObject({ deviceId: Id.optional(), terminal: Terminal });
export type Landing = z.infer<typeof Landing>;

const KEYS = new WeakMap<Terminal, string>();
const numbered = (name: string, number: number | undefined): string => (number ? `${name} ${number}` : name);

function makeKey(terminal: Terminal): string {
  switch (terminal.kind) {
    case 'supply':
    case 'leg':
    case 'common':
      return numbered(terminal.kind, terminal.lever);
    case 'traveler':
      return numbered(`traveler-${terminal.side}`, terminal.lever);
    case 'pair':
      return numbered(`pair-${terminal.pair}-${terminal.side}`, terminal.lever);
    case 'hot':
      return numbered(`${terminal.of ?? ''}hot${terminal.pole ?? ''}`, terminal.part);
    case 'neutral':
      return numbered(`${terminal.of ?? ''}neutral`, terminal.part);
    case 'breaker':
      return `breaker-${terminal.pole} ${terminal.circuitId ?? terminal.number ?? ''}`;
    case 'breaker-neutral':
      return `breaker-neutral ${terminal.circuitId ?? terminal.number ?? ''}`;
    case 'lug':
      return `lug-${terminal.pole}`;
    case 'link':
      return `link ${terminal.link}`;
    case 'other':
      return `other ${terminal.text}`;
    default:
      return terminal.kind;
  }
}

/** One text for each terminal of a device or box, for maps and comparisons; nothing reads it back. */
export function terminalKey(terminal: Terminal): string {
  let key = KEYS.get(terminal);
  if (key === undefined) KEYS.set(terminal, (key = makeKey(terminal)));
  return key;
}

export const sameTerminal = (a: Terminal, b: Terminal): boolean =>
  a === b || terminalKey(a) === terminalKey(b);

/** One text for each landing of a box. */
export const landingKey = ({ deviceId, terminal }: Landing): string =>
  `${deviceId ?? ''} ${terminalKey(terminal)}`;

export const sameLanding = (a: Landing, b: Landing): boolean =>
  a.deviceId === b.deviceId && sameTerminal(a.terminal, b.terminal);

/** Terminals that stand again and again are made once. */
const made = <T extends Terminal>(make: (number?: number) => T): ((number?: number) => T) => {
  const known: T[] = [];
  return (number = 0) => (known[number] ??= number ? make(number) : make());
};
const onLever = <K extends 'supply' | 'leg' | 'common'>(kind: K) =>
  made((lever) => (lever ? { kind, lever } : { kind }) as Extract<Terminal, { kind: K }>);

/** The terminals of a lever, by its number where a yoke has several. */
export const SUPPLY = onLever('supply');
export const LEG = onLever('leg');
export const COMMON = onLever('common');
const traveler = (own: Side) =>
  made((lever): Terminal =>
    lever ? { kind: 'traveler', side: own, lever } : { kind: 'traveler', side: own },
  );
export const TRAVELER = { a: traveler('a'), b: traveler('b') };
const ofPair = (pair: 1 | 2, own: Side) =>
  made((lever): Terminal =>
    lever ? { kind: 'pair', pair, side: own, lever } : { kind: 'pair', pair, side: own },
  );
export const PAIR = {
  1: { a: ofPair(1, 'a'), b: ofPair(1, 'b') },
  2: { a: ofPair(2, 'a'), b: ofPair(2, 'b') },
};

/** The hot and neutral of what is fed, by the number of the part where its sides are apart. */
export const HOT = made((part): Terminal => (part ? { kind: 'hot', part } : { kind: 'hot' }));
export const NEUTRAL = made((part): Terminal => (part ? { kind: 'neutral', part } : { kind: 'neutral' }));
export const SECOND_HOT: Terminal = { kind: 'hot', pole: 2 };
export const LINE: Readonly<Record<'hot' | 'neutral', Terminal>> = {
  hot: { kind: 'hot', of: 'line' },
  neutral: { kind: 'neutral', of: 'line' },
};
export const LOAD: Readonly<Record<'hot' | 'neutral', Terminal>> = {
  hot: { kind: 'hot', of: 'load' },
  neutral: { kind: 'neutral', of: 'load' },
};
export const INTERCONNECT: Terminal = { kind: 'interconnect' };
/** The ground screw of a device. */
export const GROUND: Terminal = { kind: 'ground' };

export const BOX_GROUND: Terminal = { kind: 'box-ground' };
export const CAPPED: Terminal = { kind: 'capped' };
export const GROUND_BAR: Terminal = { kind: 'ground-bar' };
export const NEUTRAL_BAR: Terminal = { kind: 'neutral-bar' };
export const LUGS: readonly [Terminal, Terminal] = [
  { kind: 'lug', pole: 1 },
  { kind: 'lug', pole: 2 },
];
export const breakerOf = (circuitId: string, pole: 1 | 2 = 1): Terminal => ({
  kind: 'breaker',
  pole,
  circuitId,
});
export const breakerNeutralOf = (circuitId: string): Terminal => ({ kind: 'breaker-neutral', circuitId });
export const linkOf = (link: string): Terminal => ({ kind: 'link', link });

/** The terminal that a numbered one is part of as long as its tab is whole; itself where it has no number. */
export function wholeOf(terminal: Terminal): Terminal {
  if (terminal.kind === 'supply') return SUPPLY();
  if (terminal.kind === 'hot' && terminal.part) return HOT();
  return terminal.kind === 'neutral' && terminal.part ? NEUTRAL() : terminal;
}
export const isNumbered = (terminal: Terminal): boolean =>
  terminal.kind === 'supply'
    ? terminal.lever !== undefined
    : (terminal.kind === 'hot' || terminal.kind === 'neutral') && terminal.part !== undefined;

/** The circuit of a breaker that a wire is on; undefined for every other terminal. */
export const circuitOfTerminal = (terminal: Terminal): string | undefined =>
  terminal.kind === 'breaker' || terminal.kind === 'breaker-neutral' ? terminal.circuitId : undefined;
