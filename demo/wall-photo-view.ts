/** Walls of the demo of which there are stand-in photos, and where a place of such a wall lies in its picture. */
import type { HouseReader } from '../core/src/derive/reader.js';
import { boxFacts } from '../core/src/facts/box-facts.js';
import type { PhotoWall } from '../core/src/closing/wall-photos.js';
import { photoWalls } from '../core/src/closing/wall-photos.js';
import type { TapePlace } from '../core/src/closing/after-board.js';
import { tapeOf } from '../core/src/closing/after-board.js';

export const PHOTO = { widthPx: 1280, heightPx: 960 } as const;
const PHOTOS = 3;
/** Inches round the wall that the picture shows. */
const ROUND_IN = 10;

export interface SeenBox {
  readonly id: string;
  readonly tag: string;
  readonly gangs: number;
  readonly tape: TapePlace;
}
export interface SeenWall {
  readonly wall: PhotoWall;
  readonly highIn: number;
  readonly boxes: readonly SeenBox[];
  readonly name: string;
  /** Points of the picture to an inch. */
  readonly scale: number;
  /** From the right corner and over the floor to points across and down. */
  readonly point: (fromRightIn: number, upIn: number) => readonly [number, number];
}

/** The walls with the most boxes on them, one of a room. */
export function photographedWalls(reader: HouseReader): SeenWall[] {
  const seen = reader.all('rooms').flatMap(({ id, storeyId }) => {
    const highIn = reader.get('storeys', storeyId)?.ceilingIn ?? 96;
    const walls = photoWalls(reader, id).map((wall) => ({
      wall,
      boxes: wall.boxIds.flatMap((boxId): SeenBox[] => {
        const tape = tapeOf(reader, boxId);
        const box = reader.get('boxes', boxId)!;
        return tape ? [{ id: boxId, tag: box.tag, gangs: boxFacts(reader, box).gangs, tape }] : [];
      }),
    }));
    const best = walls.sort((a, b) => b.boxes.length - a.boxes.length)[0];
    const lengthIn = best?.wall.lengthIn;
    if (!best || lengthIn === undefined || best.boxes.length < 2) return [];
    const scale = Math.min(
      PHOTO.widthPx / (lengthIn + 2 * ROUND_IN),
      PHOTO.heightPx / (highIn + 2 * ROUND_IN),
    );
    const left = (PHOTO.widthPx - lengthIn * scale) / 2;
    const floor = PHOTO.heightPx - (PHOTO.heightPx - highIn * scale) / 2;
    const point = (fromRightIn: number, upIn: number): readonly [number, number] => [
      left + (lengthIn - fromRightIn) * scale,
      floor - upIn * scale,
    ];
    return [{ ...best, highIn, scale, point, name: `wall-${best.wall.number ?? 0}` }];
  });
  return seen
    .sort((a, b) => b.boxes.length - a.boxes.length)
    .slice(0, PHOTOS)
    .map((one, at) => ({ ...one, name: `photo-${at + 1}` }));
}

export const pictureOf = (name: string, size: 'large' | 'small'): URL =>
  new URL(`./pictures/${name}-${size}.jpg`, import.meta.url);
