import { Injectable, effect, inject, signal } from '@angular/core';
import { Api } from '../sync/api';

export type Theme = 'paper' | 'attic' | 'sun';

const kept = (name: string): string | null => localStorage.getItem(`mule-tally.${name}`);
const keep = (name: string, value: string): void => localStorage.setItem(`mule-tally.${name}`, value);

/** Who works on this device and how it looks. Sign-in will take the place of the picked name. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly api = inject(Api);
  readonly who = signal(kept('who') ?? 'Lead');
  readonly theme = signal((kept('theme') as Theme | null) ?? 'paper');
  readonly people = signal<readonly string[]>([this.who()]);

  constructor() {
    effect(() => keep('who', this.who()));
    effect(() => {
      keep('theme', this.theme());
      document.documentElement.dataset['theme'] = this.theme();
      document.documentElement.dataset['bsTheme'] = this.theme() === 'attic' ? 'dark' : 'light';
    });
    void this.readPeople();
  }

  async readPeople(): Promise<void> {
    const crew = await this.api.crew().catch(() => undefined);
    if (crew) this.people.set(crew.people.includes(this.who()) ? crew.people : [...crew.people, this.who()]);
  }

  async addPerson(name: string): Promise<void> {
    this.people.update((people) => (people.includes(name) ? people : [...people, name]));
    this.who.set(name);
    await this.api.addPerson(name).catch(() => undefined);
  }
}
