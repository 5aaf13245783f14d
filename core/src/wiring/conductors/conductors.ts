import type { Conductor } from '../../facts/box-facts.js';
import type { ColourPlan } from '../../vocabulary/catalogue-types.js';
import type { Colour } from '../../vocabulary/text.js';
import type { Carried, Signal } from '../../vocabulary/signal.js';
import { isSecondHot, kindOf, travelerSide } from '../../vocabulary/signal.js';

export interface Assignment {
  /** What every insulated conductor carries, by conductor key. */
  readonly carries: ReadonlyMap<string, Carried>;
  readonly missing: readonly Signal[];
}

/** What bears on the choice of colours besides the signals themselves. */
export interface ColourSchools {
  /** The colours of the country. */
  readonly plan: ColourPlan;
  /** Conductor of a fan where fan and light share a cable. */
  readonly fan: Colour;
  /** Conductor of the supply in a loop to a switch; the return takes the other. */
  readonly loopSupply: Colour;
  readonly isFanLeg: (signal: Signal) => boolean;
  readonly isRaceway: boolean;
  /** The house's colours for single wires in raceway. */
  readonly palette: RacewayPalette;
  /** The colour that a traveler has along its whole chain, as far as the cables allow. */
  readonly alongChain: (signal: Signal) => Colour | undefined;
}

export interface RacewayPalette {
  readonly hot: Colour;
  readonly leg: Colour;
  readonly travelers: readonly [Colour, Colour];
}

/** A colour that a signal may never have. */
const NEVER = Infinity;
/** Re-identifying a white (NEC 200.7(C)) is the last thing to do. */
const REIDENTIFIED = 20;

/** The order with one of its colours, or another, in front. */
const firstOf = (colour: Colour, order: readonly Colour[]): readonly Colour[] => [
  colour,
  ...order.filter((one) => one !== colour),
];

const rankIn = (order: readonly Colour[], colour: Colour): number => {
  const place = order.indexOf(colour);
  return place === -1 ? order.length : place;
};

/**
 * How much a colour goes against a signal; the sum over a run is made as small as can be. White is neutral; in cable it may
 * be marked again as supply or traveler, never as the return from the switch to the light (NEC 200.7(C)(2)). In raceway
 * white and grey are neutral only.
 */
function aversion(signal: Signal, colour: Colour, needs: readonly Signal[], schools: ColourSchools): number {
  const kind = kindOf(signal);
  const { plan } = schools;
  const asNeutral = plan.neutral.indexOf(colour);
  const white = asNeutral >= 0;
  if (kind === 'neutral') {
    if (asNeutral === 0 || (white && schools.isRaceway)) return asNeutral;
    // Where no core has its colour, the last of the others is marked as neutral.
    const marked = schools.isRaceway ? -1 : plan.marked.neutral.indexOf(colour);
    return marked >= 0 ? REIDENTIFIED + marked : NEVER;
  }
  if (white && (schools.isRaceway || !plan.remarked.includes(kind))) return NEVER;
  // A white is neutral wherever a neutral is needed.
  if (white && needs.some((other) => kindOf(other) === 'neutral')) return NEVER;
  if (schools.isRaceway)
    return isSecondHot(signal) && colour === plan.secondHot
      ? 0
      : inRaceway(signal, colour, schools.palette, plan);
  const again = white ? REIDENTIFIED : 0;
  switch (kind) {
    case 'hot': {
      const hasLeg = needs.some((other) => kindOf(other) === 'leg');
      const isLoop = hasLeg && !isSecondHot(signal);
      const first = isLoop ? firstOf(schools.loopSupply, plan.hot) : plan.hot;
      const weight = isSecondHot(signal) ? 1 : 3;
      return again + weight * rankIn(first, colour);
    }
    case 'leg': {
      const fans = needs.some((other) => schools.isFanLeg(other));
      // A fan has the colour of its school; its light the first of the others.
      const light = plan.leg.find((one) => one !== schools.fan)!;
      const order = schools.isFanLeg(signal)
        ? firstOf(schools.fan, plan.leg)
        : fans
          ? firstOf(light, firstOf(schools.fan, plan.leg))
          : plan.leg;
      return again + 2 * rankIn(order, colour);
    }
    case 'common':
      return again + 4 * rankIn(plan.common, colour);
    case 'traveler': {
      const order = plan.travelers[travelerSide(signal) === 'a' ? 'a' : 'b'];
      if (schools.alongChain(signal) === colour) return 0;
      // The sides of a pair keep their order of colours along the whole chain, marked white last.
      return (
        (schools.alongChain(signal) ? 0.4 : 0) +
        again +
        0.5 * rankIn(order, colour) +
        (white && travelerSide(signal) === 'a' ? 0.25 : 0)
      );
    }
    case 'interconnect':
      return rankIn(plan.interconnect, colour);
  }
}

