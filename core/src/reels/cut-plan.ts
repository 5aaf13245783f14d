/** A cable to cut, in inches. */
export interface Wanted {
  readonly id: string;
  readonly lengthIn: number;
}

/** What is there to cut it off. */
export interface InStock {
  readonly id: string;
  readonly lengthIn: number;
}

export interface CutOptions {
  /** Length of a coil that is opened new, inches. */
  readonly coilIn: number;
  /** An offcut is kept from this length on; what is shorter is waste. Inches. */
  readonly usefulIn: number;
  /**
   * `shop`: in any order, cut and labelled before they are carried in; `as-we-go`: in the order in which they are pulled, with no
   * more than two open at a time, one of them put away for good when a third is opened.
   */
  readonly order: 'shop' | 'as-we-go';
}

/** What is cut off one reel, coil or offcut. */
export interface CutOff {
  /** The reel of the stock; a new coil has none. */
  readonly reelId?: string;
  readonly lengthIn: number;
  readonly ids: readonly string[];
  /** What is left of it. */
  readonly leftIn: number;
}

export interface CutPlan {
  readonly cuts: readonly CutOff[];
  /** New coils that are opened. */
  readonly opened: number;
  /** What is left of them in pieces that are too short to be kept. */
  readonly wasteIn: number;
  /** What is longer than a new coil and than anything in stock: these have to be bought by themselves, or measured again. */
  readonly tooLong: readonly string[];
}

/** Coils that are open at a time where it is cut as one goes. */
const OPEN_AT_A_TIME = 2;
/** Lengths are planned to the quarter of an inch: finer differences are no waste. */
const STEP_IN = 0.25;
/** Ways that are followed at once where it is cut as one goes, and steps of the search in the shop. */
const widthOf = (runs: number): number => Math.max(24, Math.min(3000, Math.floor(20_000 / runs)));
const MOST_STEPS = 60_000;

interface Bin {
  readonly reelId?: string;
  readonly lengthIn: number;
}

const wasteOf = (leftIn: number, usefulIn: number): number =>
  leftIn < usefulIn && leftIn > 1e-6 ? leftIn : 0;

/** What of these fills a length best, by the sums that can be made of them (subset sum); lengths in steps, the longest first. */
function bestFill(lengths: readonly number[], room: number): number[] {
  /** The item with which a sum was reached first. */
  const by = new Int32Array(room + 1).fill(-1);
  const from = new Int32Array(room + 1).fill(-1);
  const reached: number[] = [0];
  const isReached = new Uint8Array(room + 1);
  isReached[0] = 1;
  for (let item = 0; item < lengths.length && !isReached[room]; item++) {
    const length = lengths[item]!;
    for (let at = reached.length - 1; at >= 0; at--) {
      const sum = reached[at]! + length;
      if (sum > room || isReached[sum]) continue;
      isReached[sum] = 1;
      by[sum] = item;
      from[sum] = reached[at]!;
      reached.push(sum);
    }
  }
  let sum = room;
  while (!isReached[sum]) sum--;
  const items: number[] = [];
  for (; sum > 0; sum = from[sum]!) items.push(by[sum]!);
  return items;
}

/** A way to spread what is wanted over bins; undefined where not all of it goes in. */
type Spread = readonly (readonly Wanted[])[] | undefined;

/** Bin after bin, each as full as it can be made. Each takes the longest that is left, or whatever fits best. */
function filled(wanted: readonly Wanted[], bins: readonly Bin[], withLongest: boolean): Spread {
  let left = wanted.toSorted((a, b) => b.lengthIn - a.lengthIn);
  const spread = bins.map(({ lengthIn }) => {
    if (left.length === 0) return [];
    const head = withLongest ? left.find((one) => one.lengthIn <= lengthIn) : undefined;
    const rest = left.filter((one) => one !== head);
    const room = Math.floor((lengthIn - (head?.lengthIn ?? 0)) / STEP_IN + 1e-6);
    const steps = rest.map((one) => Math.ceil(one.lengthIn / STEP_IN - 1e-6));
    const own = [...(head ? [head] : []), ...bestFill(steps, Math.max(0, room)).map((at) => rest[at]!)];
    left = left.filter((one) => !own.includes(one));
    return own;
  });
  return left.length ? undefined : spread;
}

