import * as z from 'zod';
import { BoxKind, BoxMaterial, Clamps, PointRole } from './kinds.js';
import { LIMITS } from './limits.js';
import { Size } from './size.js';
import type { Provenance } from './rule.js';
import type { Gauge } from './size.js';
import type { Colour } from './text.js';
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
  /** Of a splice box that counts cables, not volume: the most that are marked on it. */
  mostCables: z.int().min(1).max(20).optional(),
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
  /** From the front of the box to its back: how far it reaches in, where boxes are counted by that. */
  depthIn: Inches.optional(),
  /** What it is fed with; 120 V when nothing is said. */
  supply: z.enum(['120', '240', '120/240']).optional(),
});

export type CatalogueBox = z.infer<typeof CatalogueBox>;

export type CatalogueDevice = z.infer<typeof CatalogueDevice>;

export type Fitting = z.infer<typeof Fitting>;

/** A generic box: no maker's part, but a size that is common. Its facts are those of a house's own boxes. */
export interface BoxType extends Omit<CatalogueBox, 'id'> {
  readonly id: string;
  readonly provenance: Provenance;
  readonly section?: string;
  /** Width, height and depth inside, where a box is chosen by them. */
  readonly insideIn?: readonly [width: number, height: number, depth: number];
}

export interface DeviceType extends Omit<CatalogueDevice, 'id'> {
  readonly id: string;
  /** Its levers have a common each, joined by nothing inside: a multi-gang plate. */
  readonly commonsApart?: true;
  /** Gangs that it takes when nothing else is said; one without. */
  readonly widthGangs?: number;
  /** Places of a control that its kind of switch can take; all without. */
  readonly serves?: readonly ('single-pole' | 'three-way' | 'four-way')[];
}

/** A ring, extension or raised cover that is commonly stocked, as a fitting with the volume that is usually marked in it. */
export interface FittingType extends Fitting {
  readonly id: string;
  readonly name: string;
}

/** So many conductors of each gauge, thickest mattering most. */
export type Bundle = Readonly<Partial<Record<Gauge, number>>>;

export interface Connector {
  readonly id: string;
  readonly name: string;
  readonly kind: 'twist-on' | 'grounding' | 'lever' | 'block';
  /** A bundle fits when it is at least one of `from` and at most one of `upTo`. */
  readonly from: readonly Bundle[];
  readonly upTo: readonly Bundle[];
}

/** A cable as it is sold: what it is called, its gauge, its colours. */
export interface Cable {
  readonly id: string;
  readonly gauge: Gauge;
  readonly groundGauge: Gauge;
  /** Insulated conductors, in the order in which the sheath lays them. */
  readonly colours: readonly Colour[];
  /** Not sold any more: met in old installations and shown, never proposed. */
  readonly old?: true;
}

/** What colours conductors have by what they carry. */
export interface ColourPlan {
  /** Colours that are neutral; the first in cable, all of them in raceway. */
  readonly neutral: readonly Colour[];
  /** What a conductor of a neutral's colour may be marked again as, in cable. */
  readonly remarked: readonly ('hot' | 'traveler' | 'leg' | 'common' | 'interconnect')[];
  /** Colours of cable that are marked at both ends where they carry a line, where the neutral, and with what colours. */
  readonly marked: { readonly line: readonly Colour[]; readonly neutral: readonly Colour[] };
  readonly markedWith: { readonly line: readonly Colour[]; readonly neutral: readonly Colour[] };
  /** Which colour comes first for what, in cable. */
  readonly hot: readonly Colour[];
  readonly leg: readonly Colour[];
  readonly travelers: Readonly<Record<'a' | 'b', readonly Colour[]>>;
  /** Between the commons of two-way switches that are wired by conversion. */
  readonly common: readonly Colour[];
  readonly interconnect: readonly Colour[];
  /** Of the second hot, in raceway. */
  readonly secondHot: Colour;
  /** A wire of raceway for which nothing is said. */
  readonly other: Colour;
  /** Of cable that is only met in old installations. */
  readonly old?: ColourPlan;
}
