import { Injectable, inject, signal } from '@angular/core';
import type { HeldChange } from '@mule-tally/core';
import { Api } from '../sync/api';

/** What hands did in the open house and the plan could not take: it waits for a lead to decide. */
@Injectable({ providedIn: 'root' })
export class Waiting {
  private readonly api = inject(Api);
  private readonly now = signal<
    { readonly houseId: string; readonly changes: readonly HeldChange[] } | undefined
  >(undefined);

  readonly of = this.now.asReadonly();

  /** Asks the server what waits; throws where it is away. */
  async look(houseId: string): Promise<void> {
    this.now.set({ houseId, changes: await this.api.held(houseId) });
  }

  /** Takes it, or leaves it out. Gives why it still cannot be taken. */
  async decide(houseId: string, changeId: string, take: boolean): Promise<string | undefined> {
    const problem = await this.api.decide(houseId, changeId, take);
    await this.look(houseId);
    return problem;
  }
}