/** Each to the fullest bin that still takes it, the longest first. */
function bestFit(wanted: readonly Wanted[], bins: readonly Bin[]): Spread {
  const left = bins.map(({ lengthIn }) => lengthIn);
  const spread: Wanted[][] = bins.map(() => []);
  for (const one of wanted.toSorted((a, b) => b.lengthIn - a.lengthIn)) {
    let best = -1;
    for (let at = 0; at < bins.length; at++)
      if (left[at]! + 1e-6 >= one.lengthIn && (best < 0 || left[at]! < left[best]!)) best = at;
    if (best < 0) return undefined;
    left[best]! -= one.lengthIn;
    spread[best]!.push(one);
  }
  return spread;
}

/** Looks through all ways, the longest first, as long as it has steps; equal bins are tried once. */
function searched(wanted: readonly Wanted[], bins: readonly Bin[]): Spread {
  const items = wanted.toSorted((a, b) => b.lengthIn - a.lengthIn);
  const left = bins.map(({ lengthIn }) => lengthIn);
  const spread: Wanted[][] = bins.map(() => []);
  const rest = items.map((_, at) => items.slice(at).reduce((sum, { lengthIn }) => sum + lengthIn, 0));
  const shortest = items.at(-1)?.lengthIn ?? 0;
  let steps = 0;
  const place = (at: number): boolean => {
    if (at === items.length) return true;
    if (++steps > MOST_STEPS) return false;
    // What is left in bins that take nothing more is lost.
    const room = left.reduce((sum, own) => sum + (own + 1e-6 >= shortest ? own : 0), 0);
    if (room + 1e-6 < rest[at]!) return false;
    const one = items[at]!;
    const tried = new Set<number>();
    const order = left.map((_, bin) => bin).sort((a, b) => left[a]! - left[b]!);
    for (const bin of order) {
      if (left[bin]! + 1e-6 < one.lengthIn || tried.has(left[bin]!)) continue;
      tried.add(left[bin]!);
      left[bin]! -= one.lengthIn;
      spread[bin]!.push(one);
      if (place(at + 1)) return true;
      spread[bin]!.pop();
      left[bin]! += one.lengthIn;
      if (steps > MOST_STEPS) return false;
    }
    return false;
  };
  return place(0) ? spread : undefined;
}

const sumOf = (items: readonly Wanted[]): number => items.reduce((sum, { lengthIn }) => sum + lengthIn, 0);

function wasteIn(spread: readonly (readonly Wanted[])[], bins: readonly Bin[], usefulIn: number): number {
  return spread.reduce(
    (sum, items, at) => sum + (items.length ? wasteOf(bins[at]!.lengthIn - sumOf(items), usefulIn) : 0),
    0,
  );
}

/** Moves and exchanges pieces between two bins, and fills them anew, as long as less is wasted. */
function lessWaste(
  first: readonly (readonly Wanted[])[],
  bins: readonly Bin[],
  usefulIn: number,
): readonly (readonly Wanted[])[] {
  const spread = first.map((items) => [...items]);
  const of = (at: number, items: readonly Wanted[]): number =>
    items.length ? wasteOf(bins[at]!.lengthIn - sumOf(items), usefulIn) : 0;
  for (let round = 0, isBetter = true; isBetter && round < 40; round++) {
    isBetter = false;
    for (let a = 0; a < bins.length; a++)
      for (let b = 0; b < bins.length; b++) {
        if (a === b || of(a, spread[a]!) + of(b, spread[b]!) === 0) continue;
        const both = [...spread[a]!, ...spread[b]!].sort((x, y) => y.lengthIn - x.lengthIn);
        if (both.length === 0) continue;
        const steps = both.map((one) => Math.ceil(one.lengthIn / STEP_IN - 1e-6));
        // One of them as full as can be, or so full that a useful piece is left of it.
        for (const leave of [0, usefulIn]) {
          const room = Math.floor((bins[a]!.lengthIn - leave) / STEP_IN + 1e-6);
          if (room <= 0) continue;
          const chosen = new Set(bestFill(steps, room).map((at) => both[at]!));
          const [own, rest] = [both.filter((one) => chosen.has(one)), both.filter((one) => !chosen.has(one))];
          if (sumOf(rest) > bins[b]!.lengthIn + 1e-6) continue;
          if (of(a, own) + of(b, rest) + 1e-6 >= of(a, spread[a]!) + of(b, spread[b]!)) continue;
          [spread[a], spread[b]] = [own, rest];
          isBetter = true;
          break;
        }
      }
  }
  return spread;
}

