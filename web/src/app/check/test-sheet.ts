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
import { adding, boxName, removing, roomName } from '@mule-tally/core';
import type { Meter, ReadingQuestion, RingStep, StepState, WireEnd } from '@mule-tally/core/work';
import { askedOfReading, meterOf, ringOut, ringState, testedNow } from '@mule-tally/core/work';
import { Caution } from '../parts/caution';
import { OnlyFor } from '../parts/only-for';
import { Screen, staysAwake } from '../parts/screen';
import { TallyMarks } from '../parts/tally-marks';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { OpenHouse } from '../state/open-house';
import { Session } from '../state/session';
import { circuitGroups } from './circuit-groups';
import { ProveDead } from './prove-dead';

/** A step in words: what to do, what is to be read. */
interface SaidStep {
  readonly step: RingStep;
  readonly state: StepState;
  readonly where: string;
  readonly todo: readonly string[];
  readonly expect: string;
  readonly proves: string;
  /** Where what the meter shows is written down. */
  readonly meter?: Meter | undefined;
}

/** A circuit rung out dead: step by step what to join, what then reads how, good or not; with open walls, and again after the board. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-test-sheet',
  imports: [Caution, DatePipe, OnlyFor, ProveDead, RouterLink, TallyMarks, ToldPipe, Value, WordsPipe],
  templateUrl: './test-sheet.html',
  styleUrl: './test-sheet.scss',
})
export class TestSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly house = inject(OpenHouse).view;
  private readonly router = inject(Router);
  protected readonly crew = inject(Crew);
  protected readonly screen = inject(Screen);
  readonly circuit = input<string>();
  /** The round after the board. */
  readonly isBoarded = input(false);
  protected readonly problem = signal<string | undefined>(undefined);
  /** A step that somebody went to, until the next one is judged. */
  protected readonly chosen = linkedSignal<string | undefined, string | undefined>({
    source: () => this.circuit(),
    computation: () => undefined,
  });

  constructor() {
    staysAwake();
  }

  /** Circuits with how far they are. */
  protected readonly circuits = computed(() => {
    const [reader, say] = [this.derived.reader(), this.derived.words()?.say];
    if (!reader || !say) return [];
    return circuitGroups(reader, say, this.derived.phrases()).flatMap((group) => {
      const { good, bad, again, of } = ringState(reader, group.id, this.isBoarded());
      return of ? [{ ...group, good, bad, again, of }] : [];
    });
  });
  protected readonly current = computed(() => {
    const circuits = this.circuits();
    const asked = circuits.find(({ ids }) => ids.includes(this.circuit() ?? ''));
    return asked ?? circuits.find(({ good, of }) => good < of) ?? circuits[0];
  });
  private readonly currentId = computed(() => this.current()?.id);
  /** Where it is to be proven dead first, the card for that says all of it; else it folds with the first step that is judged. */
  protected readonly isCautionRead = linkedSignal<string | undefined, boolean>({
    source: this.currentId,
    computation: () => this.house()?.head.power !== 'no-service',
  });

  /** Boxes that hands go into. */
  protected readonly boxIds = computed(() => {
    const [reader, id] = [this.derived.reader(), this.current()?.id];
    return reader && id ? ringOut(reader, id).boxIds : [];
  });

  protected readonly steps = computed((): readonly SaidStep[] => {
    const [reader, current] = [this.derived.reader(), this.current()];
    if (!reader || !current) return [];
    return ringState(reader, current.id, this.isBoarded()).steps.map(({ step, ...state }) => ({
      ...this.said(step, state),
      meter: meterOf(reader, step),
    }));
  });
  /** The step to do: the one that was gone to, else the next that is not good. */
  protected readonly next = computed(
    () =>
      this.steps().find(({ step }) => step.key === this.chosen()) ??
      this.steps().find(({ state }) => state.is === 'open' || state.is === 'again') ??
      this.steps().find(({ state }) => state.is === 'bad'),
  );
  /** What somebody typed of the meter, for the step that is shown. */
  protected readonly typed = linkedSignal<string | undefined, string>({
    source: () => this.next()?.step.key,
    computation: () => '',
  });
  /** What was asked about it. */
  protected readonly asked = linkedSignal<string, readonly string[]>({
    source: this.typed,
    computation: () => [],
  });
  protected place(of: SaidStep): number {
    return this.steps().indexOf(of) + 1;
  }

  private wires(ends: readonly WireEnd[]): string {
    const [say, phrases] = [this.derived.words()!.say, this.derived.phrases()];
    const byRun = new Map<string, WireEnd[]>();
    for (const end of ends) byRun.set(end.runId, [...(byRun.get(end.runId) ?? []), end]);
    return [...byRun]
      .map(([runId, own]) => {
        const colours = phrases.and(own.map(({ key }) => say.colour(key)));
        const cable = say.cableAt(runId, own[0]!.boxId);
        return $localize`${cable}\: ${colours}`;
      })
      .join(' · ');
  }
  private said(step: RingStep, state: StepState): SaidStep {
    const reader = this.derived.reader()!;
    const say = this.derived.words()!.say;
    const at = (boxId: string): string =>
      [boxName(reader, boxId), roomName(reader, boxId)].filter(Boolean).join(', ');
    const where = at(step.boxId);
    const isDead = this.derived.trade().testing === 'dead-tests';
    if (step.kind === 'apart' && isDead) {
      const rules = reader.rules();
      return {
        step,
        state,
        where,
        todo: [
          $localize`Test insulation at ${rules.number('test.insulationVolts')} V between any two of these\: ${this.wires([...step.ends, ...(step.strangers ?? [])])}`,
        ],
        expect: $localize`${rules.number('test.insulation')} MΩ or more.`,
        proves: '',
      };
    }
    if (step.kind === 'apart') {
      const todo = [$localize`Touch any two of these, in turn\: ${this.wires(step.ends)}`];
      if (step.strangers)
        todo.push(
          $localize`Then each of them against what other circuits have here\: ${this.wires(step.strangers)}`,
        );
      return { step, state, where, todo, expect: $localize`Nothing rings.`, proves: '' };
    }
    if (step.kind === 'ends') {
      const core = say.colour(step.ends[0]!.key);
      return {
        step,
        state,
        where,
        todo: [$localize`Touch the two ends of the ring, ${core} with ${core}\: ${this.wires(step.ends)}`],
        expect: $localize`They ring: the ring is closed in this core.`,
        proves: $localize`Ring, ${core} end to end`,
      };
    }
    const [near, far] = [step.ends, step.join!.ends];
    if (step.kind === 'polarity')
      return {
        step,
        state,
        where,
        todo: [
          $localize`At ${at(step.join!.boxId)} join for the time\: ${this.wires(far)}`,
          $localize`At ${where} measure\: ${this.wires(near)}`,
        ],
        expect: $localize`A low reading, R1 + R2. Take the join off\: it is open.`,
        proves: $localize`Continuity and polarity at ${boxName(reader, step.boxId)}`,
      };
    const what = this.derived.phrases().and(step.proves.map(({ key }) => say.colour(key)));
    return {
      step,
      state,
      where,
      todo: [
        $localize`At ${at(step.join!.boxId)} join for the time\: ${this.wires(far)}`,
        $localize`At ${where} touch\: ${this.wires(near)}`,
      ],
      expect: $localize`It rings. Take the join off\: it rings no more.`,
      proves: $localize`Proves ${what} to ${boxName(reader, step.join!.boxId)} whole`,
    };
  }

  protected changedText(state: StepState): string {
    return this.derived.words()?.say.boxes(state.changed) ?? '';
  }
  /** Where to look for what is not as it is to be. */
  protected lookAt({ step }: SaidStep): string {
    return this.derived.words()?.say.boxes(step.boxIds) ?? '';
  }

  protected byCircuit(id: string | undefined): void {
    void this.router.navigate([], {
      queryParams: { circuit: id ?? null },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }
  /** What a reading is to a person: "0.43 Ω". */
  protected readingText(reading: number, { unit }: Meter): string {
    return `${Number(reading.toFixed(2))} ${unit}`;
  }
  private questionText(question: ReadingQuestion): string {
    const ohms = (value: number): string => this.readingText(value, { unit: 'Ω' });
    switch (question.kind) {
      case 'insulation-low':
        return $localize`Under ${question.least} MΩ it is no good\: look for a nail, a bare core, something still connected.`;
      case 'ring-unlike':
        return $localize`The other core of the ring reads ${ohms(question.other)}\: r1 and rn are alike. A joint that is loose, or another way round?`;
      case 'ring-cpc':
        return $localize`By r1 the CPC should read about ${ohms(question.expected)}.`;
      case 'far-from-length':
        return $localize`By the length of its cable it should read about ${ohms(question.expected)}.`;
    }
  }
  /** What was typed as a number; nothing where nothing was. */
  private readingOf(of: SaidStep): number | undefined {
    const text = this.typed().trim().replace(',', '.').replace(/^>/, '');
    return of.meter && text ? Number(text) : undefined;
  }
  protected judge(of: SaidStep, result: 'pass' | 'fail'): void {
    const [reader, current] = [this.derived.reader(), this.current()];
    if (!reader || !current) return;
    const reading = this.readingOf(of);
    if (reading !== undefined && !(reading >= 0 && reading <= 1_000_000))
      return this.problem.set($localize`What a meter shows is a number, such as 0.43 or 200.`);
    const questions =
      reading === undefined || result === 'fail'
        ? []
        : askedOfReading(reader, current.id, of.step, reading, this.isBoarded());
    const sentences = questions.map((question) => this.questionText(question));
    // Asked once about what was typed; whoever judges the same again means it. Low insulation is never good.
    const isNever = questions.some(({ kind }) => kind === 'insulation-low');
    if (isNever || sentences.some((one) => !this.asked().includes(one))) return this.asked.set(sentences);
    this.problem.set(
      this.desk.make(
        adding('records', {
          id: crypto.randomUUID(),
          kind: 'test',
          at: new Date().toISOString(),
          by: this.session.who().id,
          circuitId: current.id,
          result,
          tested: {
            ...testedNow(reader, of.step, 'ring-out', this.isBoarded()),
            ...(reading !== undefined && { reading }),
          },
        }),
      )?.message,
    );
    this.typed.set('');
    this.isCautionRead.set(true);
    // What is not good stays in view, with where to look.
    this.chosen.set(result === 'fail' ? of.step.key : undefined);
  }
  protected takeBack(recordId: string): void {
    this.problem.set(this.desk.make(removing('records', recordId))?.message);
  }
}
