import { Injectable, inject } from '@angular/core';
import type { Photo } from '@mule-tally/core';
import { LIMITS, adding } from '@mule-tally/core';
import { NoPicture, shrunk, shrunkPicture } from './shrink-picture';
import { Desk } from '../state/desk';
import { Pictures } from '../state/pictures';
import { Session } from '../state/session';

/** What a photo is of. */
export type PhotoOf = Pick<
  Photo,
  'roomId' | 'corner' | 'ceiling' | 'boxId' | 'runId' | 'writeUpId' | 'extraId' | 'boarded' | 'tape'
>;

const LARGE = { longestPx: 1800, mostBytes: LIMITS.photoBytes } as const;
const SMALL = { longestPx: 260, mostBytes: LIMITS.thumbBytes } as const;

/** Takes photos into the house: made small from their points, so that neither place nor time of taking goes along, then kept here and sent. */
@Injectable({ providedIn: 'root' })
export class PhotoTaking {
  private readonly desk = inject(Desk);
  private readonly pictures = inject(Pictures);
  private readonly session = inject(Session);

  /** Why it was not taken, in a sentence; nothing where it was. */
  async take(from: Blob | ImageBitmap, of: PhotoOf): Promise<string | undefined> {
    try {
      const large =
        from instanceof ImageBitmap ? await shrunk(from, from, LARGE) : await shrunkPicture(from, LARGE);
      const small = await shrunkPicture(new Blob([large.bytes], { type: large.type }), SMALL);
      const asset = await this.pictures.keep(large.bytes, large.type, 'photo');
      const thumb = await this.pictures.keep(small.bytes, small.type, 'thumb');
      return this.desk.make(
        adding('photos', {
          id: crypto.randomUUID(),
          asset,
          thumb,
          widthPx: large.widthPx,
          heightPx: large.heightPx,
          at: new Date().toISOString(),
          by: this.session.who().id,
          ...of,
        }),
      )?.message;
    } catch (error) {
      if (error instanceof NoPicture) return error.message;
      throw error;
    } finally {
      if (from instanceof ImageBitmap) from.close();
    }
  }
}
