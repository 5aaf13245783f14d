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

/** Groups with the first so many of what they list, in all. */
export function firstOf<K extends string, G extends Readonly<Record<K, readonly unknown[]>>>(
  groups: readonly G[],
  list: K,
  count: number,
): G[] {
  let left = count;
  return groups.flatMap((group) => {
    const own = group[list].slice(0, Math.max(0, left));
    left -= own.length;
    return own.length ? [{ ...group, [list]: own }] : [];
  });
}
