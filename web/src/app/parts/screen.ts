import { DestroyRef, Injectable, inject, signal } from '@angular/core';

/** A width up to which the sheet is held in one hand. */
const PHONE = '(max-width: 760px)';

/** What the product is held in: a phone shows the next thing to do, a wider screen all of it. */
@Injectable({ providedIn: 'root' })
export class Screen {
  private readonly media = matchMedia(PHONE);
  readonly isPhone = signal(this.media.matches);

  constructor() {
    this.media.addEventListener('change', ({ matches }) => this.isPhone.set(matches));
  }
}

/** Keeps the screen awake while a component is shown, where the browser can: hands are full. Called where a component is made. */
export function staysAwake(): void {
  let lock: WakeLockSentinel | undefined;
  let isShown = true;
  const ask = (): void => {
    if (!isShown || document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
    navigator.wakeLock
      .request('screen')
      .then((own) => {
        lock = own;
        if (!isShown) void own.release();
      })
      // A battery that saves itself refuses: then the screen goes dark as it always has.
      .catch(() => undefined);
  };
  ask();
  document.addEventListener('visibilitychange', ask);
  inject(DestroyRef).onDestroy(() => {
    isShown = false;
    document.removeEventListener('visibilitychange', ask);
    void lock?.release();
  });
}
