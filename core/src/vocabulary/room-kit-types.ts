import * as z from 'zod';
import { HeightReference, RoomKind } from './kinds.js';
import type { Provenance } from './rule.js';
import { Inches, ShortText } from './text.js';

/** What a room gets one or more of. Lights, fans and alarms hang from a ceiling; a wall light comes out of the wall without a box. */
export const KitThing = z.enum([
  'light',
  'wall-light',
  'recessed',
  'fan-light',
  'exhaust',
  'receptacle',
  'appliance',
  'alarm',
  'data',
  'doorbell',
  'thermostat',
]);
export type KitThing = z.infer<typeof KitThing>;

/** What of a room decides how many there are of something. Feet and square feet, clear between the walls. */
export const KitMeasure = z.enum(['wall-ft', 'length-ft', 'area-ft2']);
export type KitMeasure = z.infer<typeof KitMeasure>;

/** What kind of circuit it hangs on; "own" serves this one thing and nothing else. */
export const CircuitUse = z.enum([
  'lighting',
  'outlets',
  'counter',
  'dining',
  'bath',
  'laundry',
  'garage',
  'outdoors',
  'alarms',
  'own',
]);
export type CircuitUse = z.infer<typeof CircuitUse>;

/** The switch of something, or of two things on two switches beside each other (light, then fan). */
const KitSwitch = z.strictObject({
  /** Place in the switch box: 1 is reached first by whoever walks in. */
  order: z.int().min(1).max(40),
  /** From the first way in alone, or from every way in. */
  from: z.enum(['first', 'every']),
  /** In this room, or in the one before it: the switch of an outside light hangs inside. */
  hangs: z.enum(['here', 'before']).optional(),
  device: z.enum(['switch', 'dimmer', 'timer', 'smart-switch']).optional(),
});

export const KitItem = z.strictObject({
  /** Stable within the kit: what was drafted is known again by it. */
  key: z
    .string()
    .min(1)
    .max(40)
    .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'is not the key of a kit item'),
  /** What a switch, a box and a circuit of its own are called by. */
  name: ShortText,
  thing: KitThing,
  /** How many at least; with `every`, one for each so many feet or square feet begun. */
  least: z.int().min(0).max(40),
  every: z.strictObject({ of: KitMeasure, each: z.number().positive().max(10_000) }).optional(),
  /** Only in rooms that measure so much. */
  onlyFrom: z.strictObject({ of: KitMeasure, least: z.number().positive().max(10_000) }).optional(),
  /** One in every wall that is long enough, where the room is drawn. */
  inEachWall: z.boolean().optional(),
  /** As spacing asks along the walls that have no counter, where counters are drawn. */
  besideCounters: z.boolean().optional(),
  /** Only in the first such room of the floor, or of the house. */
  once: z.enum(['storey', 'house']).optional(),
  switch: KitSwitch.optional(),
  circuit: CircuitUse.optional(),
  /** Of a circuit of its own: amperes of the breaker, poles, and whether the nameplate decides. */
  own: z
    .strictObject({
      amps: z.int().min(15).max(100),
      supply: z.enum(['120', '240', '120/240']),
      nameplate: z.boolean(),
      /** It is asked to be protected whatever room it stands in. */
      gfci: z.boolean().optional(),
    })
    .optional(),
  heightIn: Inches.optional(),
  heightReference: HeightReference.optional(),
  /** A switched half of a receptacle may stand for it. */
  orReceptacle: z.boolean().optional(),
  /** The framer is asked for blocking. */
  blocking: z.boolean().optional(),
  /** It goes in before concrete is poured or siding goes on. */
  before: z.enum(['pour', 'siding']).optional(),
});
export type KitItem = z.infer<typeof KitItem>;

/** What rooms of a kind usually get. */
export const RoomKit = z.strictObject({
  roomKind: RoomKind,
  /** Ways in, where nobody has said them of the room. */
  ways: z.int().min(1).max(8),
  items: z.array(KitItem).max(60),
});
export type RoomKit = z.infer<typeof RoomKit>;

/** A kit of the rulebook: where each line of it comes from, and how large such a room is taken to be, in inches. */
export interface PublishedKit extends RoomKit {
  readonly assumedIn: readonly [length: number, width: number];
  readonly sources: Readonly<Record<string, KitSource>>;
}
export interface KitSource {
  readonly provenance: Provenance;
  readonly section?: string;
}

/** Circuits that serve one kind of outlets and no other. */
export interface CircuitPlan {
  readonly use: Exclude<CircuitUse, 'own'>;
  readonly name: string;
  readonly amps: number;
  /** Both its ends come home to one breaker. */
  readonly ring?: true;
  /** So many at least, where there is anything to serve. */
  readonly least: number;
  readonly source: KitSource;
}
