import { Injectable, signal } from '@angular/core';

/** What this device keeps, and whether it may throw it away by itself. */
@Injectable({ providedIn: 'root' })
export class Keeping {
  /** Whether the browser has promised to keep it; undefined where it does not say. */
  readonly isPromised = signal<boolean | undefined>(undefined);
  /** Bytes that are used, and that there are. */
  readonly bytes = signal<{ readonly used: number; readonly most: number } | undefined>(undefined);

  /** Asks for the promise, once there is something to keep. */
  async ask(): Promise<void> {
    const { storage } = navigator as { storage?: StorageManager };
    if (!storage?.persist) return;
    this.isPromised.set((await storage.persisted()) || (await storage.persist()));
    const { usage, quota } = await storage.estimate();
    if (usage !== undefined && quota !== undefined) this.bytes.set({ used: usage, most: quota });
  }
}
