import type { Signal } from '@angular/core';
import { DestroyRef, afterNextRender, inject, signal } from '@angular/core';

/**
 * False until what a component shows first has been drawn: what lies further down waits for that, so that a sheet stands there
 * at once on a slow phone too. Called where a component is made.
 */
export function soon(): Signal<boolean> {
  const isDrawn = signal(false);
  const destroyed = inject(DestroyRef);
  afterNextRender(() =>
    requestAnimationFrame(() =>
      setTimeout(() => {
        if (!destroyed.destroyed) isDrawn.set(true);
      }),
    ),
  );
  return isDrawn.asReadonly();
}
