import { gaugeIn } from '../rulebook/gauge-in.js';
import type { Rulebook } from '../rulebook/rulebook.js';
import type { Gauge } from '../vocabulary/size.js';

/**
 * What a conductor takes in a box, in cubic inches: by the table of the code where it has one; else, as an estimate, itself over its free
 * length.
 */
export function conductorIn3(rules: Rulebook, gauge: Gauge): number {
  const own = gaugeIn(rules, 'fill.volume.', gauge);
  if (rules.has(`fill.volume.${own}`)) return rules.number(`fill.volume.${own}`);
  return rules.number(`raceway.area.${gaugeIn(rules, 'raceway.area.', gauge)}`) * rules.number('free.length');
}
