import { Injectable, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { Actor } from '@mule-tally/core';
import { Me } from '@mule-tally/core';
import { Api, ServerAway } from '../sync/api';
import { worksFor } from '../sync/own-database';
import { SignInApi } from '../sync/sign-in-api';
import { Session } from './session';

const NAME = 'mule-tally.me';
const kept = (): Me | undefined => {
  try {
    return Me.parse(JSON.parse(localStorage.getItem(NAME) ?? ''));
  } catch {
    return undefined;
  }
};

/**
 * Who this device is to the server, as it last said: a device without a network goes by that, for as long as it takes. Nobody is
 * ever locked out by being away.
 */
@Injectable({ providedIn: 'root' })
export class Identity {
  private readonly api = inject(SignInApi);
  private readonly session = inject(Session);
  private readonly known = signal<Me | undefined>(kept());

  readonly me = this.known.asReadonly();
  readonly standing = computed(() => this.known()?.standing);
  /** On whose rights changes are judged here; nobody's before a crew is set up, when everybody may do everything. */
  readonly actor = computed((): Actor | undefined => {
    const me = this.known();
    const who = this.session.who();
    if (me?.standing === 'viewer') return { id: who.id, role: 'viewer' };
    if (me?.standing !== 'person') return undefined;
    const role = who.role ?? (who.id === me.person?.id ? me.role : undefined);
    return { id: who.id, role, roleIn: who.roleIn };
  });
  /** Whether whoever works here may do what is a lead's. */
  readonly isLead = computed(() => (this.actor()?.role ?? (this.actor() ? 'hand' : 'lead')) === 'lead');

  constructor() {
    inject(Api)
      .signedOut.pipe(takeUntilDestroyed())
      .subscribe(() => this.set({ standing: 'nobody' }));
    this.follow();
  }

  /**
   * Asks the server; what it said before stands where it cannot be asked. Somebody who has just come in works here now, whoever
   * had the turn before.
   */
  async refresh({ cameIn = false } = {}): Promise<Me | undefined> {
    try {
      this.set(await this.api.me());
      const { person, role } = this.known()!;
      if (cameIn && person) this.session.who.set({ ...person, ...(role && { role }) });
    } catch (error) {
      if (!(error instanceof ServerAway)) throw error;
    }
    return this.known();
  }

  private set(me: Me): void {
    localStorage.setItem(NAME, JSON.stringify(me));
    if (me.crew) worksFor(me.crew.id);
    this.known.set(me);
    this.follow();
  }

  /** Whoever is signed in works here; on a shared device, whoever of them took their turn last. */
  private follow(): void {
    const me = this.known();
    if (me?.deviceId) this.session.deviceIs(me.deviceId);
    const { person, speakers } = me ?? {};
    if (!person) return;
    const who = this.session.who();
    const isTurn = who.id === person.id || speakers?.some(({ id }) => id === who.id);
    if (!isTurn) this.session.who.set({ ...person, ...(me?.role && { role: me.role }) });
  }

  async signOut(): Promise<void> {
    await this.api.signOut();
    this.set({ standing: 'nobody' });
  }
}
