import type { AssetType } from '@mule-tally/core';
import { LIMITS, lookAtPicture, megabytes } from '@mule-tally/core';

/** A picture as it is kept: made anew from its points, so that nothing else of the file it came from goes along. */
export interface Shrunk {
  readonly bytes: ArrayBuffer;
  readonly type: AssetType;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** What cannot be kept, in a sentence; nothing has happened. */
export class NoPicture extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

export interface ShrinkTo {
  /** Points of its longer side at most. */
  readonly longestPx: number;
  /** Bytes at most. */
  readonly mostBytes: number;
}

const broken = (): NoPicture =>
  new NoPicture(
    'picture.broken',
    $localize`This picture is broken or cut off\: nothing was kept. Take it from where it came once more.`,
  );

/** Refuses a file that is larger than is looked at. */
export function asPictureFile(file: Blob): void {
  if (file.size > LIMITS.pictureFileBytes)
    throw new NoPicture(
      'picture.too-large',
      $localize`This file has more than ${megabytes(LIMITS.pictureFileBytes)}\: save it smaller, or only the sheet that you need.`,
    );
}

/** A picture file made as small as is asked for. Throws `NoPicture`: picture.too-large, .too-many-points, .broken, asset.*. */
export async function shrunkPicture(file: Blob, to: ShrinkTo): Promise<Shrunk> {
  asPictureFile(file);
  const look = lookAtPicture(new Uint8Array(await file.arrayBuffer()));
  if ('code' in look) throw new NoPicture(look.code, look.message);
  if (look.widthPx * look.heightPx > LIMITS.picturePoints)
    throw new NoPicture(
      'picture.too-many-points',
      $localize`This picture has ${look.widthPx} × ${look.heightPx} points, more than this device can hold\: save it smaller.`,
    );
  const scale = Math.min(1, to.longestPx / Math.max(look.widthPx, look.heightPx));
  const [width, height] = [look.widthPx, look.heightPx].map((side) => Math.max(1, Math.round(side * scale)));
  // Its type is what is in it: a name that says something else leads nobody astray.
  const picture = await createImageBitmap(new Blob([file], { type: look.type }), {
    resizeWidth: width!,
    resizeHeight: height!,
    resizeQuality: 'high',
  }).catch(() => {
    throw broken();
  });
  try {
    return await shrunk(picture, picture, to);
  } finally {
    picture.close();
  }
}

const encoded = (canvas: HTMLCanvasElement, type: string, quality: number): Promise<Blob | null> =>
  new Promise((resolve) => canvas.toBlob(resolve, type, quality));

/** Anything that can be drawn, as a picture of at most so many points and bytes, on white. */
export async function shrunk(
  from: CanvasImageSource,
  size: { readonly width: number; readonly height: number },
  to: ShrinkTo,
): Promise<Shrunk> {
  for (let longest = to.longestPx; longest >= 200; longest *= 0.8) {
    const scale = Math.min(1, longest / Math.max(size.width, size.height));
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.round(size.width * scale));
    canvas.height = Math.max(1, Math.round(size.height * scale));
    const paper = canvas.getContext('2d');
    if (!paper) throw broken();
    paper.fillStyle = '#fff';
    paper.fillRect(0, 0, canvas.width, canvas.height);
    paper.imageSmoothingQuality = 'high';
    paper.drawImage(from, 0, 0, canvas.width, canvas.height);
    // Drawings keep their lines best as WebP; a browser that writes none gives a PNG, which for a photo is too large.
    for (const [type, quality] of [
      ['image/webp', 0.85],
      ['image/jpeg', 0.82],
      ['image/jpeg', 0.6],
    ] as const) {
      const made = await encoded(canvas, type, quality);
      if (!made || made.size > to.mostBytes) continue;
      const bytes = await made.arrayBuffer();
      const look = lookAtPicture(new Uint8Array(bytes));
      if (!('code' in look))
        return { bytes, type: look.type, widthPx: look.widthPx, heightPx: look.heightPx };
    }
  }
  throw broken();
}
