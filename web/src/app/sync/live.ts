import { Injectable, signal } from '@angular/core';
import { LIVE, LiveHere, LiveNumbers, LiveWritten } from '@mule-tally/core';
import { Subject } from 'rxjs';
import { CREW_BOOK } from './outbox';

/** That something was written: the document, and the number of the entry. */
export interface Hint {
  readonly documentId: string;
  readonly seq: number;
}

/** What tabs of this browser say to each other about the stream that one of them has. */
type Said =
  | { readonly kind: 'hints'; readonly hints: readonly Hint[] }
  | { readonly kind: 'here'; readonly here: LiveHere }
  | { readonly kind: 'connected'; readonly isConnected: boolean }
  | { readonly kind: 'wanted'; readonly tab: string; readonly houseId: string | null }
  | { readonly kind: 'who' };

/** How long after the last word of the server it is taken to be gone, in ms. */
const SILENCE = LIVE.heartbeatMs * 2 + 5000;

/**
 * What the server tells of as it is written: one stream for all tabs of this browser, had by the tab that holds the lock.
 * Everything here is a hint: whoever hears one fetches the journal by their own number.
 */
@Injectable({ providedIn: 'root' })
export class Live {
  readonly hints = new Subject<readonly Hint[]>();
  readonly here = new Subject<LiveHere>();
  /** Whether the server tells at all; without, it is asked now and then. */
  readonly isConnected = signal(false);

  /** Whether it is to be looked now and then all the same: something is unsent, or the server was away. */
  mustLook: () => boolean = () => false;

  private readonly tab = crypto.randomUUID();
  private readonly tabs = new BroadcastChannel('mule-tally-live');
  /** Which house each tab has open. */
  private readonly wanted = new Map<string, string | null>();
  private source: EventSource | undefined;
  private isLeading = false;
  private isStarted = false;
  private silence: ReturnType<typeof setTimeout> | undefined;
  private houseId: string | null = null;

  /** Begins to listen, once somebody is known to the server. */
  start(): void {
    if (this.isStarted || !('locks' in navigator)) return;
    this.isStarted = true;
    this.tabs.addEventListener('message', ({ data }: MessageEvent<Said>) => this.heard(data));
    // Held for as long as this tab is there; another takes over then.
    void navigator.locks.request('mule-tally-live', () => {
      this.isLeading = true;
      this.tabs.postMessage({ kind: 'who' } satisfies Said);
      this.connect();
      return new Promise<void>(() => undefined);
    });
    addEventListener('online', () => this.isLeading && this.connect());
    addEventListener('pagehide', () =>
      this.tabs.postMessage({ kind: 'wanted', tab: this.tab, houseId: null } satisfies Said),
    );
  }

  /** The house that this tab has open. */
  want(houseId: string | null): void {
    this.houseId = houseId;
    this.say({ kind: 'wanted', tab: this.tab, houseId });
  }

  /** Says it to the other tabs, and to this one. */
  private say(said: Said): void {
    this.tabs.postMessage(said);
    this.heard(said);
  }

  private heard(said: Said): void {
    if (said.kind === 'hints') this.hints.next(said.hints);
    else if (said.kind === 'here') this.here.next(said.here);
    else if (said.kind === 'connected') this.isConnected.set(said.isConnected);
    else if (said.kind === 'who')
      this.tabs.postMessage({ kind: 'wanted', tab: this.tab, houseId: this.houseId } satisfies Said);
    else if (this.isLeading) {
      const before = this.houses();
      if (said.houseId) this.wanted.set(said.tab, said.houseId);
      else this.wanted.delete(said.tab);
      // A house more is one whose number is to be told; one less costs nothing.
      if (this.houses().some((id) => !before.includes(id))) this.connect();
      else this.tabs.postMessage({ kind: 'connected', isConnected: this.isConnected() } satisfies Said);
    }
  }

  private houses(): string[] {
    return [...new Set([...this.wanted.values()].flatMap((id) => id ?? []))].sort();
  }

  private connect(): void {
    if (!this.isLeading) return;
    if (this.houseId) this.wanted.set(this.tab, this.houseId);
    this.source?.close();
    const query = new URLSearchParams({ houses: this.houses().join(',') });
    const source = new EventSource(`/api/live?ngsw-bypass&${query}`);
    this.source = source;
    const on = (event: string, told: (data: unknown) => void): void =>
      source.addEventListener(event, ({ data }: MessageEvent<string>) => {
        this.alive();
        told(JSON.parse(data));
      });
    on('numbers', (data) => {
      const numbers = LiveNumbers.safeParse(data).data;
      if (!numbers) return;
      if (!this.isConnected()) this.say({ kind: 'connected', isConnected: true });
      const hints = Object.entries(numbers.houses).map(([documentId, seq]) => ({ documentId, seq }));
      this.say({ kind: 'hints', hints: [{ documentId: CREW_BOOK, seq: numbers.crew }, ...hints] });
    });
    on('written', (data) => {
      const written = LiveWritten.safeParse(data).data;
      if (written)
        this.say({ kind: 'hints', hints: [{ documentId: written.houseId ?? CREW_BOOK, seq: written.seq }] });
    });
    on('here', (data) => {
      const here = LiveHere.safeParse(data).data;
      if (here) this.say({ kind: 'here', here });
    });
    source.addEventListener('error', () => {
      if (this.source === source) this.lost(source);
    });
  }

  private alive(): void {
    clearTimeout(this.silence);
    this.silence = setTimeout(() => this.connect(), SILENCE);
  }

  /** The browser tries again by itself where it can; where the server refused, not until a while later. */
  private lost(source: EventSource): void {
    if (this.isConnected()) this.say({ kind: 'connected', isConnected: false });
    if (source.readyState !== EventSource.CLOSED) return;
    clearTimeout(this.silence);
    this.silence = setTimeout(() => this.connect(), 5000);
  }
}
