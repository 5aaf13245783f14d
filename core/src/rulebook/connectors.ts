import type { Awg } from '../vocabulary/text.js';

/** So many conductors of each gauge, thickest mattering most. */
export type Bundle = Readonly<Partial<Record<Awg, number>>>;

export interface Connector {
  readonly id: string;
  readonly name: string;
  readonly kind: 'twist-on' | 'grounding' | 'lever';
  /** A bundle fits when it is at least one of `from` and at most one of `upTo`. */
  readonly from: readonly Bundle[];
  readonly upTo: readonly Bundle[];
}

const lever = (ports: number): Connector => ({
  id: `lever-${ports}`,
  name: `${ports}-port lever connector`,
  kind: 'lever',
  from: [{ 18: 2 }],
  upTo: [{ 12: ports }],
});

/**
 * Generic connector sizes, smallest first: common practice, from memory. Makers differ: what is printed on the package
 * of the connector in hand decides.
 */
export const CONNECTORS: readonly Connector[] = [
  { id: 'twist-small', name: 'small twist-on', kind: 'twist-on', from: [{ 18: 2 }], upTo: [{ 14: 2 }] },
  {
    id: 'twist-medium',
    name: 'medium twist-on',
    kind: 'twist-on',
    from: [{ 14: 2 }],
    upTo: [{ 14: 5 }, { 12: 4 }],
  },
  {
    id: 'twist-large',
    name: 'large twist-on',
    kind: 'twist-on',
    from: [{ 14: 2 }],
    upTo: [{ 14: 6 }, { 12: 5 }, { 10: 3 }],
  },
  {
    id: 'twist-extra-large',
    name: 'extra-large twist-on',
    kind: 'twist-on',
    from: [{ 14: 6 }, { 12: 4 }, { 10: 2 }],
    upTo: [{ 14: 9 }, { 12: 7 }, { 10: 5 }, { 8: 3 }, { 6: 2 }],
  },
  {
    id: 'grounding',
    name: 'grounding twist-on with pass-through hole',
    kind: 'grounding',
    from: [{ 14: 2 }],
    upTo: [{ 14: 5 }, { 12: 4 }],
  },
  lever(2),
  lever(3),
  lever(5),
];

const GAUGES: readonly Awg[] = [6, 8, 10, 12, 14, 16, 18];

/** Whether every wire of `small` can be matched with a wire of `large` that is as thick or thicker. */
export function isWithin(small: Bundle, large: Bundle): boolean {
  let spare = 0;
  for (const awg of GAUGES) {
    spare += (large[awg] ?? 0) - (small[awg] ?? 0);
    if (spare < 0) return false;
  }
  return true;
}

/** Whether a connector holds a bundle: not too few and not too many, by the table. */
export const takes = (connector: Connector, bundle: Bundle): boolean =>
  connector.from.some((least) => isWithin(least, bundle)) &&
  connector.upTo.some((most) => isWithin(bundle, most));

/**
 * The smallest connector of the wanted kinds, in the order of `kinds`, that takes the bundle; undefined when the table has
 * none (the splice must be split).
 */
export function connectorFor(bundle: Bundle, kinds: readonly Connector['kind'][]): Connector | undefined {
  for (const kind of kinds) {
    const found = CONNECTORS.find((connector) => connector.kind === kind && takes(connector, bundle));
    if (found) return found;
  }
  return undefined;
}

/** "3×14, 1×12" */
export const bundleText = (bundle: Bundle): string =>
  GAUGES.filter((awg) => bundle[awg])
    .map((awg) => `${bundle[awg]}×${awg}`)
    .join(', ');
