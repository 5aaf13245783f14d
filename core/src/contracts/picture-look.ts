import { imageSize, disableTypes, types } from 'image-size';
import * as z from 'zod';
import { LIMITS, megabytes } from '../vocabulary/limits.js';

/** What a picture that is kept may be: what every browser draws. */
export const ASSET_TYPES = ['image/png', 'image/jpeg', 'image/webp'] as const;
export type AssetType = (typeof ASSET_TYPES)[number];

const BY_KIND: Readonly<Record<string, AssetType>> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  webp: 'image/webp',
};
// Of all other kinds nothing is looked at.
disableTypes(types.filter((kind) => !(kind in BY_KIND)));

/** A picture as its bytes say that it is: its type and its points across and down. */
export interface PictureLook {
  readonly type: AssetType;
  readonly widthPx: number;
  readonly heightPx: number;
}
export interface PictureRefusal {
  readonly code: 'asset.type' | 'asset.empty';
  readonly message: string;
}

const NO_PICTURE =
  'This is no picture that can be kept: a PNG, JPEG or WebP is. Its name does not matter, what is in it does.';

const HEIC =
  'This is a HEIC picture, which most browsers do not draw: let the phone’s camera write JPEG (“most compatible”), or take the photo from here.';
/** Names of the kinds of pictures that phones write into such files, after "ftyp". */
const HEIC_BRANDS: ReadonlySet<string> = new Set(['heic', 'heix', 'hevc', 'heim', 'mif1', 'msf1']);
const asText = (bytes: Uint8Array): string => String.fromCharCode(...bytes);
const isHeic = (bytes: Uint8Array): boolean =>
  asText(bytes.subarray(4, 8)) === 'ftyp' && HEIC_BRANDS.has(asText(bytes.subarray(8, 12)));

/**
 * Looks at what a file is by its content, whatever its name says. Codes: asset.empty, asset.type (not a PNG, JPEG or WebP, or
 * broken at its beginning).
 */
export function lookAtPicture(bytes: Uint8Array): PictureLook | PictureRefusal {
  if (bytes.length === 0) return { code: 'asset.empty', message: 'This file is empty.' };
  if (isHeic(bytes)) return { code: 'asset.type', message: HEIC };
  try {
    const { type = '', width, height, orientation = 1 } = imageSize(bytes);
    const found = BY_KIND[type];
    if (!found || !(width > 0) || !(height > 0)) return { code: 'asset.type', message: NO_PICTURE };
    // A phone that was held upright says so beside the points.
    const isOnSide = orientation >= 5;
    return { type: found, widthPx: isOnSide ? height : width, heightPx: isOnSide ? width : height };
  } catch {
    return { code: 'asset.type', message: NO_PICTURE };
  }
}

/** What a picture is kept for: a plan sheet, a photo, or the small one of a photo that lists show. */
export const AssetUse = z.enum(['sheet', 'photo', 'thumb']);
export type AssetUse = z.infer<typeof AssetUse>;

/** Bytes that a picture may have, by what it is kept for. */
const MOST_BYTES: Readonly<Record<AssetUse, number>> = {
  sheet: LIMITS.assetBytes,
  photo: LIMITS.photoBytes,
  thumb: LIMITS.thumbBytes,
};

/** Why the crew does not keep a picture as it is; nothing where it does. Codes: asset.too-large, asset.too-many-points. */
export function tooMuchToKeep(size: number, { widthPx, heightPx }: PictureLook, use: AssetUse = 'sheet') {
  if (size > MOST_BYTES[use])
    return {
      code: 'asset.too-large',
      message: `A picture may have up to ${use === 'sheet' ? megabytes(MOST_BYTES[use]) : `${MOST_BYTES[use] / 1000} kB`}; the program makes it smaller before it sends it.`,
    };
  if (Math.max(widthPx, heightPx) > LIMITS.assetPoints)
    return {
      code: 'asset.too-many-points',
      message: `A picture may have up to ${LIMITS.assetPoints} points on a side; this one has ${widthPx} × ${heightPx}.`,
    };
  return undefined;
}
