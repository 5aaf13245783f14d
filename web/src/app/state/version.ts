import { DestroyRef, Injectable, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { SwUpdate } from '@angular/service-worker';
import { Store } from '@ngrx/store';
import { Api } from '../sync/api';
import { hasAnyDraft } from '../sync/draft-store';
import { crewFeature, houseFeature } from './document.feature';

/** How often it is asked whether there is a newer version. Milliseconds. */
const ASK_EVERY = 30 * 60_000;

/**
 * Whether there is a newer version of the product than this page. It is announced, and taken at a quiet moment: when the page
 * is left alone with nothing half entered, or when a person says so. What is unsent is kept either way.
 */
@Injectable({ providedIn: 'root' })
export class Version {
  private readonly updates = inject(SwUpdate, { optional: true });
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly fetched = signal(false);
  private readonly house = this.store.selectSignal(houseFeature.selectHouseState);
  private readonly crew = this.store.selectSignal(crewFeature.selectCrewState);

  /** The server speaks a newer version than this page understands: nothing goes out before the page is loaded anew. */
  readonly isTooOld = this.api.isTooOld.asReadonly();
  readonly isNew = computed(() => this.fetched() || this.isTooOld());
  /** What this page was built as. */
  readonly name = /main-(\w+)\.js/.exec(
    document.querySelector<HTMLScriptElement>('script[src*="main"]')?.src ?? '',
  )?.[1];

  constructor() {
    const { updates } = this;
    if (!updates?.isEnabled) return;
    updates.versionUpdates.pipe(takeUntilDestroyed()).subscribe(({ type }) => {
      if (type === 'VERSION_READY') this.fetched.set(true);
    });
    // What the worker keeps is broken: the page as the server has it.
    updates.unrecoverable.pipe(takeUntilDestroyed()).subscribe(() => location.reload());
    const ask = (): void => void updates.checkForUpdate().catch(() => undefined);
    const timer = setInterval(ask, ASK_EVERY);
    const look = (): void => {
      if (document.visibilityState === 'hidden' && this.isNew() && this.isQuiet()) void this.take();
      else if (document.visibilityState === 'visible') ask();
    };
    document.addEventListener('visibilitychange', look);
    inject(DestroyRef).onDestroy(() => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', look);
    });
  }

  /** Nothing is half entered, and nobody stands in a field. */
  private isQuiet(): boolean {
    const at = document.activeElement;
    const isInField = at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement;
    const isOpen = document.querySelector('.panel-form form, ngb-modal-window') !== null;
    const isLoading = [this.house(), this.crew()].some(({ phase }) => phase === 'loading');
    return !isInField && !isOpen && !isLoading && !hasAnyDraft();
  }

  /** Loads the page anew as the newest version. */
  async take(): Promise<void> {
    await this.updates?.activateUpdate().catch(() => false);
    location.reload();
  }
}
