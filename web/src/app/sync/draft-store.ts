import type { Signal } from '@angular/core';
import { linkedSignal, untracked } from '@angular/core';

/**
 * What is half typed, kept on the device between one key and the next: in localStorage, because that is written before the
 * next key can be pressed or the page be left.
 */
const PREFIX = 'mule-tally.draft.';

/** The draft that was kept under this name; undefined when there is none, or none that can be read. */
function keptDraft<T>(name: string): T | undefined {
  try {
    const text = localStorage.getItem(PREFIX + name);
    return text === null ? undefined : (JSON.parse(text) as T);
  } catch {
    return undefined;
  }
}

/** Keeps a draft; undefined forgets it. */
function keepDraft(name: string, draft: unknown): void {
  try {
    if (draft === undefined) localStorage.removeItem(PREFIX + name);
    else localStorage.setItem(PREFIX + name, JSON.stringify(draft));
  } catch {
    // A device that keeps nothing (full, or told so) does not stop the typing.
  }
}

/** Whether anything half entered is kept on this device. */
export const hasAnyDraft = (): boolean => Object.keys(localStorage).some((name) => name.startsWith(PREFIX));

/** Whether something half entered is kept under this name. */
export const hasDraft = (name: string): boolean => keptDraft(name) !== undefined;

/** Something half entered that outlives the page. */
export interface Kept<T> {
  readonly value: Signal<T>;
  /** Enters it; `empty` itself forgets it. */
  readonly set: (next: T) => void;
}

/** What is kept under a name that may change (another box, another house), or `empty` when nothing is. */
export function kept<T>(name: () => string, empty: T): Kept<T> {
  const value = linkedSignal<string, T>({
    source: name,
    computation: (own) => keptDraft<T>(own) ?? empty,
  });
  return {
    value: value.asReadonly(),
    set: (next) => {
      keepDraft(untracked(name), next === empty ? undefined : next);
      value.set(next);
    },
  };
}
