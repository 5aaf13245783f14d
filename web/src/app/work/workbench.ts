import { Injectable, InjectionToken, computed, effect, inject, signal, untracked } from '@angular/core';
import type { House } from '@mule-tally/core';
import type { HouseLook, Progress } from '@mule-tally/core/work';
import { diffOf, isEmptyDiff, touchedBetween, placesOf, writeHouseFile } from '@mule-tally/core';
import { OpenHouse } from '../state/open-house';
import type { Answer, AnswerTo, Command, Heard, Question } from './commands';

/** Someone who works beside the screen. */
export interface Hand {
  send(command: Command): void;
  /** `died` when no more answers come. */
  hear(answer: (answer: Answer) => void, died: (message: string) => void): void;
}

/** Makes a hand: a web worker in the app. */
export const HIRE = new InjectionToken<() => Hand>('a hand that works beside the screen', {
  providedIn: 'root',
  factory: () => () => {
    const worker = new Worker(new URL('./house.worker', import.meta.url), { type: 'module' });
    return {
      send: (command) => worker.postMessage(command),
      hear: (answer, died) => {
        worker.onmessage = ({ data }: MessageEvent<Answer>) => answer(data);
        worker.onerror = (event) => {
          worker.terminate();
          died(event.message);
        };
      },
    };
  },
});

interface Asked {
  readonly heard: (progress: Heard) => void;
  readonly answered: (value: AnswerTo[Question['about']]) => void;
  readonly failed: (error: Error) => void;
}

/** Another version of the house is shown than the one that was asked about, or the question was taken back. */
export class Stale extends Error {}

/**
 * What is worked out beside the screen: everything that is found in the house, and what changes would mean. The house goes over
 * once as text, then what changes in it; an answer about another version than the one that is shown is dropped.
 */
@Injectable({ providedIn: 'root' })
export class Workbench {
  private readonly hire = inject(HIRE);
  private readonly open = inject(OpenHouse);
  private readonly view = this.open.view;
  private hand: Hand | undefined;
  /** The house as the hand has it. */
  private sent: House | undefined;
  private version = 0;
  private asks = 0;
  private readonly asked = new Map<number, Asked>();
  private stopLook: AbortController | undefined;

  private readonly lookNow = signal<{ readonly houseId: string; readonly look: HouseLook } | undefined>(
    undefined,
  );
  private readonly progressNow = signal<Progress | undefined>(undefined);
  private readonly brokenNow = signal<string | undefined>(undefined);

  /** What was found when the house was last looked through; of an earlier version while {@link isLooking}. */
  readonly look = computed(() => {
    const known = this.lookNow();
    return known && known.houseId === this.view()?.head.id ? known.look : undefined;
  });
  /** How far the look through the version that is shown has come; undefined when it is done. */
  readonly progress = this.progressNow.asReadonly();
  /** Why nothing more is found out. */
  readonly broken = this.brokenNow.asReadonly();

  constructor() {
    effect(() => {
      const house = this.view();
      untracked(() => house && this.feed(house) && this.lookAgain(house.head.id));
    });
  }

  /**
   * Asks about the house that is shown. Rejects with {@link Stale} when that changes before the answer is there, or when the
   * signal is given. `enough` takes what has been found so far.
   */
  ask<About extends Question['about']>(
    question: Extract<Question, { about: About }>,
    signal: AbortSignal,
    progress: (progress: Heard) => void = () => undefined,
    enough?: AbortSignal,
  ): Promise<AnswerTo[About]> {
    const house = untracked(this.view);
    if (house && this.feed(house)) this.lookAgain(house.head.id);
    return new Promise((resolve, reject) => {
      if (!this.hand || signal.aborted) return reject(new Stale());
      const ask = ++this.asks;
      this.asked.set(ask, {
        heard: progress,
        answered: (value) => resolve(value as AnswerTo[About]),
        failed: reject,
      });
      signal.addEventListener('abort', () => {
        if (!this.asked.delete(ask)) return;
        this.hand?.send({ kind: 'cancel', ask });
        reject(new Stale());
      });
      enough?.addEventListener('abort', () => {
        if (this.asked.has(ask)) this.hand?.send({ kind: 'enough', ask });
      });
      this.hand.send({ kind: 'ask', ask, question });
    });
  }

  /** Takes another hand on, where the one there was is gone, and looks through the house anew. */
  again(): void {
    const house = untracked(this.view);
    this.brokenNow.set(undefined);
    if (!house) return;
    this.feed(house);
    this.lookAgain(house.head.id);
  }

  /** Brings the hand to the version that is shown; says whether it had another one. */
  private feed(house: House): boolean {
    if (this.sent === house) return false;
    const hand = (this.hand ??= this.begin());
    if (this.sent?.head.id === house.head.id) {
      const diff = diffOf(this.sent, house, touchedBetween(this.sent, house));
      this.sent = house;
      if (isEmptyDiff(diff)) return false;
      hand.send({ kind: 'diff', version: ++this.version, diff });
    } else {
      const text = this.open.textOfHead();
      this.sent = (text && this.open.head()?.document) || house;
      hand.send({
        kind: 'open',
        version: ++this.version,
        text: text ?? JSON.stringify({ file: writeHouseFile(house, []), places: placesOf(house) }),
      });
      // What is unsent lies on top of what was read.
      this.feed(house);
    }
    return true;
  }

  private begin(): Hand {
    const hand = this.hire();
    hand.hear(
      (answer) => this.heard(answer),
      (message) => {
        this.hand = undefined;
        this.sent = undefined;
        this.brokenNow.set(message);
        for (const { failed } of this.asked.values()) failed(new Error(message));
        this.asked.clear();
      },
    );
    return hand;
  }

  private heard(answer: Answer): void {
    const asked = this.asked.get(answer.ask);
    if (!asked) return;
    if (answer.kind === 'progress') return asked.heard(answer);
    this.asked.delete(answer.ask);
    if (answer.kind === 'failed') asked.failed(new Error(answer.message));
    else if (answer.version === this.version) asked.answered(answer.value);
    else asked.failed(new Stale());
  }

  private lookAgain(houseId: string): void {
    this.stopLook?.abort();
    const stop = (this.stopLook = new AbortController());
    this.progressNow.set({ done: 0, of: 1 });
    this.ask({ about: 'house' }, stop.signal, (progress) => this.progressNow.set(progress)).then(
      (look) => {
        this.lookNow.set({ houseId, look });
        this.progressNow.set(undefined);
        this.brokenNow.set(undefined);
        performance.mark('house looked through');
      },
      (error: unknown) => {
        if (error instanceof Stale) return;
        this.progressNow.set(undefined);
        this.brokenNow.set(error instanceof Error ? error.message : String(error));
      },
    );
  }
}
