import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { toSignal } from '@angular/core/rxjs-interop';
import type { HouseReader, Steps } from '@mule-tally/core';
import { editionName } from '@mule-tally/core';
import { houseTally, readyRoom, readyTallies, roomTally } from '@mule-tally/core/work';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { Store } from '@ngrx/store';
import { filter, map } from 'rxjs';
import { TallyMarks } from '../parts/tally-marks';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { HouseEvents } from '../state/document.events';
import { houseFeature } from '../state/document.feature';
import { OpenHouse } from '../state/open-house';
import { Crew } from '../state/crew';
import { Here } from '../state/here';
import { Identity } from '../state/identity';
import { Pictures } from '../state/pictures';
import { Rights } from '../state/rights';
import { Session } from '../state/session';
import { Waiting } from '../state/waiting';
import { Keeping } from '../state/keeping';
import { Version } from '../state/version';
import { Api } from '../sync/api';
import { Live } from '../sync/live';
import { DeviceStore } from '../sync/device-store';
import { inSlices } from '../state/slices';
import { Workbench } from '../work/workbench';
import { changeText } from '../parts/change-text';
import { Keys } from '../parts/keys';
import { Screen } from '../parts/screen';
import { PinSheet } from './pin-sheet';
import { STAGES } from '../parts/shortcuts';

/** How long the bar that takes the last change back is shown. */
const UNDO_SHOWN_MS = 10_000;

/** Two questions are always open: where am I (rooms, down the side), what am I doing (stages, across the top). */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-frame',
  imports: [ToldPipe, WordsPipe, RouterOutlet, RouterLink, RouterLinkActive, TallyMarks],
  templateUrl: './frame.html',
  styleUrl: './frame.scss',
  host: { '[class.panel-open]': '!!panel()' },
})
export class Frame {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly derived = inject(Derived);
  private readonly workbench = inject(Workbench);
  private readonly modal = inject(NgbModal);
  protected readonly house = inject(OpenHouse);
  protected readonly desk = inject(Desk);
  protected readonly crew = inject(Crew);
  protected readonly session = inject(Session);
  protected readonly device = inject(DeviceStore);

  readonly houseId = input.required<string>();
  readonly room = input<string>();

