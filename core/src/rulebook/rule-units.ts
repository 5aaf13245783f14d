import type { Rule } from '../vocabulary/rule.js';

/**
 * Units of rules that are not those of the core: which of its own each stands for, and what one of it is of that. Lengths and volumes by
 * definition (1 in = 25.4 mm, so 1 cu in = 16.387064 mL). Any other unit is the core's own.
 */
const UNITS: Readonly<Record<string, { readonly as: string; readonly times: number }>> = {
  mm: { as: 'in', times: 1 / 25.4 },
  m: { as: 'ft', times: 1 / 0.3048 },
  'm²': { as: 'ft²', times: 1 / 0.3048 ** 2 },
  'mm²': { as: 'in²', times: 1 / 25.4 ** 2 },
  mL: { as: 'cu in', times: 1 / 16.387064 },
  'VA/m²': { as: 'VA', times: 0.3048 ** 2 },
  'min/m': { as: 'min', times: 0.3048 },
  'a meter': { as: 'a foot', times: 0.3048 },
};
const timesOf = ({ unit }: Pick<Rule, 'unit'>): number => UNITS[unit ?? '']?.times ?? 1;

/** The unit that the core counts a rule in; undefined where it has none. */
export const coreUnit = ({ unit }: Pick<Rule, 'unit'>): string | undefined =>
  unit === undefined ? undefined : (UNITS[unit]?.as ?? unit);

/** A number of a rule, which stands in the unit of its jurisdiction, in that of the core. */
export const inCoreUnits = (rule: Pick<Rule, 'unit'>, value: number): number => value * timesOf(rule);

/**
 * Whether a volume holds another, both in cubic inches, by what a code publishes for a conductor. Where that is in mL, boxes were rounded
 * to whole mL and conductors to a tenth when they were published (15 cu in became 245 mL, 1.5 became 24.6: ten of these are 246), and
 * what the table says fits has to fit.
 */
export function holdsVolume(
  conductor: Pick<Rule, 'unit'> & { readonly value: number },
  totalIn3: number,
  capacityIn3: number,
): boolean {
  const own = timesOf(conductor);
  const isRounded = conductor.unit === 'mL';
  const total = (totalIn3 / own) * (isRounded ? 1 - 0.05 / conductor.value : 1);
  return total <= capacityIn3 / own + (isRounded ? 0.5 : 0) + 1e-6;
}

/** A number of one jurisdiction's rule in the unit that another has it in, to a thousandth of that. */
export const inUnitsOf = (from: Pick<Rule, 'unit'>, to: Pick<Rule, 'unit'>, value: number): number =>
  from.unit === to.unit ? value : Math.round((inCoreUnits(from, value) / inCoreUnits(to, 1)) * 1000) / 1000;
