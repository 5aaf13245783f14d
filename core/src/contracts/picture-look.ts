import { imageSize, disableTypes, types } from 'image-size';
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

/**
 * Looks at what a file is by its content, whatever its name says. Codes: asset.empty, asset.type (not a PNG, JPEG or WebP, or
 * broken at its beginning).
 */
export function lookAtPicture(bytes: Uint8Array): PictureLook | PictureRefusal {
  if (bytes.length === 0) return { code: 'asset.empty', message: 'This file is empty.' };
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

/** Why the crew does not keep a picture as it is; nothing where it does. Codes: asset.too-large, asset.too-many-points. */
export function tooMuchToKeep(size: number, { widthPx, heightPx }: PictureLook) {
  if (size > LIMITS.assetBytes)
    return {
      code: 'asset.too-large',
      message: `A picture may have up to ${megabytes(LIMITS.assetBytes)}; the program makes it smaller before it sends it.`,
    };
  if (Math.max(widthPx, heightPx) > LIMITS.assetPoints)
    return {
      code: 'asset.too-many-points',
      message: `A picture may have up to ${LIMITS.assetPoints} points on a side; this one has ${widthPx} × ${heightPx}.`,
    };
  return undefined;
}
