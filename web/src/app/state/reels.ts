import { Injectable, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { RecordIn, ReelUsageLine, TABLES } from '@mule-tally/core';
import { reelUsageOf } from '@mule-tally/core';
import type { LeftForUs, ReelStand, UsageIn } from '@mule-tally/core/work';
import { reelStand } from '@mule-tally/core/work';
import { debounceTime, filter } from 'rxjs';
import { Api } from '../sync/api';
import { DeviceStore } from '../sync/device-store';
import { Live } from '../sync/live';
import { CREW_BOOK } from '../sync/outbox';
import { Derived } from './derived';
import { OpenCrew } from './open-crew';
import { OpenHouse } from './open-house';

type Reel = RecordIn<typeof TABLES, 'reels'>;

/** A reel, what is left on it after all houses, and what does not fit together in what was logged off it. */
export interface KnownReel extends ReelStand {
  readonly reel: Reel;
  readonly isInStock: boolean;
  /** What each house took, in inches. */
  readonly uses: readonly UsageIn[];
}

/** After others wrote, it is asked anew what came off the reels: not at every touch of theirs. Milliseconds. */
const SETTLED = 1500;

/**
 * The reels of the crew after what all its houses took off them: of the open house as it stands here, unsent pulls among it; of the others
 * as the server told last, or as this device kept it.
 */
@Injectable({ providedIn: 'root' })
export class Reels {
  private readonly api = inject(Api);
  private readonly device = inject(DeviceStore);
  private readonly derived = inject(Derived);
  private readonly book = inject(OpenCrew);
  private readonly open = inject(OpenHouse);
  private readonly told = signal<readonly ReelUsageLine[]>([]);
  private isWanted = false;

  constructor() {
    inject(Live)
      .hints.pipe(
        filter((hints) => this.isWanted && hints.some(({ documentId }) => this.isOther(documentId))),
        debounceTime(SETTLED),
        takeUntilDestroyed(),
      )
      .subscribe(() => void this.ask());
  }

  private isOther(documentId: string): boolean {
    return documentId !== CREW_BOOK && documentId !== this.open.view()?.head.id;
  }

  /** For a sheet that shows reels: what is kept at once, what the server says as soon as it does. */
  want(): void {
    if (!this.isWanted)
      void this.device.reelUsage().then((kept) => this.told().length === 0 && this.told.set(kept));
    this.isWanted = true;
    void this.ask();
  }

  private async ask(): Promise<void> {
    try {
      const lines = await this.api.reelUsage();
      this.told.set(lines);
      await this.device.keepReelUsage(lines);
    } catch {
      // Without a network it stays as it was told last; a guest is told nothing.
    }
  }

  readonly all = computed((): readonly KnownReel[] => {
    const reader = this.derived.reader();
    const known = new Map<string, { reel: Reel; isInStock: boolean; uses: UsageIn[] }>();
    for (const reel of this.book.records('stock')) known.set(reel.id, { reel, isInStock: true, uses: [] });
    const use = (reel: Reel, used: UsageIn): void => {
      const own = known.get(reel.id) ?? { reel, isInStock: false, uses: [] };
      own.uses.push(used);
      known.set(reel.id, own);
    };
    if (reader)
      for (const reel of reader.all('reels')) {
        const usage = reelUsageOf(
          reader.mentioning('pulls', reel.id).filter(({ reelId }) => reelId === reel.id),
        );
        if (usage.pulls) use(reel, { houseId: reader.houseId, usage });
      }
    for (const { houseId, reel, usage } of this.told())
      if (houseId !== reader?.houseId) use(reel, { houseId, usage });
    return [...known.values()].map((own) => ({ ...own, ...reelStand(own.reel.lengthIn, own.uses) }));
  });
  readonly byId = computed(() => new Map(this.all().map((known) => [known.reel.id, known])));
  /** What was left on each before this house took from it. */
  readonly before = computed((): LeftForUs => {
    const own = this.derived.reader()?.houseId;
    return new Map(
      this.all().map(({ reel, uses }) => [
        reel.id,
        reelStand(
          reel.lengthIn,
          uses.filter(({ houseId }) => houseId !== own),
        ).leftIn,
      ]),
    );
  });
  private readonly houseNames = computed(() => {
    const head = this.open.view()?.head;
    return new Map([
      ...this.told().map(({ houseId, houseName }) => [houseId, houseName] as const),
      ...(head ? [[head.id, head.name] as const] : []),
    ]);
  });

  houseName(houseId: string): string {
    return this.houseNames().get(houseId) ?? '';
  }
}
