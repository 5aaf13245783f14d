import { DestroyRef, Injectable, inject } from '@angular/core';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { tinykeys } from 'tinykeys';
import type { Shortcut } from './shortcuts';
import { SHORTCUTS, isTyping } from './shortcuts';

/** What a shortcut does, by its command. */
type Does = Partial<Record<Shortcut['does'], () => void>>;

/** The one listener of the keyboard. What is shown says what its keys do, for as long as it is shown. */
@Injectable({ providedIn: 'root' })
export class Keys {
  private readonly modal = inject(NgbModal);
  private readonly shown: Does[] = [];

  constructor() {
    tinykeys(
      window,
      Object.fromEntries(
        SHORTCUTS.flatMap(({ press, does }) =>
          press.map((key) => [key, (event: KeyboardEvent) => this.pressed(event, does)]),
        ),
      ),
    );
    window.addEventListener('keydown', ({ key }) => {
      // Before a sheet has taken the focus it does not hear the key itself.
      if (key === 'Escape' && this.modal.hasOpenModals()) this.modal.dismissAll();
    });
  }

  /** Called where a component is made. */
  while(does: Does): void {
    this.shown.unshift(does);
    inject(DestroyRef).onDestroy(() => this.shown.splice(this.shown.indexOf(does), 1));
  }

  private pressed(event: KeyboardEvent, command: Shortcut['does']): void {
    if (event.altKey || isTyping(event.target) || this.modal.hasOpenModals()) return;
    const own = this.shown.find((does) => does[command]);
    if (!own) return;
    event.preventDefault();
    own[command]!();
  }
}
