import type { Signal } from '@angular/core';
import { DestroyRef, EnvironmentInjector, computed, inject, linkedSignal, resource } from '@angular/core';
import { OpenHouse } from '../state/open-house';
import type { AnswerTo, Question } from './commands';
import { Workbench } from './workbench';

/** An answer to a question that may change, as the house may. */
export interface AnswerOf<About extends Question['about']> {
  /** The answer; while it is worked out anew what was last known, and nothing where nothing is asked. */
  readonly value: Signal<AnswerTo[About] | undefined>;
  /** It is the answer to what is asked now. */
  readonly isNow: Signal<boolean>;
  reload(): void;
}

/** Asks the workbench as long as there is a question. Called where a component is made. */
export function answerTo<About extends Question['about']>(
  question: () => Extract<Question, { about: About }> | undefined,
): AnswerOf<About> {
  const workbench = inject(Workbench);
  const house = inject(OpenHouse).view;
  const asked = computed(() => {
    const [own, of] = [question(), house()];
    return own && of ? { question: own, of } : undefined;
  });
  // Asked before the screen is drawn anew, not with it: the worker works while it is.
  const found = resource({
    injector: inject(EnvironmentInjector),
    params: asked,
    loader: ({ params, abortSignal }) => workbench.ask<About>(params.question, abortSignal),
  });
  inject(DestroyRef).onDestroy(() => found.destroy());
  const isNow = computed(() => found.hasValue());
  type Known = AnswerTo[About] | undefined;
  const value = linkedSignal<{ readonly isAsked: boolean; readonly now: Known }, Known>({
    source: () => ({
      isAsked: asked() !== undefined,
      now: found.hasValue() ? (found.value() as Known) : undefined,
    }),
    computation: ({ isAsked, now }, before) => (isAsked ? (now ?? before?.value) : undefined),
  });
  return { value, isNow, reload: () => void found.reload() };
}
