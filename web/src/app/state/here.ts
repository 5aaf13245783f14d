import { DestroyRef, Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { LiveHere } from '@mule-tally/core';
import { Api } from '../sync/api';
import { Live } from '../sync/live';
import { Crew } from './crew';
import { Identity } from './identity';
import { Session } from './session';

/** How often it is said again where somebody is, and when it is no longer believed. Milliseconds. */
const SAY_EVERY = 30_000;
const BELIEVED = 75_000;

/** "Odile Brun" is OB. */
const initialsOf = (name: string): string =>
  name
    .split(/[\s-]+/)
    .map((word) => word[0]?.toUpperCase() ?? '')
    .join('')
    .slice(0, 2);

/** Who is in which room of the open house, as far as there is a network: told to others quietly, kept nowhere. */
@Injectable({ providedIn: 'root' })
export class Here {
  private readonly api = inject(Api);
  private readonly crew = inject(Crew);
  private readonly session = inject(Session);
  private readonly identity = inject(Identity);
  private readonly seen = signal<ReadonlyMap<string, LiveHere & { readonly at: number }>>(new Map());
  private readonly own = signal<{ readonly houseId: string; readonly roomId: string | null } | undefined>(
    undefined,
  );

  /** By room of the open house: names and initials of the others who are there. */
  readonly byRoom = computed(() => {
    const rooms: Record<string, { readonly id: string; readonly name: string; readonly initials: string }[]> =
      {};
    for (const { houseId, roomId, personId } of this.seen().values()) {
      if (!roomId || houseId !== this.own()?.houseId || personId === this.session.who().id) continue;
      const name = this.crew.nameOf(personId);
      (rooms[roomId] ??= []).push({ id: personId, name, initials: initialsOf(name) });
    }
    return rooms;
  });

  constructor() {
    inject(Live)
      .here.pipe(takeUntilDestroyed())
      .subscribe((here) =>
        this.seen.update((seen) => new Map(seen).set(here.personId, { ...here, at: Date.now() })),
      );
    effect(() => {
      const own = this.own();
      untracked(() => own && void this.say(own));
    });
    const timer = setInterval(() => {
      const old = Date.now() - BELIEVED;
      if ([...this.seen().values()].some(({ at }) => at < old))
        this.seen.update((seen) => new Map([...seen].filter(([, { at }]) => at >= old)));
      const own = this.own();
      if (own && document.visibilityState === 'visible') void this.say(own);
    }, SAY_EVERY);
    inject(DestroyRef).onDestroy(() => clearInterval(timer));
  }

  /** Where whoever works here is: said when it changes. */
  is(houseId: string, roomId: string | null): void {
    const own = this.own();
    if (own?.houseId !== houseId || own.roomId !== roomId) this.own.set({ houseId, roomId });
  }

  private async say({ houseId, roomId }: { houseId: string; roomId: string | null }): Promise<void> {
    if (this.identity.standing() === 'person') await this.api.here(houseId, roomId).catch(() => undefined);
  }
}