/** In any order: as few new coils as can be, then as little waste as is found. */
function inShop(wanted: readonly Wanted[], stock: readonly Bin[], options: CutOptions): CutPlan {
  const { coilIn, usefulIn } = options;
  const whole = sumOf(wanted);
  const longest = wanted.reduce((most, { lengthIn }) => Math.max(most, lengthIn), 0);
  const inStock = stock.reduce((sum, { lengthIn }) => sum + lengthIn, 0);
  const needsCoil = longest > Math.max(0, ...stock.map(({ lengthIn }) => lengthIn)) ? 1 : 0;
  for (let opened = Math.max(needsCoil, Math.ceil((whole - inStock) / coilIn - 1e-9), 0); ; opened++) {
    const coils = Array.from({ length: opened }, (): Bin => ({ lengthIn: coilIn }));
    // What is begun is used up first; the smallest first, so that what is left is left on one.
    const orders = [
      [...stock.toSorted((a, b) => a.lengthIn - b.lengthIn), ...coils],
      [...stock.toSorted((a, b) => b.lengthIn - a.lengthIn), ...coils],
      [...coils, ...stock.toSorted((a, b) => a.lengthIn - b.lengthIn)],
    ];
    let best: { spread: readonly (readonly Wanted[])[]; bins: readonly Bin[]; waste: number } | undefined;
    const take = (spread: Spread, bins: readonly Bin[]): void => {
      if (!spread) return;
      const better = lessWaste(spread, bins, usefulIn);
      const waste = wasteIn(better, bins, usefulIn);
      if (!best || waste < best.waste - 1e-6) best = { spread: better, bins, waste };
    };
    for (const bins of orders) {
      for (const withLongest of [true, false]) take(filled(wanted, bins, withLongest), bins);
      take(bestFit(wanted, bins), bins);
      if (best?.waste === 0) break;
    }
    if (!best) take(searched(wanted, orders[0]!), orders[0]!);
    // Where the last coil could be spared by a search that was cut off, this many are opened.
    if (best) return planOf(best.spread, best.bins, options);
  }
}

