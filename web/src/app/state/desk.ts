import { Injectable, inject } from '@angular/core';
import type { ChangeBody, Envelope, Refusal } from '@mule-tally/core';
import { CHANGE_VERSION, isEmptyDiff } from '@mule-tally/core';
import { Store } from '@ngrx/store';
import { HouseEvents } from './house.actions';
import type { Step } from './house.actions';
import { houseFeature } from './house.feature';
import { OpenHouse } from './open-house';
import { Api } from '../sync/api';
import { Session } from './session';

/** Where screens make changes: applied at once to what is shown, kept on the device, sent when the server is there. */
@Injectable({ providedIn: 'root' })
export class Desk {
  private readonly store = inject(Store);
  private readonly session = inject(Session);
  private readonly api = inject(Api);
  private readonly house = inject(OpenHouse);
  private readonly state = this.store.selectSignal(houseFeature.selectHouseState);

  /** Makes a change. Gives the refusal when it does not apply; the message is shown either way. */
  make(asked: ChangeBody, step: Step = 'do'): Refusal | undefined {
    const tried = this.house.tried(asked);
    if (!tried) return { code: 'house.closed', message: 'No house is open.' };
    const { applied, body } = tried;
    if (!applied.ok) {
      this.store.dispatch(HouseEvents.changeNotMade({ refusal: applied.refusal }));
      return applied.refusal;
    }
    // What says what is there already is no change: nothing for the log, nothing to undo.
    if (step === 'do' && isEmptyDiff(applied.diff)) return undefined;
    const envelope: Envelope = {
      change: { id: crypto.randomUUID(), version: CHANGE_VERSION, body },
      actorId: this.session.who().id,
      deviceId: this.session.deviceId,
      madeAt: new Date().toISOString(),
    };
    this.house.made(envelope, applied);
    this.store.dispatch(HouseEvents.changeMade({ envelope, step }));
    return undefined;
  }

  /** What a change would be refused with as things stand; nothing is made, nothing shown. */
  refusalOf(asked: ChangeBody): Refusal | undefined {
    const applied = this.house.tried(asked)?.applied;
    return applied && !applied.ok ? applied.refusal : undefined;
  }

  undo(): void {
    const of = this.state().undo.at(-1);
    if (of) void this.revert(of, 'undo');
  }

  redo(): void {
    const of = this.state().redo.at(-1);
    if (of) void this.revert(of, 'redo');
  }

  /** Undoes a change, however old: what it did is fetched where this device no longer knows it. */
  async revert(of: string, step: Step = 'do'): Promise<void> {
    const { houseId } = this.state();
    if (!houseId) return;
    if (!this.house.knows(of)) {
      try {
        const { diff } = await this.api.entry(houseId, of);
        if (this.state().houseId !== houseId) return;
        this.house.remember(of, diff);
      } catch (error) {
        const message = error instanceof Error ? error.message : 'That could not be undone. Try again.';
        this.store.dispatch(HouseEvents.changeNotMade({ refusal: { code: 'revert.unknown', message } }));
        return;
      }
    }
    this.make({ kind: 'revert', of }, step);
  }
}
