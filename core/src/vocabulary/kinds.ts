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
]);

/** How cables are held where they enter: 'tabs' are the flexible tongues of a multi-gang plastic box. */
export const Clamps = z.enum(['none', 'tabs', 'internal', 'external']);

export const PointRole = z.enum(['lever', 'receptacle', 'lamp', 'fan', 'alarm', 'appliance']);

export type PointRole = z.infer<typeof PointRole>;

export type RoomKind = z.infer<typeof RoomKind>;
