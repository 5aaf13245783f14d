import { DestroyRef, effect, inject } from '@angular/core';
import type { RulebookBase } from '@mule-tally/core';
import { Derived } from './derived';

/** As long as a page without a house of its own is there it speaks by this edition: its words, its cables, its units. */
export function speaksBy(base: () => RulebookBase): void {
  const derived = inject(Derived);
  effect(() => derived.speaksBy.set(base()));
  inject(DestroyRef).onDestroy(() => derived.speaksBy.set(undefined));
}