  protected readonly state = this.store.selectSignal(houseFeature.selectHouseState);
  protected readonly unsent = this.store.selectSignal(houseFeature.selectUnsent);
  protected readonly refused = this.store.selectSignal(houseFeature.selectRefused);
  protected readonly stages = STAGES;
  /** What of the header is open, on a phone. */
  protected readonly panel = signal<'rooms' | 'stages' | 'menu' | undefined>(undefined);
  protected readonly screen = inject(Screen);
  protected readonly identity = inject(Identity);
  protected readonly version = inject(Version);
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private readonly presence = inject(Here);
  private readonly rights = inject(Rights);
  /** The edition that a house is worked out by whose own rules are not here. */
  protected readonly worksBy = computed(() => editionName(this.house.view()!.head.rulebook.base));
  private readonly waiting = inject(Waiting);
  /** Pictures of the house are fetched, and sent, whatever sheet is shown. */
  protected readonly pictures = inject(Pictures);
  /** The open house at the last entry that has arrived: another one with each entry, and with nothing else. */
  private readonly written = computed(
    () => {
      const { documentId, phase, seq } = this.state();
      return { documentId: phase === 'ready' ? documentId : null, seq };
    },
    { equal: (a, b) => a.documentId === b.documentId && a.seq === b.seq },
  );
  /** How much waits for a lead to decide. */
  protected readonly toDecide = computed(() => this.waiting.of()?.changes.length ?? 0);
  /** Who else is in which room. */
  protected readonly others = this.presence.byRoom;
  /** By how many minutes this device's clock is off, from two on; asked with every answer of the server. */
  protected readonly clockOff = computed(() => {
    this.state();
    const minutes = Math.round(Math.abs(this.api.clockOffsetMs ?? 0) / 60_000);
    return minutes >= 2 ? minutes : undefined;
  });
  private readonly path = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map(({ urlAfterRedirects }) => urlAfterRedirects),
    ),
    { initialValue: this.router.url },
  );
  /** The stage that is shown, or the truck. */
  protected readonly doing = computed(() => {
    const [, , , stage = ''] = this.path().split(/[/?#]/);
    return STAGES.find(({ path }) => path === stage)?.name ?? $localize`Truck`;
  });
  /** What was changed here in the last ten seconds, to be taken back with one touch. */
  protected readonly justMade = signal<{ readonly text: string } | undefined>(undefined);

  protected readonly rooms = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    const stops = this.workbench.look()?.stopsInRoom;
    return [...reader.all('rooms')]
      .sort((a, b) => a.order - b.order)
      .map((room) => ({
        room,
        storey: reader.get('storeys', room.storeyId)?.name ?? '',
        tally: roomTally(reader, room.id),
        stops: stops?.[room.id] ?? 0,
      }));
  });
  protected readonly here = computed(() => this.rooms().find(({ room }) => room.id === this.room()));
  protected readonly total = computed(() => {
    const reader = this.derived.reader();
    return reader ? houseTally(reader) : { in: 0, runs: 0 };
  });

  /**
   * How far the house has been made ready to be shown, with pauses for the drawing: first its rooms, then, once they are drawn,
   * what the first sheet asks for.
   */
  protected readonly shows = signal<'nothing' | 'rooms' | 'sheet'>('nothing');

  /** The reader that something was derived with, until another version of the house is shown. */
  private async readied(reader: HouseReader, steps: Steps<void>): Promise<boolean> {
    const isLeft = (): boolean => this.derived.reader() !== reader;
    await inSlices(steps, isLeft);
    return !isLeft();
  }

  private async makeReady(reader: HouseReader): Promise<void> {
    if (this.shows() === 'nothing') {
      if (!(await this.readied(reader, readyTallies(reader)))) return;
      this.shows.set('rooms');
      return;
    }
    const here = this.here()?.room.id;
    // Where there is a room at all, it is gone to.
    if (!here && this.rooms().length) return;
    if (here && !(await this.readied(reader, readyRoom(reader, here)))) return;
    this.shows.set('sheet');
  }

  private go(stage: string): void {
    void this.router.navigate(['/house', this.houseId(), stage], { queryParamsHandling: 'merge' });
  }

  constructor() {
    inject(Keys).while({
      help: () => void this.help(),
      undo: () => this.desk.undo(),
      redo: () => this.desk.redo(),
      'next room': () => this.stepRoom(1),
      'previous room': () => this.stepRoom(-1),
      'lay-out': () => this.go('lay-out'),
      pull: () => this.go('pull'),
      walk: () => this.go('walk'),
      'make-up': () => this.go('make-up'),
      check: () => this.go('check'),
      truck: () => this.go('truck'),
    });
    effect(() => {
      const reader = this.derived.reader();
      if (!reader || this.shows() === 'sheet') return;
      // Asked for here so that this runs again once a room has been gone to; before the tallies it would cost them all.
      if (this.shows() === 'rooms') this.here();
      untracked(() => void this.makeReady(reader));
    });
    effect(() => {
      const houseId = this.houseId();
      untracked(() => {
        this.live.want(houseId);
        this.store.dispatch(HouseEvents.opened({ documentId: houseId }));
      });
    });
    // A sheet is about a room; where none is chosen it is the first one on the walk.
    effect(() => {
      if (this.shows() === 'nothing') return;
      const first = this.rooms()[0]?.room.id;
      if (first && !this.here()) untracked(() => void this.goTo(first, true));
    });
    // A house that was opened is there without a network too: the browser is asked to keep it.
    void inject(Keeping).ask();
    // What waits for a lead is said where they are, as often as something has been written.
    effect(() => {
      const { documentId } = this.written();
      if (!documentId || this.identity.standing() !== 'person' || !this.rights.isLead()) return;
      untracked(() => void this.waiting.look(documentId).catch(() => undefined));
    });
    effect(() => this.presence.is(this.houseId(), this.room() ?? null));
    effect((onCleanup) => {
      const made = this.desk.lastMade();
      this.justMade.set(made && { text: changeText(made.body, this.derived.words()?.say) });
      const timer = made && setTimeout(() => this.justMade.set(undefined), UNDO_SHOWN_MS);
      onCleanup(() => clearTimeout(timer));
    });
    inject(DestroyRef).onDestroy(() => {
      this.live.want(null);
      this.store.dispatch(HouseEvents.closed());
    });
  }

  protected toggle(panel: 'rooms' | 'stages' | 'menu'): void {
    this.panel.set(this.panel() === panel ? undefined : panel);
  }

  protected close(): void {
    this.panel.set(undefined);
  }

  protected takeBack(): void {
    this.justMade.set(undefined);
    this.desk.undo();
  }

  protected reopen(): void {
    this.store.dispatch(HouseEvents.opened({ documentId: this.houseId() }));
  }

  protected messageRead(): void {
    this.store.dispatch(HouseEvents.messageRead());
  }

  private goTo(roomId: string, replaceUrl = false): Promise<boolean> {
    return this.router.navigate([], {
      // Where no room was asked for, what was asked for stays.
      queryParams: { room: roomId, ...(!replaceUrl && { box: null, circuit: null }) },
      queryParamsHandling: 'merge',
      replaceUrl,
    });
  }

  private stepRoom(by: 1 | -1): void {
    const rooms = this.rooms();
    const at = rooms.findIndex(({ room }) => room.id === this.room());
    const next = rooms[at + by];
    if (next) void this.goTo(next.room.id);
  }

  protected async help(): Promise<void> {
    const { ShortcutSheet } = await import('./shortcut-sheet');
    this.modal.open(ShortcutSheet, { scrollable: true, ariaLabelledBy: 'keys' });
  }

  /** Somebody else of those who share this device takes their turn, with their PIN. */
  protected async takeTurn(event: Event): Promise<void> {
    const field = event.target as HTMLSelectElement;
    const { value } = field;
    const before = this.session.who().id;
    const opened = this.modal.open(PinSheet, { centered: true, ariaLabelledBy: 'pin' });
    (opened.componentInstance as PinSheet).personId.set(value);
    const isTheirs = (await opened.result.catch(() => false)) === true;
    if (isTheirs) this.crew.be(value);
    else field.value = before;
  }

  protected async pickWho(event: Event): Promise<void> {
    const { value } = event.target as HTMLSelectElement;
    if (value !== '+') this.crew.be(value);
    else {
      await this.router.navigate(['/house', this.houseId(), 'truck'], {
        queryParamsHandling: 'merge',
        fragment: 'crew',
      });
    }
  }
}
