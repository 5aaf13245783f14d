import { Injectable, computed, inject, signal } from '@angular/core';
import { FaultsFound } from '@mule-tally/core';
import * as z from 'zod';
import { Api } from '../sync/api';
import { OpenHouse } from './open-house';

const KEPT = 'mule-tally.faults-found';

/** What is kept of it on this device; nothing where it cannot be read. */
function kept(): readonly FaultsFound[] {
  try {
    return z.array(FaultsFound).parse(JSON.parse(localStorage.getItem(KEPT) ?? '[]'));
  } catch {
    return [];
  }
}

/** Which faults the crew has found in its other houses: what a search begins with. Without a network, as it was told last. */
@Injectable({ providedIn: 'root' })
export class FoundFaults {
  private readonly api = inject(Api);
  private readonly house = inject(OpenHouse).view;
  private readonly told = signal(kept());

  /** How often each kind, in houses other than the one that is open. */
  readonly elsewhere = computed((): [string, number][] => {
    const counts = new Map<string, number>();
    for (const { houseId, fault, count } of this.told())
      if (houseId !== this.house()?.head.id) counts.set(fault, (counts.get(fault) ?? 0) + count);
    return [...counts].sort(([a], [b]) => (a < b ? -1 : 1));
  });

  /** Asks the server; a guest, and whoever has no network, goes by what is kept. */
  async want(): Promise<void> {
    try {
      const lines = await this.api.faultsFound();
      this.told.set(lines);
      localStorage.setItem(KEPT, JSON.stringify(lines));
    } catch {
      // As it was told last.
    }
  }
}
