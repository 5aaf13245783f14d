import { Injectable, inject, signal } from '@angular/core';
import type { HouseSummary } from '@mule-tally/core';
import { assetsInFile } from '@mule-tally/core';
import { Api, ServerAway } from '../sync/api';
import { DeviceStore } from '../sync/device-store';
import { Pictures } from './pictures';

/** Houses that are fetched ahead: those that were changed last. */
const AHEAD = 10;
/** How long the rest of the app may take to be fetched, and how often it is looked. Milliseconds. */
const PATIENCE = 60_000;
const LOOK_EVERY = 500;

/** Whether this device can do without a network from now on; where not, why. */
export type Ready =
  | { readonly kind: 'getting'; readonly what: 'app' | 'houses' }
  | { readonly kind: 'ready'; readonly houses: number }
  | { readonly kind: 'not'; readonly why: readonly string[] };

/**
 * Gets a device ready for a day with no signal: the whole app, and the houses that the crew works on, are fetched and kept while
 * there is a network, so that a house need not have been opened before the basement.
 */
@Injectable({ providedIn: 'root' })
export class Readiness {
  private readonly api = inject(Api);
  private readonly device = inject(DeviceStore);
  private readonly pictures = inject(Pictures);
  private readonly now = signal<Ready | undefined>(undefined);
  private going: Promise<void> | undefined;

  readonly ready = this.now.asReadonly();

  /** Fetches what is missing, and says how it went. One at a time. */
  get(houses: readonly HouseSummary[]): Promise<void> {
    this.going ??= this.got(houses).finally(() => (this.going = undefined));
    return this.going;
  }

  private async got(houses: readonly HouseSummary[]): Promise<void> {
    const why: string[] = [];
    this.now.set({ kind: 'getting', what: 'houses' });
    const missed = await this.fetchHouses(houses.slice(0, AHEAD));
    if (missed.length)
      why.push($localize`The server went away before these houses were fetched: ${missed.join(', ')}.`);
    if (this.device.isFailing())
      why.push($localize`This device keeps nothing: it is full, or the window is a private one.`);
    if (!(isSecureContext && 'serviceWorker' in navigator))
      why.push(
        $localize`This browser does not keep the app from this address: take in the certificate of the site first, then open the address that begins with https.`,
      );
    else {
      this.now.set({ kind: 'getting', what: 'app' });
      if (!(await appIsKept()))
        why.push(
          $localize`The app has not been fetched whole: open this page once more while there is a network.`,
        );
    }
    this.now.set(
      why.length ? { kind: 'not', why } : { kind: 'ready', houses: Math.min(houses.length, AHEAD) },
    );
  }

  /** Gives the names of those that could not be fetched. */
  private async fetchHouses(houses: readonly HouseSummary[]): Promise<string[]> {
    const missed: string[] = [];
    for (const { id, name, seq } of houses) {
      try {
        const kept = await this.device.seqOf(id);
        if (kept !== undefined && kept >= seq) continue;
        const { text, file, seq: read } = await this.api.document(id);
        // Its pictures first: a house that is kept is kept with them.
        for (const sha256 of assetsInFile(file)) await this.pictures.bytesOf(sha256);
        await this.device.keepDocument({ id, name, text, seq: read });
      } catch (error) {
        if (!(error instanceof ServerAway)) throw error;
        missed.push(name);
      }
    }
    return missed;
  }
}

/** Whether the service worker has the whole app, waiting for it for a while. */
async function appIsKept(): Promise<boolean> {
  for (const end = Date.now() + PATIENCE; Date.now() < end;) {
    if (await isWhole().catch(() => false)) return true;
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY));
  }
  return false;
}

async function isWhole(): Promise<boolean> {
  const worker = await navigator.serviceWorker.getRegistration();
  if (!worker?.active) return false;
  const list = (await (await fetch('/ngsw.json')).json()) as {
    assetGroups: { installMode: string; urls: string[] }[];
  };
  // What reads PDFs is fetched when somebody has one.
  const wanted = list.assetGroups
    .filter(({ installMode }) => installMode === 'prefetch')
    .flatMap(({ urls }) => urls);
  const there = await Promise.all(wanted.map((url) => caches.match(url)));
  return there.every(Boolean);
}
