import type { Rule } from '../../../vocabulary/rule.js';

const UNITS: Readonly<Record<string, readonly [unit: string, times: number, digits: number]>> = {
  in: ['mm', 25.4, 0],
  ft: ['m', 0.3048, 1],
  'ft²': ['m²', 0.3048 ** 2, 1],
  'in²': ['mm²', 25.4 ** 2, 1],
  'a foot': ['a meter', 1 / 0.3048, 2],
};

/** A practice that does not stop at the border, in the units of this side: as a crew would say it, not to the last digit. */
export function inMetric(rule: Rule): Rule {
  const [unit, times, digits] = UNITS[rule.unit ?? ''] ?? [];
  if (unit === undefined || times === undefined || typeof rule.value !== 'number') return rule;
  return { ...rule, unit, value: Number((rule.value * times).toFixed(digits)) };
}
