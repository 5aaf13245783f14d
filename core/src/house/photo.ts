import * as z from 'zod';
import { CornerId } from './corner.js';
import { AssetId } from './underlay.js';
import { Id, Inches, Note } from '../vocabulary/text.js';

/** A share of the width or height of a picture, from its upper left corner. */
const Share = z.number().min(0).max(1);

/** The outline of a box in a picture. */
export const PhotoMark = z.strictObject({ boxId: Id, x: Share, y: Share, width: Share, height: Share });
export type PhotoMark = z.infer<typeof PhotoMark>;

/** Two places in a picture between which somebody has read a tape. */
export const TapeLine = z.strictObject({ x1: Share, y1: Share, x2: Share, y2: Share, inches: Inches });
export type TapeLine = z.infer<typeof TapeLine>;

/**
 * A picture that a crew took of a wall, a ceiling, a box or a run, before it was closed or after. Its bytes are known by their
 * hash and may still be on their way; so is the small one that lists show.
 */
export const Photo = z.strictObject({
  id: Id,
  asset: AssetId,
  thumb: AssetId,
  widthPx: z.int().min(1).max(100_000),
  heightPx: z.int().min(1).max(100_000),
  at: z.iso.datetime({ offset: true }),
  /** The person who took it; names stand in the crew's list. */
  by: Id,
  roomId: Id.optional(),
  /** The wall of that room: the corner at which it begins; of a room that is not drawn, by its number on the way round. */
  corner: CornerId.optional(),
  /** It shows the ceiling of that room. */
  ceiling: z.boolean().optional(),
  boxId: Id.optional(),
  runId: Id.optional(),
  /** It shows what an inspector wrote up, or the yes to an extra. */
  writeUpId: Id.optional(),
  extraId: Id.optional(),
  /** Taken after the board was hung; without it, of the open wall. */
  boarded: z.boolean().optional(),
  /** A tape lies in the picture. */
  tape: z.boolean().optional(),
  marks: z.array(PhotoMark).max(100).optional(),
  lines: z.array(TapeLine).max(20).optional(),
  note: Note.optional(),
});
export type Photo = z.infer<typeof Photo>;
