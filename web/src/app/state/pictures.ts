import type { Signal, WritableSignal } from '@angular/core';
import { Injectable, computed, effect, inject, signal } from '@angular/core';
import type { AssetType, AssetUse } from '@mule-tally/core';
import { assetsOf, lookAtPicture, sameJson } from '@mule-tally/core';
import { Subject, exhaustMap, fromEvent, merge, startWith } from 'rxjs';
import { Api, ServerAway } from '../sync/api';
import { AssetLane } from '../sync/asset-lane';
import type { ShelvedAsset } from '../sync/asset-shelf';
import { AssetShelf } from '../sync/asset-shelf';
import { OpenHouse } from './open-house';

/** A picture as a screen can show it. `on-its-way`: the server has not got it yet. `away`: nor is there a server to ask. */
export type Shown =
  { readonly is: 'coming' | 'on-its-way' | 'away' } | { readonly is: 'here'; readonly url: string };

/** How long until it is asked again for what was not there, and sent again what did not go out. Milliseconds. */
const AGAIN = 8000;

const COMING: Shown = { is: 'coming' };

export async function sha256Of(bytes: ArrayBuffer): Promise<string> {
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return [...hash].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Pictures of the crew: kept on this device first, sent in a lane of their own, fetched once for the house that is open. */
@Injectable({ providedIn: 'root' })
export class Pictures {
  private readonly api = inject(Api);
  private readonly shelf = inject(AssetShelf);
  private readonly lane = new AssetLane(this.shelf, this.api);
  private readonly house = inject(OpenHouse);
  private readonly shown = new Map<string, WritableSignal<Shown>>();
  private readonly due = new Subject<void>();
  private readonly held = signal<readonly ShelvedAsset[]>([]);
  readonly isFailing = this.shelf.isFailing;

  /** What has not been sent of pictures; those that the server refused among them. */
  readonly waiting = this.held.asReadonly();

  private readonly named = computed(
    (): readonly string[] => {
      const house = this.house.view();
      return house ? [...assetsOf(house)].sort() : [];
    },
    { equal: sameJson },
  );

  constructor() {
    merge(this.due, fromEvent(window, 'online'))
      .pipe(
        startWith(undefined),
        exhaustMap(() => this.send()),
      )
      .subscribe();
    // What the open house names is fetched before anybody asks, so that it is there where there is no network.
    effect(() => {
      for (const sha256 of this.named()) this.of(sha256);
    });
  }

  /** Keeps a picture on this device and sends it when there is a server. Gives its hash, by which records name it. */
  async keep(bytes: ArrayBuffer, type: AssetType, use: AssetUse = 'sheet'): Promise<string> {
    const sha256 = await sha256Of(bytes);
    await this.shelf.keep({ sha256, type, bytes, use, waits: 'to-send' });
    this.show(sha256, { is: 'here', url: URL.createObjectURL(new Blob([bytes], { type })) });
    await this.look();
    this.due.next();
    return sha256;
  }

  /** A picture by its hash, as it comes. */
  of(sha256: string): Signal<Shown> {
    const known = this.shown.get(sha256);
    if (known) return known;
    const made = signal<Shown>(COMING);
    this.shown.set(sha256, made);
    void this.fetch(sha256);
    return made;
  }

  /** Its bytes, from this device or the server; undefined where neither has it now. */
  async bytesOf(sha256: string): Promise<ArrayBuffer | undefined> {
    const own = await this.shelf.get(sha256);
    if (own) return own.bytes;
    const bytes = await this.api.asset(sha256);
    // What came is what was asked for, or it is thrown away.
    if (!bytes || (await sha256Of(bytes)) !== sha256) return undefined;
    const look = lookAtPicture(new Uint8Array(bytes));
    if ('code' in look) return undefined;
    await this.shelf.keep({ sha256, type: look.type, bytes });
    return bytes;
  }

  async sendAgain(sha256: string): Promise<void> {
    await this.shelf.refuse(sha256, undefined);
    await this.look();
    this.due.next();
  }
  async throwAway(sha256: string): Promise<void> {
    await this.shelf.drop(sha256);
    this.show(sha256, { is: 'on-its-way' });
    await this.look();
  }

  private show(sha256: string, shown: Shown): void {
    const own = this.shown.get(sha256);
    if (!own) return void this.shown.set(sha256, signal(shown));
    const now = own();
    if (now.is === 'here') URL.revokeObjectURL(now.url);
    own.set(shown);
  }

  private async fetch(sha256: string): Promise<void> {
    const found = await this.bytesOf(sha256).catch((error: unknown) =>
      error instanceof ServerAway ? 'away' : undefined,
    );
    if (found instanceof ArrayBuffer) {
      const look = lookAtPicture(new Uint8Array(found));
      const type = 'code' in look ? '' : look.type;
      return this.show(sha256, { is: 'here', url: URL.createObjectURL(new Blob([found], { type })) });
    }
    if (this.shown.get(sha256)?.().is !== 'here') this.show(sha256, { is: found ?? 'on-its-way' });
    // Asked again for as long as the open house shows it.
    setTimeout(() => {
      if (this.named().includes(sha256) && this.shown.get(sha256)?.().is !== 'here') void this.fetch(sha256);
      else if (this.shown.get(sha256)?.().is !== 'here') this.shown.delete(sha256);
    }, AGAIN);
  }

  private async send(): Promise<void> {
    // What goes wrong on its way is tried again with what is away.
    const ended = await this.lane.run().catch(() => 'away' as const);
    await this.look();
    if (ended === 'away' || this.held().some(({ refusal }) => !refusal))
      setTimeout(() => this.due.next(), AGAIN);
  }
  private async look(): Promise<void> {
    this.held.set(await this.shelf.waiting());
  }
}
