import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { PercentPipe } from '@angular/common';
import { Router, RouterLink } from '@angular/router';
import type { FaultPlace, Report, Seen } from '@mule-tally/core';
import { adding, boxesOf, removing, roomOf } from '@mule-tally/core';
import type { Step, Suspect, Suspicion } from '@mule-tally/core/work';
import {
  FAULT_PRIORS,
  netlistOf,
  ringState,
  roundState,
  sentence,
  stepKey,
  wireCircuit,
} from '@mule-tally/core/work';
import { Caution } from '../parts/caution';
import { OnlyFor } from '../parts/only-for';
import { Screen, staysAwake } from '../parts/screen';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { FoundFaults } from '../state/faults-found';
import { Session } from '../state/session';
import { answerTo } from '../work/answer';
import type { CircuitGroup } from './circuit-groups';
import { circuitGroups } from './circuit-groups';
import { CircuitPicture } from './circuit-picture';
import { FaultText, SEEN_WORDS } from './fault-text';
import { MeterReport } from './meter-report';
import { PowerOnCare } from './power-on-care';
import { ProveDead } from './prove-dead';
import { drawSwitching } from './switching-drawing';

const ALL_SEEN: readonly Seen[] = ['off', 'on', 'odd', 'trips'];
/** So many suspects stand on the card; all others under it. */
const FIRST = 2;
/** So many answers are large, the likelier ones; all others stand below. */
const BIG = 3;
/** From this share of all causes on one stands out. */
const LIKELY = 0.15;

