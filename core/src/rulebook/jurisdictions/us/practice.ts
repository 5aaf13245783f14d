import type { Rule } from '../../../vocabulary/rule.js';

/** A value of common practice, which has no source and which a house sets as it likes. */
export const practice = (key: string, title: string, unit: string, value: number, note?: string): Rule => ({
  key,
  title,
  unit,
  value,
  provenance: 'common practice',
  adjust: 'free',
  ...(note && { note }),
});
