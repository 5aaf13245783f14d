import { unzipSync, zipSync } from 'fflate';
import { lookAtPicture, tooMuchToKeep } from '../contracts/picture-look.js';
import { LIMITS, megabytes } from '../vocabulary/limits.js';
import type { Problem } from '../vocabulary/problem.js';

/** A house file with pictures that it names, by their hashes. */
export interface HouseZip {
  /** The house file as text. */
  readonly text: string;
  readonly pictures: ReadonlyMap<string, Uint8Array>;
}
export type HouseZipResult =
  ({ readonly ok: true } & HouseZip) | { readonly ok: false; readonly problems: readonly Problem[] };

const HOUSE = 'house.json';
const ENDINGS = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp' } as const;
const PICTURE = /^pictures\/([0-9a-f]{64})\.(?:png|jpg|webp)$/;
/** A moment that every zip says, so that the same house gives the same bytes; the format knows none before 1980. */
const ANY_TIME = '1980-01-01T00:00:00';

/**
 * A house file and its pictures in one zip: `house.json` and `pictures/<hash>.<kind>`. What is no picture is left out. Pictures
 * are stored as they are: they are pressed together already.
 */
export function houseZip({ text, pictures }: HouseZip): Uint8Array {
  const held: Record<string, Uint8Array> = {};
  for (const [hash, bytes] of [...pictures].sort(([a], [b]) => (a < b ? -1 : 1))) {
    const look = lookAtPicture(bytes);
    if (!('code' in look)) held[`pictures/${hash}.${ENDINGS[look.type]}`] = bytes;
  }
  const options = { mtime: ANY_TIME } as const;
  return zipSync({
    [HOUSE]: [new TextEncoder().encode(text), { level: 6, ...options }],
    ...Object.fromEntries(
      Object.entries(held).map(([name, bytes]) => [name, [bytes, { level: 0, ...options }]] as const),
    ),
  });
}

const problem = (code: string, message: string, path: string): HouseZipResult => ({
  ok: false,
  problems: [{ code, message, path }],
});

/**
 * Reads a house file with pictures. Files of it that are none of ours are left alone; nothing larger than its limit is unpacked.
 * Whether the bytes of a picture have the hash that it is called by is for the caller to prove. Codes: zip.broken,
 * zip.no-house, body.too-large, asset.* with the name of the file as path.
 */
export function readHouseZip(bytes: Uint8Array): HouseZipResult {
  let tooLarge: { readonly name: string; readonly most: number } | undefined;
  let total = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        const most = name === HOUSE ? LIMITS.fileBytes : PICTURE.test(name) ? LIMITS.assetBytes : undefined;
        if (most === undefined) return false;
        total += originalSize;
        if (originalSize <= most && total <= LIMITS.zipBytes) return true;
        tooLarge ??= { name, most };
        return false;
      },
    });
  } catch {
    return problem('zip.broken', 'This zip is broken or cut off: nothing of it was read.', '');
  }
  if (tooLarge)
    return problem(
      'body.too-large',
      `A file in this zip is too large: at most ${megabytes(tooLarge.most)} are taken here.`,
      tooLarge.name,
    );
  const house = files[HOUSE];
  if (!house) return problem('zip.no-house', `There is no ${HOUSE} in this zip: it is no house file.`, '');
  const pictures = new Map<string, Uint8Array>();
  for (const [name, own] of Object.entries(files)) {
    const [, hash] = PICTURE.exec(name) ?? [];
    if (hash === undefined) continue;
    const look = lookAtPicture(own);
    const why = 'code' in look ? look : tooMuchToKeep(own.length, look);
    if (why) return problem(why.code, why.message, name);
    pictures.set(hash, own);
  }
  return { ok: true, text: new TextDecoder().decode(house), pictures };
}
