import type { Bundle, Connector } from '../vocabulary/catalogue-types.js';
import { GAUGES, gaugeNumber } from '../vocabulary/size.js';
import { JURISDICTIONS } from './jurisdictions.js';
import type { Rulebook } from './rulebook.js';

const BY_ID = new Map(JURISDICTIONS.flatMap(({ connectors }) => connectors).map((one) => [one.id, one]));

/** A connector of any country by its id. */
export const connectorOf = (id: string | undefined): Connector | undefined => BY_ID.get(id ?? '');

/** Whether every wire of `small` can be matched with a wire of `large` that is as thick or thicker. */
export function isWithin(small: Bundle, large: Bundle): boolean {
  let spare = 0;
  for (const gauge of GAUGES) {
    spare += (large[gauge] ?? 0) - (small[gauge] ?? 0);
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
export function connectorFor(
  rules: Rulebook,
  bundle: Bundle,
  kinds: readonly Connector['kind'][],
): Connector | undefined {
  for (const kind of kinds) {
    const found = rules.jurisdiction.connectors.find(
      (connector) => connector.kind === kind && takes(connector, bundle),
    );
    if (found) return found;
  }
  return undefined;
}

/** What each school of joints takes, the wanted kind first. */
const SCHOOLS: Readonly<Record<string, readonly Connector['kind'][]>> = {
  'twist-on': ['twist-on'],
  lever: ['lever', 'twist-on', 'block'],
  block: ['block', 'lever'],
};
/** Kinds of connectors for a splice by the school of the house, the wanted ones first. */
export const splicingKinds = (rules: Rulebook): readonly Connector['kind'][] =>
  SCHOOLS[rules.text('makeup.connector')] ?? ['twist-on'];

/** "3×14, 1×12" */
export const bundleText = (bundle: Bundle): string =>
  GAUGES.filter((gauge) => bundle[gauge])
    .map((gauge) => `${bundle[gauge]}×${gaugeNumber(gauge)}`)
    .join(', ');