/**
 * Finding a wrong wire from what a circuit does: one question at a time, the one that tells most for the least effort; suspects with what
 * speaks for and against them; whatever else somebody saw; and, once it is found, what to test again.
 */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-find-sheet',
  imports: [
    Caution,
    CircuitPicture,
    MeterReport,
    OnlyFor,
    PercentPipe,
    PowerOnCare,
    ProveDead,
    RouterLink,
    ToldPipe,
    Value,
    WordsPipe,
  ],
  templateUrl: './find-sheet.html',
  styleUrls: ['./test-sheet.scss', './find-sheet.scss'],
})
export class FindSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly crewFound = inject(FoundFaults);
  private readonly router = inject(Router);
  protected readonly crew = inject(Crew);
  protected readonly screen = inject(Screen);
  readonly circuit = input<string>();
  protected readonly problem = signal<string | undefined>(undefined);

  constructor() {
    staysAwake();
    void this.crewFound.want();
  }

  /** The circuit of which something was told last, if it was not found since. */
  private readonly begun = computed(() => {
    const told = (this.derived.reader()?.all('records') ?? [])
      .filter(({ kind }) => kind === 'seen' || kind === 'found')
      .toSorted((a, b) => Date.parse(a.at) - Date.parse(b.at))
      .at(-1);
    return told?.kind === 'seen' ? told.circuitId : undefined;
  });
  protected readonly circuits = computed(() => {
    const [reader, say] = [this.derived.reader(), this.derived.words()?.say];
    return reader && say ? circuitGroups(reader, say, this.derived.phrases()) : [];
  });
  /** The circuit that was asked for, else the one that was shown, else one whose search was begun, else the first. */
  protected readonly current = linkedSignal<
    { readonly all: readonly CircuitGroup[]; readonly asked: string | undefined },
    CircuitGroup | undefined
  >({
    source: () => ({ all: this.circuits(), asked: this.circuit() }),
    computation: ({ all, asked }, before) =>
      all.find(({ ids }) => ids.includes(asked ?? '')) ??
      all.find(({ id }) => id === before?.value?.id) ??
      all.find(({ id }) => id === untracked(this.begun)) ??
      all[0],
  });
  private readonly currentId = computed(() => this.current()?.id);
  /** Steps that nobody here knows an answer to. */
  private readonly skipped = linkedSignal<string | undefined, readonly string[]>({
    source: this.currentId,
    computation: () => [],
  });
  /** Read by whoever has told something of this circuit. */
  protected readonly isCautionRead = linkedSignal<string | undefined, boolean>({
    source: this.currentId,
    computation: (id) =>
      id !== undefined &&
      (this.derived.reader()?.mentioning('records', id) ?? []).some(
        ({ kind, by }) => kind === 'seen' && by === this.session.who().id,
      ),
  });
  private readonly asked = answerTo<'search'>(() => {
    const circuitId = this.current()?.id;
    return circuitId
      ? { about: 'search', circuitId, skipped: [...this.skipped()], elsewhere: this.crewFound.elsewhere() }
      : undefined;
  });
  /** As long as it is about the circuit that is shown. */
  protected readonly search = computed(() => {
    const found = this.asked.value();
    return found?.circuitIds.includes(this.current()?.id ?? '') ? found : undefined;
  });
  protected readonly isNow = this.asked.isNow;
  protected readonly text = computed(() => {
    const [reader, say] = [this.derived.reader(), this.derived.words()?.say];
    return reader && say ? new FaultText(reader, say, this.derived.phrases()) : undefined;
  });

  // What to do next.
  protected readonly step = computed(() => this.search()?.next);
  protected readonly seeStep = computed(() => {
    const [step, search, text] = [this.step(), this.search(), this.text()];
    if (step?.kind !== 'see' || !search || !text) return undefined;
    // Before anything was told, every switch is set.
    const isFirst = !search.reports.some(({ evidence }) => 'up' in evidence);
    const thrown = search.levers.flatMap((pointId) => {
      const up = step.up.includes(pointId);
      return isFirst || up !== search.up.includes(pointId) ? [{ pointId, up }] : [];
    });
    const isPlain = isFirst && !step.up.length;
    return {
      todo: !search.levers.length
        ? ''
        : isPlain
          ? $localize`All switches of the circuit down.`
          : thrown.length
            ? $localize`Set ${text.levers(thrown)}.`
            : $localize`Leave the switches as they are.`,
      ask: $localize`What does this do\: ${text.light(step.pointId)}?`,
      answers: step.answers.slice(0, BIG).map((seen) => ({ seen, words: SEEN_WORDS[seen] })),
      others: ALL_SEEN.filter((seen) => !step.answers.slice(0, BIG).includes(seen)).map((seen) => ({
        seen,
        words: SEEN_WORDS[seen],
      })),
    };
  });
  protected readonly lookStep = computed(() => {
    const [step, text] = [this.step(), this.text()];
    if (step?.kind !== 'look' || !text) return undefined;
    const where = text.place(step.place);
    const term = (word: 'panel' | 'breaker'): string => this.derived.glossary()[word];
    const todo: Record<FaultPlace['kind'], string> = {
      breaker: $localize`Look at ${where}. Turn it fully off, then on.`,
      panel: $localize`Open ${where}\: the ${term('panel')}. Look where this circuit lands.`,
      box: $localize`Turn its ${term('breaker')} off and prove it dead. Open ${where}.`,
      device: $localize`Try another one in its place\: ${where}.`,
      wall: $localize`Dead, with both its ends loose\: ring ${where} from end to end, and wire against wire.`,
    };
    return {
      todo: todo[step.place.kind],
      place: step.place,
      causes: this.causesAt(step.place),
      boxes: this.handsIn(step.place),
    };
  });
  protected readonly partStep = computed(() => {
    const [step, say] = [this.step(), this.derived.words()?.say];
    if (step?.kind !== 'part' || !say) return undefined;
    const cable = say.cableAt(step.runId, step.boxId);
    const { breaker } = this.derived.glossary();
    return {
      todo: $localize`In ${say.box(step.boxId)}, which is open\: ${breaker} off, take ${cable} loose, nothing touching, then ${breaker} on.`,
    };
  });
  protected readonly meterStep = computed(() => {
    const [step, say, text] = [this.step(), this.derived.words()?.say, this.text()];
    if (step?.kind !== 'meter' || !say || !text) return undefined;
    const thrown = (this.search()?.levers ?? []).filter((id) => step.up.includes(id));
    const up = text.levers(thrown.map((pointId) => ({ pointId, up: true })));
    const { breaker } = this.derived.glossary();
    return {
      todo: up
        ? $localize`In ${say.box(step.boxId)}, which is open\: nothing touching, ${up}, then ${breaker} on. Only the leads go in.`
        : $localize`In ${say.box(step.boxId)}, which is open\: nothing touching, all switches down, then ${breaker} on. Only the leads go in.`,
      ask: $localize`What does a meter show between ${text.ends(step.ends)}?`,
    };
  });
  protected tellVolts(reads: 'full' | 'none' | 'between'): void {
    const step = this.step();
    if (step?.kind === 'meter') this.tell({ kind: 'volts', ends: [...step.ends], up: [...step.up], reads });
  }
  /** What may be wrong at a place, the likeliest first, each kind once. */
  private causesAt(place: FaultPlace): { readonly words: string; readonly suspicion: Suspicion }[] {
    const text = this.text();
    const kinds = new Set<string>();
    return (this.search()?.suspects ?? [])
      .filter((one) => one.place.kind === place.kind && one.place.id === place.id)
      .flatMap(({ suspicions }) => suspicions)
      .flatMap((suspicion) => {
        if (kinds.has(suspicion.kind) || !text) return [];
        kinds.add(suspicion.kind);
        return [{ suspicion, words: sentence(text.suspicion(suspicion)) }];
      });
  }

  /** Somebody says that it is there: which of the causes it was is asked next. */
  protected readonly foundAt = linkedSignal<unknown, FaultPlace | undefined>({
    source: () => this.search()?.reports.length,
    computation: () => undefined,
  });
  protected readonly whichCause = computed(() => {
    const place = this.foundAt();
    return place && { place, causes: this.causesAt(place) };
  });

  protected readonly suspects = computed(() => {
    const [search, text] = [this.search(), this.text()];
    if (!search || !text) return [];
    return search.suspects.map((suspect) => ({
      suspect,
      key: `${suspect.place.kind} ${suspect.place.id} ${suspect.suspicions[0]!.kind}`,
      where: sentence(text.place(suspect.place)),
      what: this.kinds(suspect).map((one) => sentence(text.suspicion(one))),
      against: suspect.against.map((at) => this.told()[at]!.words),
      boxId: suspect.place.kind === 'box' ? suspect.place.id : undefined,
    }));
  });
  /** Of what nothing tells apart, each kind once. */
  private kinds({ suspicions }: Suspect): Suspicion[] {
    const seen = new Set<string>();
    return suspicions.filter(({ kind }) => !seen.has(kind) && seen.add(kind)).slice(0, 3);
  }
  protected readonly first = computed(() => this.suspects().slice(0, FIRST));
  protected readonly rest = computed(() => this.suspects().slice(FIRST));
  protected readonly pairs = computed(() => {
    const [search, text] = [this.search(), this.text()];
    if (!search?.pairs || !text) return undefined;
    // A pair that says no more than a single fault does is none.
    const least = search.suspects[0]?.against.length ?? Infinity;
    return search.pairs
      .filter(({ against }) => against.length < least)
      .slice(0, 3)
      .map(({ both }) => both.map((one) => `${text.place(one.place)}: ${text.suspicion(one)}`));
  });
  protected readonly told = computed(() => {
    const [search, text] = [this.search(), this.text()];
    if (!search || !text) return [];
    return search.reports.map(({ record, evidence }) => ({
      record,
      by: this.crew.nameOf(record.by),
      words: sentence(
        this.derived.inTrade(
          evidence.kind === 'ring'
            ? evidence.isGood
              ? $localize`ringing out at ${text.place({ kind: 'box', id: evidence.step.boxId })} was good`
              : $localize`ringing out at ${text.place({ kind: 'box', id: evidence.step.boxId })} was no good`
            : evidence.kind === 'trim'
              ? evidence.isGood
                ? $localize`the trim test was good with ${text.levers(evidence.up.map((pointId) => ({ pointId, up: true }))) || $localize`all switches down`}`
                : $localize`the trim test was no good with ${text.levers(evidence.up.map((pointId) => ({ pointId, up: true }))) || $localize`all switches down`}`
              : text.report(evidence),
        ),
      ),
    }));
  });
  protected readonly clash = computed(() => {
    const [clash, told] = [this.search()?.clash, this.told()];
    const [one, other] = [told[clash?.[0] ?? -1], told[clash?.[1] ?? -1]];
    return one && other ? { one, other } : undefined;
  });

  // The picture: switches as they are asked for, or as somebody set them.
  protected readonly up = linkedSignal<readonly string[], ReadonlySet<string>>({
    source: () => {
      const step = this.step();
      return step && 'up' in step ? step.up : (this.search()?.up ?? []);
    },
    computation: (up) => new Set(up),
  });
  protected throwLever(pointId: string): void {
    const next = new Set(this.up());
    if (!next.delete(pointId)) next.add(pointId);
    this.up.set(next);
  }
  protected readonly askedPoint = computed(() => {
    const step = this.step();
    return step?.kind === 'see' ? step.pointId : undefined;
  });
  protected readonly drawing = computed(() => {
    const [reader, say, id] = [this.derived.reader(), this.derived.words()?.say, this.current()?.id];
    if (!reader || !say || !id) return undefined;
    return drawSwitching(reader, say, wireCircuit(reader, id), netlistOf(reader, id), undefined);
  });
  /** What is so likely that it stands out in the picture. */
  private readonly likely = computed(() =>
    this.last() ? [] : this.first().filter(({ suspect: { share } }) => share >= LIKELY),
  );
  protected readonly marked = computed(
    () => new Set(this.likely().flatMap(({ suspect: { place } }) => this.boxesOf(place))),
  );
  protected readonly lookAt = computed(
    () =>
      new Set(
        this.likely().flatMap(({ suspect: { suspicions } }) =>
          suspicions.slice(0, 1).flatMap(({ conductor: c }) => (c ? [`${c.runId} ${c.key}`] : [])),
        ),
      ),
  );
  private boxesOf({ kind, id }: FaultPlace): string[] {
    if (kind === 'device') return [this.derived.reader()?.get('devices', id)?.boxId ?? ''];
    return kind === 'box' || kind === 'panel' ? [id] : [];
  }

  /** Boxes that hands go into for a look at a place; a breaker is looked at, a lamp screwed out. */
  private handsIn(place: FaultPlace): string[] {
    const run = place.kind === 'wall' ? this.derived.reader()?.get('runs', place.id) : undefined;
    return run ? [...boxesOf(run)] : place.kind === 'device' ? [] : this.boxesOf(place);
  }

  // Something else that was seen.
  protected readonly lights = computed(() => {
    const [search, text] = [this.search(), this.text()];
    return (search?.loads ?? []).map((id) => ({ id, name: text?.light(id) ?? '' }));
  });
  protected readonly lightId = linkedSignal<string | undefined, string>({
    source: this.currentId,
    computation: () => '',
  });
  protected readonly chosenLight = computed(() => this.lightId() || this.lights()[0]?.id || '');
  protected readonly otherId = linkedSignal<string | undefined, string>({
    source: this.currentId,
    computation: () => '',
  });
  protected readonly seenWords = ALL_SEEN.map((seen) => ({ seen, words: SEEN_WORDS[seen] }));

  protected answer(seen: Seen): void {
    const step = this.step();
    if (step?.kind === 'see') this.tell({ kind: 'seen', up: [...step.up], pointId: step.pointId, seen });
  }
  protected tellSeen(seen: Seen): void {
    const known = new Set(this.search()?.levers);
    const up = [...this.up()].filter((id) => known.has(id));
    this.tell({ kind: 'seen', up, pointId: this.chosenLight(), seen });
  }
  protected tellHabit(does: 'always' | 'never' | 'trips'): void {
    this.tell({ kind: 'habit', pointId: this.chosenLight(), does });
  }
  protected tellWith(): void {
    if (this.otherId()) this.tell({ kind: 'with', pointId: this.chosenLight(), other: this.otherId() });
  }
  protected tellParted(trips: boolean): void {
    const step = this.step();
    if (step?.kind !== 'part') return;
    const { boxId, runId, up } = step;
    this.tell({ kind: 'parted', boxId, runId, up: [...up], trips });
  }
  protected notThere(place: FaultPlace): void {
    this.tell({ kind: 'looked', place: { kind: place.kind, id: place.id }, isThere: false });
  }
  protected skip(step: Step): void {
    this.skipped.update((all) => [...all, stepKey(step)]);
  }
  protected tell(report: Report): void {
    const circuitId = this.current()?.id;
    if (!circuitId) return;
    this.problem.set(
      this.desk.make(adding('records', { ...this.record(circuitId), kind: 'seen', report }))?.message,
    );
    this.isCautionRead.set(true);
  }
  private record(circuitId: string) {
    return { id: crypto.randomUUID(), at: new Date().toISOString(), by: this.session.who().id, circuitId };
  }
  /** It is found: what it was is kept, and moves what is looked for first the next time. */
  protected found(place: FaultPlace, suspicion?: Suspicion): void {
    const circuitId = this.current()?.id;
    if (!circuitId) return;
    const own = { kind: place.kind, id: place.id };
    const boxId = this.boxesOf(place)[0];
    this.problem.set(
      this.desk.make(
        adding('records', {
          ...this.record(circuitId),
          kind: 'found',
          ...(boxId && { boxId }),
          ...(place.kind === 'wall' && { runId: place.id }),
          cause: {
            fault: suspicion?.kind ?? 'something else',
            place: own,
            ...(suspicion?.conductor && {
              conductor: { runId: suspicion.conductor.runId, key: suspicion.conductor.key },
            }),
          },
        }),
      )?.message,
    );
  }
  protected takeBack(recordId: string): void {
    this.problem.set(this.desk.make(removing('records', recordId))?.message);
  }

  // What was found last, and what it asks for.
  private readonly trim = answerTo<'trim'>(() => {
    const circuitId = this.search()?.found && this.current()?.id;
    return circuitId ? { about: 'trim', circuitId } : undefined;
  });
  protected readonly last = computed(() => {
    const [found, reader, text] = [this.search()?.found, this.derived.reader(), this.text()];
    if (!found?.cause || !reader || !text || !found.circuitId) return undefined;
    const rung = ringState(reader, found.circuitId, false);
    const steps = this.trim.value()?.steps ?? [];
    const tried = roundState(reader, found.circuitId, steps, 'trim');
    const kind = found.cause.fault;
    return {
      record: found,
      words: kind in FAULT_PRIORS ? text.cause(kind as Suspicion['kind']) : $localize`something else`,
      where: text.place(found.cause.place),
      ring: rung.again + rung.bad,
      trim: tried.of - tried.good,
    };
  });
  protected roomIdOf(boxId: string): string | undefined {
    const reader = this.derived.reader();
    return reader && roomOf(reader, boxId)?.id;
  }

  protected byCircuit(id: string | undefined): void {
    void this.router.navigate([], {
      queryParams: { circuit: id ?? null },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }
}
