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
import { adding, removing } from '@mule-tally/core';
import type { StepState, TrimStep } from '@mule-tally/core/work';
import { leftInJoins, roundState, testedNow } from '@mule-tally/core/work';
import { OnlyFor } from '../parts/only-for';
import { Screen, staysAwake } from '../parts/screen';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';
import { answerTo } from '../work/answer';
import { circuitGroups } from './circuit-groups';
import { FaultText } from './fault-text';
import { PowerOnCare } from './power-on-care';

/** A circuit tried once its devices are in: from every switch location, in all positions; ticked step by step. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-trim-sheet',
  imports: [DatePipe, OnlyFor, PowerOnCare, ToldPipe, Value, WordsPipe],
  templateUrl: './trim-sheet.html',
  styleUrls: ['./test-sheet.scss', './trim-sheet.scss'],
})
export class TrimSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  protected readonly crew = inject(Crew);
  protected readonly screen = inject(Screen);
  readonly circuit = input<string>();
  protected readonly problem = signal<string | undefined>(undefined);

  constructor() {
    staysAwake();
  }

  protected readonly circuits = computed(() => {
    const [reader, say] = [this.derived.reader(), this.derived.words()?.say];
    return reader && say ? circuitGroups(reader, say, this.derived.phrases()) : [];
  });
  protected readonly current = computed(
    () => this.circuits().find(({ ids }) => ids.includes(this.circuit() ?? '')) ?? this.circuits()[0],
  );
  private readonly currentId = computed(() => this.current()?.id);
  private readonly asked = answerTo<'trim'>(() => {
    const circuitId = this.current()?.id;
    return circuitId ? { about: 'trim', circuitId } : undefined;
  });
  protected readonly state = computed(() => {
    const [reader, test, id] = [this.derived.reader(), this.asked.value(), this.current()?.id];
    if (!reader || !id || !test?.circuitIds.includes(id)) return undefined;
    return roundState(reader, id, test.steps, 'trim');
  });
  protected readonly text = computed(() => {
    const [reader, say] = [this.derived.reader(), this.derived.words()?.say];
    return reader && say ? new FaultText(reader, say, this.derived.phrases()) : undefined;
  });
  /** A step that somebody went to, until the next one is judged. */
  protected readonly chosen = linkedSignal<string | undefined, string | undefined>({
    source: this.currentId,
    computation: () => undefined,
  });
  protected readonly steps = computed(() => {
    const [state, text] = [this.state(), this.text()];
    if (!state || !text) return [];
    return state.steps.map(({ step, ...own }, at) => this.said(step, own, state.steps[at - 1]?.step, text));
  });
  protected readonly next = computed(
    () =>
      this.steps().find(({ step }) => step.key === this.chosen()) ??
      this.steps().find(({ state }) => state.is === 'open' || state.is === 'again') ??
      this.steps().find(({ state }) => state.is === 'bad'),
  );
  /** Boxes in which joins of a live test were left. */
  protected readonly leftIn = computed(() => {
    const [reader, id] = [this.derived.reader(), this.current()?.id];
    const boxIds = reader && id ? leftInJoins(reader, id) : [];
    return boxIds.length ? (this.derived.words()?.say.boxes(boxIds) ?? '') : '';
  });
  protected place(key: string): number {
    return this.steps().findIndex(({ step }) => step.key === key) + 1;
  }

  private said(step: TrimStep, state: StepState, before: TrimStep | undefined, text: FaultText) {
    const say = this.derived.words()!.say;
    const list = (ids: readonly string[]): string => text.lights(ids);
    // The first of a control begins with all of the circuit's switches down.
    const isFirst = before?.controlId !== step.controlId;
    const todo = !step.controlId
      ? this.derived.inTrade(
          $localize`Breaker on, all switches of the circuit down. Try every outlet with a tester.`,
        )
      : isFirst && !step.up.length
        ? $localize`All switches of the circuit down.`
        : $localize`Set ${text.levers(step.thrown)}.`;
    const expect = [
      step.lit.length
        ? step.controlId
          ? $localize`On\: ${list(step.lit)}`
          : $localize`Live\: ${list(step.lit)}`
        : '',
      step.dark.length ? $localize`Off\: ${list(step.dark)}` : '',
    ].filter(Boolean);
    return {
      step,
      state,
      name: step.controlId ? say.control(step.controlId) : $localize`What is always on`,
      todo,
      expect,
      changed: say.boxes(state.changed),
    };
  }

  protected judge(step: TrimStep, result: 'pass' | 'fail'): void {
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
        tested: testedNow(reader, step, 'trim', false),
      }),
    );
    this.problem.set(refused?.message);
    this.chosen.set(undefined);
    // What is no good is looked for at once, with everything that was read so far.
    if (result === 'fail' && !refused) this.find();
  }
  protected find(): void {
    void this.router.navigate([], {
      queryParams: { of: 'find', round: null, circuit: this.current()?.id ?? null },
      queryParamsHandling: 'merge',
    });
  }
  protected takeBack(recordId: string): void {
    this.problem.set(this.desk.make(removing('records', recordId))?.message);
  }
  protected print(): void {
    window.print();
  }
  protected byCircuit(id: string | undefined): void {
    void this.router.navigate([], {
      queryParams: { circuit: id ?? null },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }
}
