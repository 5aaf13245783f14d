import { Injectable, effect, signal } from '@angular/core';
import type { Person } from '@mule-tally/core';
import { Person as PersonSchema, personOfVersion1 } from '@mule-tally/core';
import * as z from 'zod';

export type Theme = 'paper' | 'attic' | 'sun';

const kept = (name: string): string | null => localStorage.getItem(`mule-tally.${name}`);
const keep = (name: string, value: string): void => localStorage.setItem(`mule-tally.${name}`, value);

/** What was kept as JSON under a name; `without` where there is none that can be read. */
function keptJson<S extends z.ZodType>(name: string, schema: S, without: z.infer<S>): z.infer<S> {
  try {
    return schema.parse(JSON.parse(kept(name) ?? ''));
  } catch {
    return without;
  }
}

/** Whoever worked on this device: version 1 kept a name only. */
const lastPerson = (): Person => {
  const name = kept('who') ?? 'Lead';
  return keptJson('person', PersonSchema, { id: personOfVersion1(name), name });
};

function ownDevice(): string {
  const known = z.uuid().safeParse(kept('device'));
  if (known.success) return known.data;
  const id = crypto.randomUUID();
  keep('device', id);
  return id;
}

/** Who works on this device and how it looks. Sign-in will take the place of the picked name. */
@Injectable({ providedIn: 'root' })
export class Session {
  readonly who = signal<Person>(lastPerson());
  /** This browser, as changes say where they were made. */
  readonly deviceId = ownDevice();
  readonly theme = signal((kept('theme') as Theme | null) ?? 'paper');

  constructor() {
    effect(() => keep('person', JSON.stringify(this.who())));
    effect(() => {
      keep('theme', this.theme());
      document.documentElement.dataset['theme'] = this.theme();
      document.documentElement.dataset['bsTheme'] = this.theme() === 'attic' ? 'dark' : 'light';
    });
  }
}

const UNSENT = 'people-unsent';

/** People who were entered on this device before the crew had a book, and whom the server has not been told of yet. */
export const unsentPeople = (): readonly Person[] => keptJson(UNSENT, z.array(PersonSchema), []);
export const forgetUnsentPeople = (): void => localStorage.removeItem(`mule-tally.${UNSENT}`);
