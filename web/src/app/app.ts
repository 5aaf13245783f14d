import { ChangeDetectionStrategy, Component, effect, inject, untracked } from '@angular/core';
import { Router, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { CrewEvents } from './state/document.events';
import { Identity } from './state/identity';
import { Live } from './sync/live';
import { CREW_BOOK } from './sync/outbox';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-app',
  imports: [RouterOutlet],
  template: '<router-outlet />',
})
export class App {
  private readonly store = inject(Store);
  private isOpen = false;
  private readonly live = inject(Live);

  constructor() {
    const identity = inject(Identity);
    const router = inject(Router);
    // Who this device is may have changed since it last asked; without an answer, what is known stands.
    void identity.refresh().finally(() => {
      if (identity.standing() !== 'nobody') this.openBook();
    });
    effect(() => {
      const standing = identity.standing();
      if (standing === undefined) return;
      if (standing !== 'nobody') return untracked(() => this.openBook());
      // Taken out, or signed out in another tab: what was entered is kept.
      const isAtDoor = /^\/(sign-in|join|set-up)/.test(location.pathname);
      if (!isAtDoor) untracked(() => void router.navigateByUrl('/sign-in'));
    });
  }

  /** What belongs to the crew is wanted on every screen. */
  private openBook(): void {
    if (this.isOpen) return;
    this.isOpen = true;
    this.live.start();
    this.store.dispatch(CrewEvents.opened({ documentId: CREW_BOOK }));
  }
}
