import type { Language } from './language.js';

function marked<T>(value: T): T {
  if (typeof value === 'string') return `⟦${value}⟧` as T;
  if (typeof value === 'function')
    return ((...of: unknown[]) => marked((value as (...of: unknown[]) => unknown)(...of))) as T;
  if (Array.isArray(value)) return value.map(marked) as T;
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, own]) => [key, marked(own)])) as T;
}

/** The same language with every sentence and word in ⟦ ⟧: what stands outside of them on a screen was never asked of a language. */
export const bracketed = ({ code, ...words }: Language): Language => ({
  ...marked(words),
  code: `${code}-x-marked`,
});
