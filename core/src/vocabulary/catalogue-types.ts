import * as z from 'zod';
import { BoxKind, BoxMaterial, Clamps, PointRole } from './kinds.js';
import { LIMITS } from './limits.js';
import { Size } from './size.js';
import { CubicInches, Id, Inches, Name } from './text.js';

/** What is known of a box's shape. */
export const boxShape = {
  material: BoxMaterial,
  kind: BoxKind,
  gangs: z.int().min(0).max(LIMITS.gangs),
  /** Cable entries; each takes what the rulebook says. */
  slots: z.int().min(0).max(60),
  clamps: Clamps,
  groundScrew: z.boolean(),
};

export const CatalogueBox = z.strictObject({
  id: Id,
  name: Name,
  ...boxShape,
  volumeIn3: CubicInches.optional(),
  fanRated: z.boolean().optional(),
  widthIn: Inches.optional(),
});

export const Fitting = z.strictObject({
  kind: z.enum(['ring', 'extension', 'raised-cover', 'stud', 'hickey', 'terminal-block']),
  /** Marked volume, for what adds room. */
  volumeIn3: CubicInches.optional(),
  /** Device gangs that a ring or raised cover opens to; the box then has these. */
  gangs: z.int().min(0).max(LIMITS.gangs).optional(),
  /** Largest conductor on a terminal block. */
  size: Size.optional(),
});

export const CatalogueDevice = z.strictObject({
  id: Id,
  name: Name,
  mount: z.enum(['yoke', 'canopy', 'direct']),
  points: z.array(PointRole).min(1).max(8),
  connection: z.enum(['screws', 'leads']),
  needsNeutral: z.boolean(),
  feedThrough: z.boolean(),
  /** What it is fed with; 120 V when nothing is said. */
  supply: z.enum(['120', '240', '120/240']).optional(),
});

export type CatalogueBox = z.infer<typeof CatalogueBox>;

export type CatalogueDevice = z.infer<typeof CatalogueDevice>;

export type Fitting = z.infer<typeof Fitting>;
