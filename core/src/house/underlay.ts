import * as z from 'zod';
import { Inches, Name } from '../vocabulary/text.js';

/** A picture that the crew keeps: the SHA-256 of its bytes, in hexadecimal digits. */
export const AssetId = z.string().regex(/^[0-9a-f]{64}$/, 'is not the hash of a picture');
export type AssetId = z.infer<typeof AssetId>;

const Points = z.int().min(1).max(100_000);
const Along = z.number().min(-100_000).max(100_000);

/**
 * A plan sheet under the plan of a story: which picture, how large a point of it is, how it is turned, where its middle lies.
 * The picture itself may still be on its way: a house knows it by its hash.
 */
export const Underlay = z.strictObject({
  asset: AssetId,
  /** Name of the file that it came from. */
  name: Name,
  /** Points of the picture across and up. */
  widthPx: Points,
  heightPx: Points,
  /** Inches of the house to a point of the picture. */
  inPerPx: z.number().positive().max(1000),
  /** Degrees that it is turned by, counter-clockwise. */
  turnDeg: z.number().min(-360).max(360),
  /** Where its middle lies on the plan, in inches. */
  at: z.strictObject({ xIn: Along, yIn: Along }),
  /** The length by which somebody set it to scale; without it, it is not to scale. */
  scaledByIn: Inches.optional(),
});
export type Underlay = z.infer<typeof Underlay>;
