import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, inject, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { CrewEvents } from '../state/document.events';
import { crewFeature, houseFeature } from '../state/document.feature';
import { Identity } from '../state/identity';
import { Session } from '../state/session';
import type { ReadFromDevice } from '../sync/hand-over';
import { HandOvers, NoHandOver } from '../sync/hand-over';
import { saveText } from './save-text';
import { ToldPipe } from './term';
import { toldWhy } from './told-why';
import { WordsPipe } from './words';

/** Where there is no network at all: what is unsent goes to a lead's device as a file, and a lead takes such files in. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-hand-over',
  imports: [DatePipe, ToldPipe, WordsPipe],
  template: `
    @if (identity.standing() === 'person' && (unsent() || identity.isLead())) {
      <h2 i18n>Where there is no network at all</h2>
      @if (unsent(); as count) {
        <p>
          {{
            (count === 1 ? 'One change is unsent on this device.' : '{} changes are unsent on this device.')
              | words: count
          }}
          <ng-container i18n
            >A file brings them to a lead’s device. They stay here too and go out by themselves later: handing
            them over twice does no harm.</ng-container
          >
        </p>
      }
      <div class="actions">
        @if (unsent()) {
          @if (canShare) {
            <button i18n type="button" class="btn btn-main" (click)="handOver(true)">
              Hand over to a lead
            </button>
          }
          <button i18n type="button" class="btn btn-line" (click)="handOver(false)">
            Save the hand-over file
          </button>
        }
        @if (identity.isLead()) {
          <label class="btn btn-line file">
            <ng-container i18n>Take in a hand-over file</ng-container>&ngsp;
            <input type="file" accept=".txt,text/plain" class="visually-hidden" (change)="choose($event)" />
          </label>
        }
      </div>
      @if (read(); as from) {
        <section class="panel-form" role="alertdialog" aria-labelledby="from-device">
          <p id="from-device">
            <strong>{{ from.device.name }}</strong>&ngsp;<span class="soft"
              >{{ namesOf(from) }} · <span class="num">{{ from.madeAt | date: 'd MMM, HH:mm' }}</span></span
            >
          </p>
          <ul>
            @for (document of from.documents; track $index) {
              <li>
                {{ document.name || ('A house that this device has not seen' | words) }}:
                <span class="num">{{ document.count }}</span>
              </li>
            }
          </ul>
          @if (from.left) {
            <p role="alert">
              {{
                'Left out, because they cannot be read or were made by somebody who is not on that device: {}'
                  | words: from.left
              }}
            </p>
          }
          <div class="actions">
            <button
              i18n
              type="button"
              class="btn btn-main"
              [disabled]="from.changes.length === 0"
              (click)="takeIn(from)"
            >
              Take it in
            </button>
            <button i18n type="button" class="btn btn-line" (click)="read.set(undefined)">
              Leave it as it is
            </button>
          </div>
        </section>
      }
      @if (said(); as sentence) {
        <p role="status">{{ sentence }}</p>
      }
      @if (problem(); as problem) {
        <p role="alert">
          {{ problem.message | told }} <code>{{ problem.code }}</code>
        </p>
      }
    }
  `,
  styles: `
    .file {
      position: relative;
    }
    .file:focus-within {
      outline: 3px solid var(--focus, currentColor);
      outline-offset: 2px;
    }
    ul {
      margin: 0 0 0.6rem;
      padding-left: 1.2rem;
    }
  `,
})
export class HandOverPanel {
  private readonly handOvers = inject(HandOvers);
  private readonly session = inject(Session);
  private readonly store = inject(Store);
  private readonly outboxes = [houseFeature, crewFeature].map(({ selectUnsent }) =>
    this.store.selectSignal(selectUnsent),
  );
  protected readonly identity = inject(Identity);
  /** A phone's own sheet takes files. */
  protected readonly canShare = canShare(new File([''], 'hand-over.txt', { type: 'text/plain' }));
  protected readonly unsent = signal(0);
  protected readonly read = signal<ReadFromDevice | undefined>(undefined);
  protected readonly said = signal<string | undefined>(undefined);
  protected readonly problem = signal<{ readonly code: string; readonly message: string } | undefined>(
    undefined,
  );

  constructor() {
    // A lead's device is to know whose key signs what before the network goes away.
    if (this.identity.standing() === 'person' && this.identity.isLead()) void this.handOvers.learn();
    effect(() => {
      for (const outbox of this.outboxes) outbox();
      untracked(() => void this.count());
    });
  }

  private async count(): Promise<void> {
    this.unsent.set(await this.handOvers.count());
  }

  protected namesOf({ device }: ReadFromDevice): string {
    return device.people.map(({ name }) => name).join(', ');
  }

  protected async handOver(share: boolean): Promise<void> {
    await this.trying(async () => {
      const at = new Date();
      const { text, count } = await this.handOvers.made(
        this.identity.me()?.crew?.id ?? '',
        this.session.deviceId,
        at,
      );
      const minute = at.toISOString().slice(0, 16).replace('T', ' ').replace(':', '');
      const name = `${this.session.who().name} ${minute} hand-over.txt`;
      const file = new File([text], name, { type: 'text/plain' });
      if (share) await navigator.share({ files: [file] });
      else saveText(name, text, 'text/plain');
      this.said.set(
        count === 1
          ? $localize`One change stands in the file.`
          : $localize`${count} changes stand in the file.`,
      );
    });
  }

  protected async choose(event: Event): Promise<void> {
    const field = event.target as HTMLInputElement;
    const [file] = field.files ?? [];
    if (!file) return;
    await this.trying(async () => {
      this.read.set(undefined);
      this.read.set(await this.handOvers.read(await file.text(), this.identity.me()?.crew?.id ?? ''));
    });
    // The same file may be chosen again.
    field.value = '';
  }

  protected async takeIn(from: ReadFromDevice): Promise<void> {
    await this.trying(async () => {
      const news = await this.handOvers.takeIn(from);
      this.read.set(undefined);
      this.said.set(
        $localize`Taken in: ${news} of ${from.changes.length} changes did not wait here yet. They go out with yours.`,
      );
      this.store.dispatch(CrewEvents.changeWaits());
      await this.count();
    });
  }

  private async trying(work: () => Promise<void>): Promise<void> {
    this.problem.set(undefined);
    this.said.set(undefined);
    try {
      await work();
    } catch (error) {
      // Whoever closes the phone's own sheet has changed their mind.
      if ((error as Error).name === 'AbortError') return;
      this.problem.set(
        error instanceof NoHandOver
          ? { code: error.code, message: error.message }
          : { code: 'hand-over.failed', message: toldWhy(error) },
      );
    }
  }
}

function canShare(file: File): boolean {
  return 'canShare' in navigator && navigator.canShare({ files: [file] });
}
