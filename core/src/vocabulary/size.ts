import * as z from 'zod';
import { Awg } from './text.js';

/** Size of a conductor in the system that it is sold by. (Cross-sections in mm² come with the countries that use them.) */
export const Size = z.strictObject({ system: z.literal('awg'), value: Awg });
export type Size = z.infer<typeof Size>;

/** A size in American Wire Gauge. */
export const awg = (value: Awg): Size => ({ system: 'awg', value });
