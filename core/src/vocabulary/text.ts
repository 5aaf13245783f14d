import * as z from 'zod';

/** One line of text: no control characters and no broken Unicode, which neither paper nor the database can hold. */
const ONE_LINE = /^[^\p{Cc}\p{Cs}]*$/u;
/** As {@link ONE_LINE}, but tabs and line ends are welcome. */
const NOTE = /^(?:[^\p{Cc}\p{Cs}]|[\t\n\r])*$/u;

/** UUIDs in lower case, as the database gives them back. */
export const Id = z.uuid().lowercase();
export const Name = z.string().min(1).max(200).regex(ONE_LINE, 'has control characters or broken Unicode');
export const ShortText = z
  .string()
  .min(1)
  .max(60)
  .regex(ONE_LINE, 'has control characters or broken Unicode');
export const Note = z.string().min(1).max(2000).regex(NOTE, 'has control characters or broken Unicode');
/** Inches, decimal. The upper limit (over 2.5 km) only stops typing errors. */
export const Inches = z.number().min(0).max(100_000);
/** Foot mark as printed on a sheath, in feet. */
export const FootMark = z.number().min(0).max(1_000_000);
/** Cubic inches. */
export const CubicInches = z.number().positive().max(10_000);
/** American Wire Gauge sizes the product knows, thinnest first. */
export const Awg = z.union([
  z.literal(18),
  z.literal(16),
  z.literal(14),
  z.literal(12),
  z.literal(10),
  z.literal(8),
  z.literal(6),
]);
export type Awg = z.infer<typeof Awg>;
/** Conductor colours by the letter codes of IEC 60757; BARE is an uninsulated ground. */
export const Colour = z.enum(['BK', 'WH', 'RD', 'BU', 'GN', 'GY', 'BN', 'OG', 'YE', 'VT', 'PK', 'BARE']);
export type Colour = z.infer<typeof Colour>;
