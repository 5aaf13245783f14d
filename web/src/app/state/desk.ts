import { Injectable, inject, signal } from '@angular/core';
import type {
  Actor,
  CREW_LISTS,
  ChangeBody,
  CrewChangeBody,
  CrewHead,
  Diff,
  EnvelopeOf,
  HouseHead,
  ListName,
  Lists,
  RefusalIn,
  TABLES,
} from '@mule-tally/core';
import { CHANGE_VERSION, isEmptyDiff, mayChange, mayChangeCrew } from '@mule-tally/core';
import { Store } from '@ngrx/store';
import { Api } from '../sync/api';
import type { DocumentEvents, Step } from './document.events';
import { CrewEvents, HouseEvents } from './document.events';
import { crewFeature, houseFeature } from './document.feature';
import { Identity } from './identity';
import { OpenCrew } from './open-crew';
import type { OpenDocument } from './open-document';
import { OpenHouse } from './open-house';
import { Session } from './session';

/** Where screens make changes: applied at once to what is shown, kept on the device, sent when the server is there. */
abstract class DocumentDesk<L extends Lists, H extends { id: string }, B> {
  protected readonly store = inject(Store);
  private readonly session = inject(Session);
  private readonly api = inject(Api);
  private readonly identity = inject(Identity);
  protected abstract readonly open: OpenDocument<L, H, B>;
  protected abstract readonly events: DocumentEvents;
  protected abstract readonly state: () => {
    readonly documentId: string | null;
    readonly undo: readonly string[];
    readonly redo: readonly string[];
  };
  /** The last change that was made here, until it is taken back. */
  readonly lastMade = signal<{ readonly body: B } | undefined>(undefined);
  /** The change that takes another one back. */
  protected abstract revertOf(changeId: string): B;

  /**
   * Makes a change, as the person who works on this device or another. Gives the refusal when it does not apply; the message is
   * shown either way.
   */
  make(asked: B, step: Step = 'do', actorId = this.session.who().id): RefusalIn | undefined {
    const tried = this.open.tried(asked);
    if (!tried)
      return { code: 'document.closed', message: $localize`This is not here yet. Try again in a moment.` };
    const { applied, body } = tried;
    const noRight = this.noRight(body, actorId);
    if (noRight) {
      this.store.dispatch(this.events.changeNotMade({ refusal: noRight, step }));
      return noRight;
    }
    if (!applied.ok) {
      this.store.dispatch(this.events.changeNotMade({ refusal: applied.refusal, step }));
      return applied.refusal;
    }
    // What says what is there already is no change: nothing for the log, nothing to undo.
    if (step === 'do' && isEmptyDiff(applied.diff)) return undefined;
    const envelope: EnvelopeOf<B> = {
      change: { id: crypto.randomUUID(), version: CHANGE_VERSION, body },
      actorId,
      deviceId: this.session.deviceId,
      madeAt: new Date().toISOString(),
      ...(this.api.clockOffsetMs !== undefined && { clockOffsetMs: this.api.clockOffsetMs }),
    };
    this.open.made(envelope, applied);
    this.lastMade.set(step === 'do' ? { body } : undefined);
    this.store.dispatch(this.events.changeMade({ envelope, step }));
    return undefined;
  }

  /** Why whoever works here may not make a change; nothing where they may. Somebody else's is the server's to judge. */
  private noRight(body: B, actorId: string): RefusalIn | undefined {
    const actor = this.identity.actor();
    return actor?.id === actorId ? this.rightsProblem(actor, body) : undefined;
  }
  protected abstract rightsProblem(actor: Actor, body: B): RefusalIn | undefined;

  /** What a change would be refused with as things stand; nothing is made, nothing shown. */
  refusalOf(asked: B): RefusalIn | undefined {
    const tried = this.open.tried(asked);
    const noRight = tried && this.noRight(tried.body, this.session.who().id);
    return noRight ?? (tried && !tried.applied.ok ? tried.applied.refusal : undefined);
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
    const { documentId } = this.state();
    if (!documentId) return;
    if (!this.open.knows(of)) {
      try {
        const { diff } = await this.api.entry(documentId, of);
        if (this.state().documentId !== documentId) return;
        this.open.remember(of, diff as Diff<ListName<L>>);
      } catch (error) {
        const message =
          error instanceof Error ? error.message : $localize`That could not be undone. Try again.`;
        this.store.dispatch(
          this.events.changeNotMade({ refusal: { code: 'revert.unknown', message }, step: 'do' }),
        );
        return;
      }
    }
    this.make(this.revertOf(of), step);
  }
}

/** Changes of the house that is open. */
@Injectable({ providedIn: 'root' })
export class Desk extends DocumentDesk<typeof TABLES, HouseHead, ChangeBody> {
  protected readonly open = inject(OpenHouse);
  protected readonly events = HouseEvents;
  protected readonly state = this.store.selectSignal(houseFeature.selectHouseState);
  protected revertOf(of: string): ChangeBody {
    return { kind: 'revert', of };
  }
  protected rightsProblem(actor: Actor, body: ChangeBody): RefusalIn | undefined {
    const house = this.open.view();
    return house && mayChange(actor, body, house, (id) => this.open.did(id));
  }
}

/** Changes of the crew book. */
@Injectable({ providedIn: 'root' })
export class CrewDesk extends DocumentDesk<typeof CREW_LISTS, CrewHead, CrewChangeBody> {
  protected readonly open = inject(OpenCrew);
  protected readonly events = CrewEvents;
  protected readonly state = this.store.selectSignal(crewFeature.selectCrewState);
  protected revertOf(of: string): CrewChangeBody {
    return { kind: 'revert', of };
  }
  protected rightsProblem(actor: Actor, body: CrewChangeBody): RefusalIn | undefined {
    return mayChangeCrew(actor, body, (id) => this.open.did(id));
  }
}
