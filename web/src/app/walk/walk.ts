import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { Router } from '@angular/router';
import type { CircuitWalk, WalkScope } from '@mule-tally/core/work';
import { adding, boxName, roomName, roomOf, standingPull } from '@mule-tally/core';
import {
  POWER_WALKED,
  boxWalk,
  circuitWalk,
  roleOf,
  seenNotLogged,
  walkTally,
  walksOf,
} from '@mule-tally/core/work';
import { FindingCard } from '../parts/finding-card';
import { OnPlan } from '../parts/on-plan';
import { Screen, staysAwake } from '../parts/screen';
import { soon } from '../parts/soon';
import { TallyMarks } from '../parts/tally-marks';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Rights } from '../state/rights';
import { Session } from '../state/session';
import { answerTo } from '../work/answer';
import { BoxCount } from './box-count';
import { countText } from './count-text';

/** What a circuit is called by on the walk, by where it stands. */
const STANDS: Readonly<Record<CircuitWalk['state'], string>> = {
  open: $localize`not walked to the end`,
  walked: $localize`walked: sign it off`,
  signed: $localize`signed off`,
  again: $localize`changed since it was signed off`,
};

/** The walk of a house: box by box in a sensible way, what was found, and circuits signed off. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-walk',
  imports: [DatePipe, BoxCount, FindingCard, OnPlan, TallyMarks, Value, WordsPipe],
  templateUrl: './walk.html',
  styleUrl: './walk.scss',
})
export class WalkSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  protected readonly crew = inject(Crew);
  protected readonly rights = inject(Rights);
  protected readonly screen = inject(Screen);
  readonly room = input<string>();
  readonly circuit = input<string>();
  readonly box = input<string>();
  protected readonly stands = STANDS;
  protected readonly isDrawn = soon();
  /** Boxes that were put off, in the order in which they were. */
  private readonly put = signal<readonly string[]>([]);

  protected readonly isThere = computed(() => this.derived.reader() !== undefined);
  protected readonly circuits = computed(() =>
    [...(this.derived.reader()?.all('circuits') ?? [])].sort((a, b) => a.number - b.number),
  );
  /** Only power is walked: as long as the log has no leg in, where it has anything in at all. */
  protected readonly powerOnly = linkedSignal<string | undefined, boolean>({
    source: () => this.circuit(),
    computation: (circuitId) => {
      const reader = this.derived.reader();
      if (!reader) return false;
      const logged = reader
        .all('runs')
        .filter(
          ({ id, circuitIds }) =>
            (!circuitId || circuitIds.includes(circuitId)) && standingPull(reader, id)?.state === 'in',
        );
      return logged.length > 0 && logged.every((run) => roleOf(reader, run) === 'power');
    },
  });
  protected readonly scope = computed((): WalkScope => {
    const [reader, circuitId] = [this.derived.reader(), this.circuit()];
    return {
      powerOnly: this.powerOnly(),
      ...(circuitId && reader?.get('circuits', circuitId) && { circuitId }),
    };
  });
  /** The boxes that are walked through, in their order. */
  protected readonly walks = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return walksOf(reader, this.scope());
  });
  protected readonly tally = computed(() => walkTally(this.walks()));

  /** The box to look into: the one that was asked for, else the next that is not counted, from the room one stands in. */
  protected readonly current = computed((): string | undefined => {
    const walks = this.walks();
    const asked = this.box();
    if (asked && walks.some(({ boxId }) => boxId === asked)) return asked;
    return this.nextFrom(walks.findIndex(({ boxId }) => this.roomOf(boxId) === this.room()));
  });

  /** The next box on the way that is to be counted; those put off come last. */
  private nextFrom(at: number): string | undefined {
    const walks = this.walks();
    const put = this.put();
    const from = Math.max(0, at);
    const open = [...walks.slice(from), ...walks.slice(0, from)].filter(
      ({ state }) => state === 'open' || state === 'again',
    );
    const left =
      open.find(({ boxId }) => !put.includes(boxId)) ??
      [...open].sort((a, b) => put.indexOf(a.boxId) - put.indexOf(b.boxId))[0];
    return left?.boxId;
  }
  private roomOf(boxId: string): string | undefined {
    const reader = this.derived.reader();
    return reader && roomOf(reader, boxId)?.id;
  }
  protected placeOf(boxId: string): number {
    return this.walks().findIndex((walk) => walk.boxId === boxId) + 1;
  }

  protected readonly roomHere = computed(() => {
    const current = this.current();
    return (current && this.roomOf(current)) ?? this.room();
  });
  protected readonly markedHere = computed(() => {
    const current = this.current();
    return current ? [current] : [];
  });
  protected readonly runsHere = computed(() => {
    const [reader, current] = [this.derived.reader(), this.current()];
    return reader && current ? boxWalk(reader, current, this.scope()).runs.map(({ runId }) => runId) : [];
  });

  protected readonly lines = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    const glossary = this.derived.glossary();
    return this.walks().map(({ boxId, state, expected, last }) => ({
      boxId,
      state,
      tag: boxName(reader, boxId),
      room: roomName(reader, boxId),
      expected: countText(expected, glossary),
      seen: state === 'wrong' && last ? countText(last.counted.seen, glossary) : undefined,
    }));
  });

  private readonly answer = answerTo(() => ({ about: 'walk' as const }));
  protected readonly found = computed(() => this.answer.value() ?? []);

  /** Runs that were seen at both ends and are in no log; whether a nameplate is waited for matters no more. */
  protected readonly unlogged = computed(() => {
    const reader = this.derived.reader();
    return reader && this.isDrawn() ? seenNotLogged(reader) : [];
  });
  protected readonly unloggedText = computed(() => {
    const say = this.derived.words()?.say;
    const phrases = this.derived.phrases();
    const ids = this.unlogged();
    const names = ids.slice(0, 5).map((id) => say?.run(id) ?? '');
    return ids.length > 5 ? phrases.some(names, ids.length - 5) : phrases.and(names);
  });

  protected readonly signOffs = computed(() => {
    const [reader, say] = [this.derived.reader(), this.derived.words()?.say];
    if (!reader || !say) return [];
    return this.circuits()
      .filter(({ id }) => !this.circuit() || id === this.circuit())
      .map(({ id, number }) => {
        const walk = circuitWalk(reader, id, this.powerOnly());
        return { id, number, name: say.circuit(id), walk, mayBeSigned: walk.state === 'walked' };
      })
      .filter(({ walk }) => walk.tally.of > 0);
  });

  constructor() {
    staysAwake();
  }

  protected tagOf(boxId: string): string {
    const reader = this.derived.reader();
    return reader ? boxName(reader, boxId) : '';
  }
  protected tagsOf(boxIds: readonly string[]): string {
    return this.derived.words()?.say.boxes(boxIds) ?? '';
  }

  protected byCircuit(id: string): void {
    void this.router.navigate([], {
      queryParams: { circuit: id || null, box: null },
      queryParamsHandling: 'merge',
    });
  }

  /** To a box, and to the room that it is in. */
  protected go(boxId: string | undefined): void {
    void this.router.navigate([], {
      queryParams: { box: boxId ?? null, ...(boxId && { room: this.roomOf(boxId) }) },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
    if (boxId) scrollTo({ top: 0 });
  }

  protected next(boxId: string): void {
    this.put.update((put) => put.filter((one) => one !== boxId));
    this.go(this.nextFrom(this.placeOf(boxId)));
  }

  protected later(boxId: string): void {
    this.put.update((put) => [...put.filter((one) => one !== boxId), boxId]);
    this.go(this.nextFrom(this.placeOf(boxId)));
  }

  protected signOff(circuitId: string): void {
    this.desk.make(
      adding('records', {
        id: crypto.randomUUID(),
        kind: 'walk',
        at: new Date().toISOString(),
        by: this.session.who().id,
        circuitId,
        result: 'pass',
        ...(this.powerOnly() && { step: POWER_WALKED }),
      }),
    );
  }

  /** What was seen at both its ends is in: logged as planned, in one group. */
  protected logSeen(): void {
    const reader = this.derived.reader();
    if (!reader) return;
    const at = new Date().toISOString();
    const by = this.session.who().id;
    const runs = this.unlogged().map((id) => reader.get('runs', id)!);
    this.desk.make({
      kind: 'group',
      title: $localize`Seen on the walk: ${runs.length} runs are in`,
      changes: runs
        .filter(({ kind, plannedCable }) => kind !== 'cable' || plannedCable)
        .map((run) =>
          adding('pulls', {
            id: crypto.randomUUID(),
            runId: run.id,
            at,
            by,
            state: 'in' as const,
            ...(run.kind === 'cable' && { cable: run.plannedCable! }),
          }),
        ),
    });
  }
}
