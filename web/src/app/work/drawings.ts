import { DestroyRef, Injectable, inject } from '@angular/core';
import type { DrawingUnit, RoomsAsked, RoomsOffered } from '@mule-tally/core/drawing';

/** What is in a drawing, before anything is made of it. */
export interface DrawingLook {
  /** What its header says. */
  readonly unit?: DrawingUnit;
  readonly likelyUnit: DrawingUnit;
  readonly likelyLayers: readonly string[];
  readonly layers: readonly { readonly name: string; readonly closed: number; readonly lines: number }[];
  readonly notUnderstood: readonly { readonly kind: string; readonly count: number }[];
}
export type DrawingAsked =
  { readonly kind: 'read'; readonly text: string } | { readonly kind: 'rooms'; readonly rooms: RoomsAsked };
export type DrawingAnswer =
  | { readonly kind: 'read'; readonly look: DrawingLook }
  | { readonly kind: 'rooms'; readonly offered: RoomsOffered }
  | { readonly kind: 'refused'; readonly code: string; readonly message: string };

/** A drawing could not be read; the message says why. */
export class DrawingRefused extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/** Reads drawings beside the screen, one at a time. Provided where it is used: it ends with the sheet. */
@Injectable()
export class Drawings {
  private worker: Worker | undefined;
  private asks = 0;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker?.terminate());
  }

  /** What is in a drawing. Throws `DrawingRefused`. */
  async read(text: string): Promise<DrawingLook> {
    const answer = await this.ask({ kind: 'read', text });
    if (answer.kind !== 'read') throw new Error('another answer than was asked for');
    return answer.look;
  }
  /** The rooms in the drawing that was read last. */
  async rooms(rooms: RoomsAsked): Promise<RoomsOffered> {
    const answer = await this.ask({ kind: 'rooms', rooms });
    if (answer.kind !== 'rooms') throw new Error('another answer than was asked for');
    return answer.offered;
  }

  private ask(asked: DrawingAsked): Promise<DrawingAnswer> {
    const worker = (this.worker ??= new Worker(new URL('./drawing.worker', import.meta.url), {
      type: 'module',
    }));
    const ask = ++this.asks;
    return new Promise((resolve, reject) => {
      const heard = ({ data }: MessageEvent<{ ask: number; answer: DrawingAnswer }>): void => {
        if (data.ask !== ask) return;
        worker.removeEventListener('message', heard);
        if (data.answer.kind === 'refused') reject(new DrawingRefused(data.answer.code, data.answer.message));
        else resolve(data.answer);
      };
      worker.addEventListener('message', heard);
      worker.addEventListener(
        'error',
        (event) => {
          this.worker = undefined;
          reject(
            new DrawingRefused(
              'dxf.broken',
              event.message || $localize`This drawing could not be read on this device.`,
            ),
          );
        },
        { once: true },
      );
      worker.postMessage({ ask, asked });
    });
  }
}
