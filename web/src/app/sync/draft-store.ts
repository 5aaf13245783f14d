/**
 * What is half typed, kept on the device between one key and the next: in localStorage, because that is written before the
 * next key can be pressed or the page be left.
 */
const PREFIX = 'mule-tally.draft.';

/** The draft that was kept under this name; undefined when there is none, or none that can be read. */
export function keptDraft<T>(name: string): T | undefined {
  try {
    const text = localStorage.getItem(PREFIX + name);
    return text === null ? undefined : (JSON.parse(text) as T);
  } catch {
    return undefined;
  }
}

/** Keeps a draft; undefined forgets it. */
export function keepDraft(name: string, draft: unknown): void {
  if (draft === undefined) localStorage.removeItem(PREFIX + name);
  else localStorage.setItem(PREFIX + name, JSON.stringify(draft));
}
