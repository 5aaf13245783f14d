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
import { Router, RouterLink } from '@angular/router';
import { adding, boxName, removing } from '@mule-tally/core';
import type { LiveStep, StepState } from '@mule-tally/core/work';
import { circuitsToShutOff, leftInJoins, roundState, testedNow } from '@mule-tally/core/work';
import { Caution } from '../parts/caution';
import { OnlyFor } from '../parts/only-for';
import { staysAwake } from '../parts/screen';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { OpenHouse } from '../state/open-house';
import { Rights } from '../state/rights';
import { Session } from '../state/session';
import { answerTo } from '../work/answer';
import { circuitGroups } from './circuit-groups';
import { FaultText } from './fault-text';

/** What is to be so before power comes on: each is ticked. */
const BEFORE = [
  $localize`The house is cleared, everybody knows that power comes on`,
  $localize`All boxes of the circuit are covered, grounds tucked clear`,
  $localize`The breakers are named, and nobody else can put one on`,
  $localize`The tester is proven on a known live source`,
] as const;

/**
 * A circuit tried under power before its devices are in: only where the power of the house allows it, and only a lead begins it. What is
 * joined for the time, what is capped, what each light shows, and then all joins off again.
 */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-live-sheet',
  imports: [Caution, DatePipe, OnlyFor, RouterLink, ToldPipe, Value, WordsPipe],
  templateUrl: './live-sheet.html',
  styleUrls: ['./test-sheet.scss', './live-sheet.scss'],
})
export class LiveSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly house = inject(OpenHouse).view;
  private readonly rights = inject(Rights);
  protected readonly crew = inject(Crew);
  readonly circuit = input<string>();
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly before = BEFORE;

  constructor() {
    staysAwake();
  }

  private readonly power = computed(() => this.house()?.head.power);
  protected readonly isAllowed = computed(() => this.power() === 'temporary' || this.power() === 'live');
  protected readonly isLead = this.rights.isLead;
  protected readonly circuits = computed(() => {
    const [reader, say] = [this.derived.reader(), this.derived.words()?.say];
    return reader && say ? circuitGroups(reader, say, this.derived.phrases()) : [];
  });
  protected readonly current = computed(
    () => this.circuits().find(({ ids }) => ids.includes(this.circuit() ?? '')) ?? this.circuits()[0],
  );
  private readonly currentId = computed(() => this.current()?.id);
  private readonly asked = answerTo<'live'>(() => {
    const circuitId = this.current()?.id;
    return circuitId ? { about: 'live', circuitId } : undefined;
  });
  protected readonly test = computed(() => {
    const test = this.asked.value();
    return test?.circuitIds.includes(this.current()?.id ?? '') ? test : undefined;
  });
  private readonly text = computed(() => {
    const [reader, say] = [this.derived.reader(), this.derived.words()?.say];
    return reader && say ? new FaultText(reader, say, this.derived.phrases()) : undefined;
  });
  /** Every circuit that comes into one of the boxes: its breaker is named. */
  protected readonly breakers = computed(() => {
    const [reader, test] = [this.derived.reader(), this.test()];
    if (!reader || !test) return [];
    return circuitsToShutOff(reader, test.boxIds).flatMap((id) => {
      const own = reader.get('circuits', id);
      return own ? [{ number: own.number, name: own.name, amps: own.breakerAmps }] : [];
    });
  });
  /** By box: what is joined and what is capped. */
  protected readonly boxes = computed(() => {
    const [test, say, text] = [this.test(), this.derived.words()?.say, this.text()];
    if (!test || !say || !text) return [];
    const phrases = this.derived.phrases();
    const named = (boxId: string, ends: readonly { runId: string; key: string }[]): string =>
      phrases.and(ends.map((end) => say.conductor(end, boxId)));
    return test.boxIds.flatMap((boxId) => {
      const joins = test.joins
        .filter((join) => join.boxId === boxId)
        .map(({ sides: [a, b] }) => $localize`${named(boxId, a)} with ${named(boxId, b)}`);
      const caps = test.caps.find((cap) => cap.boxId === boxId)?.ends ?? [];
      if (!joins.length && !caps.length) return [];
      return [
        {
          boxId,
          name: text.place({ kind: 'box', id: boxId }),
          joins,
          caps: caps.length ? named(boxId, caps) : '',
        },
      ];
    });
  });
  protected readonly leftOut = computed(() => {
    const [test, say] = [this.test(), this.derived.words()?.say];
    return test && say ? test.leftOut.map((id) => say.control(id)) : [];
  });

  protected readonly ticked = linkedSignal<string | undefined, ReadonlySet<number>>({
    source: this.currentId,
    computation: () => new Set(),
  });
  protected readonly isReady = computed(() => this.ticked().size === BEFORE.length + this.boxes().length);
  /** A lead has begun it here. */
  protected readonly isBegun = linkedSignal<string | undefined, boolean>({
    source: this.currentId,
    computation: () => false,
  });
  protected readonly state = computed(() => {
    const [reader, test, id] = [this.derived.reader(), this.test(), this.current()?.id];
    return reader && test && id ? roundState(reader, id, test.steps, 'live') : undefined;
  });
  protected readonly steps = computed(() => {
    const [state, text] = [this.state(), this.text()];
    if (!state || !text) return [];
    return state.steps.map(({ step, ...own }) => ({ step, state: own, ...this.said(step, text) }));
  });
  /** A lead stops before everything was tried: what was joined is undone all the same. */
  protected readonly isStopped = linkedSignal<string | undefined, boolean>({
    source: this.currentId,
    computation: () => false,
  });
  protected readonly next = computed(() =>
    this.steps().find(
      ({ step, state }) => state.is !== 'good' && (!this.isStopped() || step.kind === 'undo'),
    ),
  );
  /** Boxes in which joins of this test were left. */
  protected readonly stillIn = computed(() => {
    const [reader, id] = [this.derived.reader(), this.current()?.id];
    const boxIds = reader && id ? leftInJoins(reader, id) : [];
    return reader && boxIds.map((boxId) => boxName(reader, boxId)).join(', ');
  });
  /** Boxes in which joins stay. */
  protected readonly leftIn = linkedSignal<string | undefined, ReadonlySet<string>>({
    source: this.currentId,
    computation: () => new Set(),
  });
  protected readonly joinedBoxes = computed(() => this.boxes().filter(({ joins }) => joins.length));

  private said({ kind, pointId }: LiveStep, text: FaultText) {
    if (kind === 'energize')
      return {
        todo: $localize`Stand aside and put the breaker on.`,
        expect: $localize`It holds. Nothing hums, nothing smells.`,
      };
    if (kind === 'light')
      return {
        todo: $localize`Look at the lamp at ${text.light(pointId!)}.`,
        expect: $localize`It is on, at full brightness.`,
      };
    return {
      todo: $localize`Breaker off, locked or tagged, proven dead. Take every join off and cap what was joined.`,
      expect: $localize`No join is left in a box.`,
    };
  }

  protected tick(at: number): void {
    const next = new Set(this.ticked());
    if (!next.delete(at)) next.add(at);
    this.ticked.set(next);
  }
  protected leave(boxId: string): void {
    const next = new Set(this.leftIn());
    if (!next.delete(boxId)) next.add(boxId);
    this.leftIn.set(next);
  }
  /** What was left in is out now. */
  protected areOut(steps: readonly LiveStep[]): void {
    const undo = steps.find(({ kind }) => kind === 'undo');
    this.leftIn.set(new Set());
    if (undo) this.judge(undo, 'pass');
  }
  protected judge(step: LiveStep, result: 'pass' | 'fail'): void {
    const [reader, current] = [this.derived.reader(), this.current()];
    if (!reader || !current) return;
    const refused = this.desk.make(
      adding('records', {
        id: crypto.randomUUID(),
        kind: 'test',
        at: new Date().toISOString(),
        by: this.session.who().id,
        circuitId: current.id,
        result,
        tested: {
          ...testedNow(reader, step, 'live', false),
          ...(step.kind === 'undo' && { leftIn: [...this.leftIn()] }),
        },
      }),
    );
    this.problem.set(refused?.message);
    if (result === 'fail' && !refused)
      void this.router.navigate([], {
        queryParams: { of: 'find', round: null, circuit: current.id },
        queryParamsHandling: 'merge',
      });
  }
  protected takeBack({ record }: StepState): void {
    if (record) this.problem.set(this.desk.make(removing('records', record.id))?.message);
  }
  protected byCircuit(id: string | undefined): void {
    void this.router.navigate([], {
      queryParams: { circuit: id ?? null },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }
}