/** In the order in which they are pulled. */
function asWeGo(wanted: readonly Wanted[], stock: readonly Bin[], options: CutOptions): CutPlan {
  const { coilIn, usefulIn } = options;
  interface State {
    readonly open: readonly { readonly bin: number; readonly leftIn: number }[];
    /** Bins of the stock that were opened, as a text that tells them apart. */
    readonly used: ReadonlySet<number>;
    readonly opened: number;
    readonly waste: number;
    /** What was cut last, and before it. */
    readonly cut: Cutting | undefined;
  }
  interface Cutting {
    readonly bin: number;
    readonly item: number;
    readonly before: Cutting | undefined;
  }
  const width = widthOf(wanted.length);
  const dearer = (a: State, b: State): number =>
    a.opened - b.opened ||
    a.waste - b.waste ||
    a.open.reduce((sum, { leftIn }) => sum - leftIn, 0) - b.open.reduce((sum, { leftIn }) => sum - leftIn, 0);
  let states: State[] = [{ open: [], used: new Set(), opened: 0, waste: 0, cut: undefined }];
  wanted.forEach(({ lengthIn }, item) => {
    const next = new Map<string, State>();
    const add = (state: State): void => {
      const key = `${state.open
        .map(({ bin, leftIn }) => `${bin < stock.length ? `s${bin}:` : ''}${leftIn}`)
        .sort()
        .join()}|${[...state.used].sort((a, b) => a - b).join()}`;
      const known = next.get(key);
      if (!known || dearer(state, known) < 0) next.set(key, state);
    };
    for (const state of states) {
      state.open.forEach((bin, at) => {
        if (bin.leftIn + 1e-6 < lengthIn) return;
        const open = state.open.map((own, index) =>
          index === at ? { ...own, leftIn: own.leftIn - lengthIn } : own,
        );
        add({ ...state, open, cut: { bin: bin.bin, item, before: state.cut } });
      });
      const fresh = [
        ...stock.flatMap((bin, at) => (state.used.has(at) ? [] : [{ bin: at, lengthIn: bin.lengthIn }])),
        { bin: stock.length + state.opened, lengthIn: coilIn },
      ];
      for (const { bin, lengthIn: has } of fresh) {
        if (has + 1e-6 < lengthIn) continue;
        const isNew = bin >= stock.length;
        // One of those that are open is put away where there are two.
        const ways = state.open.length < OPEN_AT_A_TIME ? [-1] : state.open.map((_, at) => at);
        for (const away of ways)
          add({
            open: [...state.open.filter((_, at) => at !== away), { bin, leftIn: has - lengthIn }],
            used: isNew ? state.used : new Set([...state.used, bin]),
            opened: state.opened + (isNew ? 1 : 0),
            waste: state.waste + (away < 0 ? 0 : wasteOf(state.open[away]!.leftIn, usefulIn)),
            cut: { bin, item, before: state.cut },
          });
      }
    }
    states = [...next.values()].sort(dearer).slice(0, width);
  });
  const total = (state: State): number =>
    state.waste + state.open.reduce((sum, { leftIn }) => sum + wasteOf(leftIn, usefulIn), 0);
  const best = states.reduce((least, state) =>
    state.opened < least.opened || (state.opened === least.opened && total(state) < total(least))
      ? state
      : least,
  );
  const bins = [...stock, ...Array.from({ length: best.opened }, (): Bin => ({ lengthIn: coilIn }))];
  const spread: Wanted[][] = bins.map(() => []);
  for (let at = best.cut; at; at = at.before) spread[at.bin]!.unshift(wanted[at.item]!);
  return planOf(spread, bins, options);
}

function planOf(
  spread: readonly (readonly Wanted[])[],
  bins: readonly Bin[],
  { usefulIn }: CutOptions,
): CutPlan {
  const cuts = bins.flatMap((bin, at): CutOff[] => {
    const items = spread[at]!;
    return items.length
      ? [{ ...bin, ids: items.map(({ id }) => id), leftIn: bin.lengthIn - sumOf(items) }]
      : [];
  });
  return {
    cuts,
    opened: cuts.filter(({ reelId }) => reelId === undefined).length,
    wasteIn: wasteIn(spread, bins, usefulIn),
    tooLong: [],
  };
}

/**
 * Off what the runs of one type of cable are cut: as few new coils as can be, then as little waste as is found; what is left is
 * kept in pieces as long as it can be. Made for what is left of stock and runs at the moment: planned anew after each change.
 * Deterministic. Lengths in inches. Common practice.
 */
export function cutPlan(wanted: readonly Wanted[], stock: readonly InStock[], options: CutOptions): CutPlan {
  const bins = stock
    .filter(({ lengthIn }) => lengthIn > 0)
    .map(({ id, lengthIn }): Bin => ({ reelId: id, lengthIn }));
  const most = Math.max(options.coilIn, 0, ...bins.map(({ lengthIn }) => lengthIn));
  const tooLong = wanted.filter(({ lengthIn }) => lengthIn > most + 1e-6);
  const fits = wanted.filter((one) => !tooLong.includes(one));
  if (fits.length === 0) return { cuts: [], opened: 0, wasteIn: 0, tooLong: tooLong.map(({ id }) => id) };
  const plan = options.order === 'shop' ? inShop(fits, bins, options) : asWeGo(fits, bins, options);
  return { ...plan, tooLong: tooLong.map(({ id }) => id) };
}
