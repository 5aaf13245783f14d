import * as z from 'zod';

export const RoomKind = z.enum([
  'kitchen',
  'dining',
  'living',
  'family',
  'bedroom',
  'bath',
  'water-closet',
  'hall',
  'foyer',
  'stairs',
  'laundry',
  'closet',
  'office',
  'garage',
  'porch',
  'utility',
  'attic',
  'basement',
  'outdoors',
  'other',
]);

/** What is built into a room and decides where boxes go. */
export const BandKind = z.enum([
  'cabinet',
  'counter',
  'island',
  'peninsula',
  'vanity',
  'basin',
  'mirror',
  'tub',
  'shower',
  'trim',
  'fireplace',
]);
export type BandKind = z.infer<typeof BandKind>;

export const BoxMaterial = z.enum(['plastic', 'fiberglass', 'metal']);

export const BoxKind = z.enum([
  'device',
  'ceiling',
  'square',
  'masonry',
  'cast',
  'panel',
  'buried-point',
  'low-voltage',
  // A light that brings its own splice box: nothing is nailed.
  'light-box',
]);

/**
 * Whether there is power in the house, as the lead says it: the panel is not connected, a temporary supply feeds some of it, or
 * it is live. It decides which caution a screen shows; where nothing is said it counts as live.
 */
export const PowerState = z.enum(['no-service', 'temporary', 'live']);
export type PowerState = z.infer<typeof PowerState>;

/** How cables are held where they enter: 'tabs' are the flexible tongues of a multi-gang plastic box. */
export const Clamps = z.enum(['none', 'tabs', 'internal', 'external']);

export const PointRole = z.enum(['lever', 'receptacle', 'lamp', 'fan', 'alarm', 'appliance']);

export type PointRole = z.infer<typeof PointRole>;

export type RoomKind = z.infer<typeof RoomKind>;

/** Which part of a box its height is measured to. */
export const HeightReference = z.enum(['top', 'centre', 'bottom']);
export type HeightReference = z.infer<typeof HeightReference>;

/** Reasons for which a switch box may go without a neutral; for "other" the box says it in words. */
export const NeutralException = z.enum([
  'raceway',
  'reachable',
  'integral-enclosure',
  'automatic',
  'receptacle',
  'replacement',
  'other',
]);
export type NeutralException = z.infer<typeof NeutralException>;

/** What draws: a load that a device is there for, or the electronics of a switch that needs a neutral. */
export type LoadRole = Exclude<PointRole, 'lever'> | 'electronics';
