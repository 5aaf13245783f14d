import type { Gauge } from '../vocabulary/size.js';
import { GAUGES, isThicker } from '../vocabulary/size.js';
import type { Rulebook } from './rulebook.js';

/**
 * The size by which a table of the rulebook counts a wire: its own where the table has it; else, of a wire that is sold in
 * another system, the next thicker one of the table, or its thickest. `table` is what its keys begin with.
 */
export function gaugeIn(rules: Rulebook, table: string, gauge: Gauge): Gauge {
  if (rules.has(`${table}${gauge}`)) return gauge;
  const known = GAUGES.filter((one) => rules.has(`${table}${one}`));
  return known.findLast((one) => isThicker(one, gauge)) ?? known[0] ?? gauge;
}
