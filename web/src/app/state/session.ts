import { Injectable, computed, effect, inject, signal } from '@angular/core';
import type { Person } from '@mule-tally/core';
import { Person as PersonSchema, personOfVersion1 } from '@mule-tally/core';
import * as z from 'zod';
import { Api } from '../sync/api';

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

const People = z.array(PersonSchema);

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
  private readonly api = inject(Api);
  readonly who = signal<Person>(lastPerson());
  /** This browser, as changes say where they were made. */
  readonly deviceId = ownDevice();
  readonly theme = signal((kept('theme') as Theme | null) ?? 'paper');
  /** The crew as the server last told it, for a day without network too. */
  private readonly crew = signal<readonly Person[]>(keptJson('crew', People, []));
  /** People who were entered here and are not on the server's list yet. */
  private readonly unsent = signal<readonly Person[]>(keptJson('people-unsent', People, []));
  readonly people = computed<readonly Person[]>(() => {
    const all = [...this.crew(), ...this.unsent(), this.who()];
    return all.filter(({ id }, at) => all.findIndex((one) => one.id === id) === at);
  });
  private readonly names = computed(() => new Map(this.people().map(({ id, name }) => [id, name])));

  constructor() {
    effect(() => keep('person', JSON.stringify(this.who())));
    effect(() => keep('crew', JSON.stringify(this.crew())));
    effect(() => keep('people-unsent', JSON.stringify(this.unsent())));
    effect(() => {
      keep('theme', this.theme());
      document.documentElement.dataset['theme'] = this.theme();
      document.documentElement.dataset['bsTheme'] = this.theme() === 'attic' ? 'dark' : 'light';
    });
    void this.readPeople();
  }

  /** The name of a person of the crew; of one who is on no list here, that. */
  nameOf(personId: string): string {
    return this.names().get(personId) ?? 'somebody not on the list';
  }

  async readPeople(): Promise<void> {
    const crew = await this.api.crew().catch(() => undefined);
    if (crew) this.crew.set(crew.people);
  }

  /** Works as this person from now on. */
  be(personId: string): void {
    const person = this.people().find(({ id }) => id === personId);
    if (person) this.who.set(person);
  }

  /** Somebody new, or the one of this name who is there. */
  async addPerson(name: string): Promise<void> {
    const known = this.people().find((person) => person.name === name);
    const person = known ?? { id: crypto.randomUUID(), name };
    if (!known) this.unsent.update((unsent) => [...unsent, person]);
    this.who.set(person);
    await this.sendPeople().catch(() => undefined);
  }

  /** Tells the server who was entered here. Fails where it is away; nobody is forgotten. */
  async sendPeople(): Promise<void> {
    for (const person of this.unsent()) {
      const entered = await this.api.addPerson(person);
      this.crew.update((crew) => [...crew, entered]);
      this.unsent.update((unsent) => unsent.filter(({ id }) => id !== person.id));
      if (this.who().id === entered.id) this.who.set(entered);
    }
  }
}