/** The colour that the palette gives a signal; for a second hot or an interconnect any that is left. */
export function paletteColour(signal: Signal, palette: RacewayPalette, plan: ColourPlan): Colour | undefined {
  switch (kindOf(signal)) {
    case 'neutral':
      return plan.neutral[0];
    case 'hot':
      return isSecondHot(signal) ? plan.secondHot : palette.hot;
    case 'leg':
      return palette.leg;
    case 'traveler':
      return palette.travelers[travelerSide(signal) === 'a' ? 0 : 1];
    case 'common':
    case 'interconnect':
      return undefined;
  }
}

/** Single wires have any colour; the palette's own is taken by what it is for, and left by everything else if it can be. */
function inRaceway(signal: Signal, colour: Colour, palette: RacewayPalette, plan: ColourPlan): number {
  const own = paletteColour(signal, palette, plan);
  if (own === colour) return 0;
  const kept = [palette.hot, palette.leg, ...palette.travelers];
  return kept.includes(colour) ? 2 + kept.indexOf(colour) * 0.1 : 1;
}

/** What is lost when a signal finds no conductor: neutral that only the rule asks for first, then the later in this order. */
const LOSS: Readonly<Record<ReturnType<typeof kindOf>, number>> = {
  neutral: 6000,
  hot: 5000,
  traveler: 3000,
  common: 3500,
  leg: 4000,
  interconnect: 2000,
};

/** Above so many signals in one run (raceway), each takes the best colour that is left. */
const SEARCH_TO = 6;

/**
 * Gives the signals that a run must carry to its insulated conductors, so that as few as can be go without and the colours
 * suit best. `made` says what has been landed already: it is kept. What finds no conductor is missing; conductors left over
 * are spares.
 */
export function assignConductors(
  needs: readonly Signal[],
  conductors: readonly Conductor[],
  schools: ColourSchools,
  made: ReadonlyMap<string, Signal> = new Map(),
): Assignment {
  if (made.size) {
    // As long as what was made is what is derived anyway, nothing moves.
    const plain = assignConductors(needs, conductors, schools);
    if ([...made].every(([key, signal]) => plain.carries.get(key) === signal)) return plain;
  }
  const free = conductors.filter((conductor) => !conductor.ground);
  const carries = new Map<string, Carried>();
  const left: Signal[] = [];
  const taken = new Set<string>();
  for (const signal of [...needs].sort()) {
    const kept = free.find(
      ({ key, colour }) =>
        made.get(key) === signal && !taken.has(key) && aversion(signal, colour, needs, schools) < NEVER,
    );
    if (!kept) left.push(signal);
    else {
      carries.set(kept.key, signal);
      taken.add(kept.key);
    }
  }
  const open = free.filter(({ key }) => !taken.has(key));
  const choice =
    left.length <= SEARCH_TO ? search(left, open, needs, schools) : greedy(left, open, needs, schools);
  const missing: Signal[] = [];
  left.forEach((signal, index) => {
    const conductor = choice[index];
    if (conductor) carries.set(conductor.key, signal);
    else missing.push(signal);
  });
  for (const { key } of free) if (!carries.has(key)) carries.set(key, 'spare');
  return { carries, missing: needs.filter((signal) => missing.includes(signal)) };
}

type Choice = (Conductor | undefined)[];

function search(
  signals: readonly Signal[],
  conductors: readonly Conductor[],
  needs: readonly Signal[],
  schools: ColourSchools,
): Choice {
  let best: Choice = [];
  let bestCost = Infinity;
  const used = new Set<Conductor>();
  const chosen: Choice = [];
  const go = (index: number, cost: number): void => {
    if (cost >= bestCost) return;
    if (index === signals.length) {
      best = [...chosen];
      bestCost = cost;
      return;
    }
    const signal = signals[index]!;
    for (const conductor of conductors) {
      if (used.has(conductor)) continue;
      const more = aversion(signal, conductor.colour, needs, schools);
      if (more === NEVER) continue;
      used.add(conductor);
      chosen.push(conductor);
      go(index + 1, cost + more);
      chosen.pop();
      used.delete(conductor);
    }
    chosen.push(undefined);
    go(index + 1, cost + LOSS[kindOf(signal)]);
    chosen.pop();
  };
  go(0, 0);
  return best;
}

function greedy(
  signals: readonly Signal[],
  conductors: readonly Conductor[],
  needs: readonly Signal[],
  schools: ColourSchools,
): Choice {
  const open = new Set(conductors);
  const byLoss = signals
    .map((signal, index) => ({ signal, index }))
    .sort((a, b) => LOSS[kindOf(b.signal)] - LOSS[kindOf(a.signal)] || a.index - b.index);
  const choice: Choice = signals.map(() => undefined);
  for (const { signal, index } of byLoss) {
    const best = [...open]
      .map((conductor) => ({ conductor, cost: aversion(signal, conductor.colour, needs, schools) }))
      .filter(({ cost }) => cost < NEVER)
      .sort((a, b) => a.cost - b.cost)[0];
    if (!best) continue;
    choice[index] = best.conductor;
    open.delete(best.conductor);
  }
  return choice;
}
