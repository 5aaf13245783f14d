import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Fields, WriteUp } from '@mule-tally/core';
import { adding, boxName, boxesInRoom, removing, setting } from '@mule-tally/core';
import { openWriteUps, writeUpStanding } from '@mule-tally/core/work';
import { OnlyFor } from '../parts/only-for';
import { PhotosOf } from '../parts/photos-of';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Rights } from '../state/rights';
import { Session } from '../state/session';

const RANK = { 'to-fix': 0, 'to-pass': 1, passed: 2 } as const;

/** Today by the calendar of this device: "2026-11-29". */
const today = (): string => {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
};

/** What an inspector wrote up: in which words, where, who fixes it, and that it has passed since. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-write-ups',
  imports: [DatePipe, OnlyFor, PhotosOf, RouterLink, ToldPipe, Value, WordsPipe],
  template: `
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    @if (left(); as count) {
      <p class="verdict some">
        <strong>{{
          (count === 1 ? '1 write-up has not passed' : '{} write-ups have not passed') | words: count
        }}</strong>
      </p>
    }
    <ul class="rows">
      @for (row of rows(); track row.writeUp.id) {
        <li [attr.data-stands]="row.stands" [class.done]="row.stands === 'passed'">
          <span class="place">
            {{ row.where }} · {{ row.writeUp.on | date: 'd MMM y' }}
            @if (row.writeUp.inspector) {
              · {{ row.writeUp.inspector }}
            }
            @if (row.writeUp.section) {
              · <span class="source">{{ row.writeUp.section }}</span>
            }
          </span>
          <span class="words">{{ row.writeUp.words }}</span>
          @if (row.isGone) {
            <p i18n class="step needs">
              What it was written about is no longer in the plan. A lead says what became of it.
            </p>
          }
          @switch (row.stands) {
            @case ('to-fix') {
              <p class="step">
                @if (row.fixer) {
                  <ng-container i18n>To fix: {{ row.fixer }}</ng-container>
                } @else {
                  <ng-container i18n>To fix: nobody yet</ng-container>
                }
              </p>
            }
            @case ('to-pass') {
              <p class="step needs">
                <ng-container i18n
                  >Fixed by {{ row.fixedBy }}, {{ row.writeUp.fixedAt | date: 'd MMM, HH:mm' }}. To be looked
                  at again</ng-container
                >{{ row.writeUp.againOn ? ': ' + (row.writeUp.againOn | date: 'd MMM y') : '' }}
              </p>
            }
            @default {
              <p i18n class="step">✓ passed {{ row.writeUp.passedOn | date: 'd MMM y' }}</p>
            }
          }
          <fieldset mtOnlyFor="hand">
            <div class="acts no-print">
              @if (row.stands === 'to-fix' && (!row.isGone || rights.isLead())) {
                <button
                  type="button"
                  class="btn btn-main"
                  [attr.aria-label]="'Fixed: {}' | words: row.short"
                  (click)="fixed(row.writeUp)"
                >
                  {{ 'Fixed' | words }}
                </button>
              }
              @if (row.stands === 'to-pass') {
                <button
                  type="button"
                  class="btn btn-line"
                  [attr.aria-label]="'Not fixed: {}' | words: row.short"
                  (click)="set(row.writeUp, { fixedAt: null, fixedBy: null })"
                >
                  {{ 'Not fixed' | words }}
                </button>
              }
              @if (row.boxId) {
                <a
                  class="go"
                  routerLink="../make-up"
                  [queryParams]="{ room: row.roomId, box: row.boxId }"
                  queryParamsHandling="merge"
                  >{{ 'Open {}' | words: row.tag }}</a
                >
              }
              @if (rights.isLead()) {
                @if (row.stands === 'to-pass') {
                  <button
                    type="button"
                    class="btn btn-main"
                    [attr.aria-label]="'Passed: {}' | words: row.short"
                    (click)="set(row.writeUp, { passedOn: today() })"
                  >
                    {{ 'Passed' | words }}
                  </button>
                }
                @if (row.stands === 'passed') {
                  <button type="button" class="btn btn-line" (click)="set(row.writeUp, { passedOn: null })">
                    {{ 'Take back' | words }}
                  </button>
                } @else {
                  <label
                    ><span class="visually-hidden">{{ 'Who fixes it: {}' | words: row.short }}</span>
                    <select
                      class="form-select"
                      [mtValue]="row.writeUp.fixerId ?? ''"
                      (mtValueChange)="set(row.writeUp, { fixerId: $event || null })"
                    >
                      <option i18n value="">who fixes it…</option>
                      @for (person of crew.people(); track person.id) {
                        <option [value]="person.id">{{ person.name }}</option>
                      }
                    </select></label
                  >
                  <label class="again"
                    ><span i18n>Looked at again on</span>
                    <input
                      type="date"
                      class="form-control"
                      [mtValue]="row.writeUp.againOn ?? ''"
                      mtOnLeave
                      (mtValueChange)="set(row.writeUp, { againOn: $event || null })"
                  /></label>
                  <button
                    type="button"
                    class="btn btn-line"
                    [attr.aria-label]="'Take out: {}' | words: row.short"
                    (click)="remove(row.writeUp)"
                  >
                    ×
                  </button>
                }
              }
            </div>
          </fieldset>
          <mt-photos-of [writeUpId]="row.writeUp.id" />
        </li>
      } @empty {
        <li i18n class="soft">Nothing was written up.</li>
      }
    </ul>
    <fieldset mtOnlyFor="hand">
      <form
        class="panel-form no-print"
        (submit)="$event.preventDefault(); add(words, inspector.value, section.value, on.value)"
      >
        <h2 i18n>One more</h2>
        <div class="fields">
          <label class="wide"
            ><span i18n class="name">In the inspector’s words</span>
            <textarea #words class="form-control" maxlength="2000" required></textarea>
          </label>
          <label
            ><span i18n class="name">Room</span>
            <select class="form-select" [mtValue]="roomId()" (mtValueChange)="pickRoom($event)">
              <option i18n value="">the whole house</option>
              @for (one of rooms(); track one.id) {
                <option [value]="one.id">{{ one.name }}</option>
              }
            </select></label
          >
          <label
            ><span i18n class="name">Box</span>
            <select class="form-select" [mtValue]="boxId()" (mtValueChange)="boxId.set($event)">
              <option i18n value="">none</option>
              @for (one of boxes(); track one.id) {
                <option [value]="one.id">{{ one.tag }}</option>
              }
            </select></label
          >
          <label
            ><span i18n class="name">Inspector</span><input #inspector class="form-control" maxlength="200"
          /></label>
          <label
            ><span i18n class="name">Section</span><input #section class="form-control" maxlength="60"
          /></label>
          <label
            ><span i18n class="name">Day</span
            ><input #on type="date" class="form-control" required [value]="today()"
          /></label>
        </div>
        <button i18n type="submit" class="btn btn-main">Write it down</button>
      </form>
    </fieldset>
  `,
  styleUrl: './paper-sheet.scss',
  styles: `
    .again {
      display: flex;
      align-items: center;
      gap: 0.5rem;
    }
  `,
})
export class WriteUps {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  protected readonly rights = inject(Rights);
  protected readonly crew = inject(Crew);
  readonly room = input<string>();
  readonly box = input<string>();
  protected readonly today = today;
  protected readonly problem = signal<string | undefined>(undefined);

  protected readonly rooms = computed(() =>
    (this.derived.reader()?.all('rooms') ?? []).toSorted((a, b) => a.order - b.order),
  );
  /** Where one stands, until somebody says another place. */
  private readonly here = computed(() => ({ room: this.room(), box: this.box() }));
  protected readonly roomId = linkedSignal(() => this.here().room ?? '');
  protected readonly boxId = linkedSignal(() => this.here().box ?? '');
  protected readonly boxes = computed(() => {
    const reader = this.derived.reader();
    return reader && this.roomId()
      ? boxesInRoom(reader, this.roomId()).map(({ id }) => ({ id, tag: boxName(reader, id) }))
      : [];
  });
  protected readonly left = computed(() => {
    const reader = this.derived.reader();
    return reader ? openWriteUps(reader).length : 0;
  });

  /** What is to be fixed first, the latest inspection before the others. */
  protected readonly rows = computed(() => {
    const [reader, words] = [this.derived.reader(), this.derived.words()];
    if (!reader || !words) return [];
    return reader
      .all('writeUps')
      .map((writeUp) => {
        const { boxId, roomId, runId, circuitId, place } = writeUp;
        const at = boxId || roomId || runId || circuitId;
        return {
          ...writeUpStanding(writeUp),
          short: writeUp.words.slice(0, 60),
          where: at
            ? words.place({ boxId, roomId, runId, circuitId })
            : (place ?? $localize`The whole house`),
          boxId,
          roomId: boxId ? reader.get('boxes', boxId)?.roomId : roomId,
          tag: boxId ? boxName(reader, boxId) : '',
          fixer: writeUp.fixerId && this.crew.nameOf(writeUp.fixerId),
          fixedBy: writeUp.fixedBy ? this.crew.nameOf(writeUp.fixedBy) : '',
        };
      })
      .sort((a, b) => RANK[a.stands] - RANK[b.stands] || (a.writeUp.on < b.writeUp.on ? 1 : -1));
  });

  protected pickRoom(id: string): void {
    this.roomId.set(id);
    this.boxId.set('');
  }

  protected add(field: HTMLTextAreaElement, inspector: string, section: string, on: string): void {
    const words = field.value.trim();
    const say = this.derived.words();
    if (!words || !on || !say) return;
    const [roomId, boxId] = [this.roomId() || undefined, this.boxId() || undefined];
    const refusal = this.desk.make(
      adding('writeUps', {
        id: crypto.randomUUID(),
        words,
        on,
        at: new Date().toISOString(),
        by: this.session.who().id,
        ...(inspector.trim() && { inspector: inspector.trim() }),
        ...(section.trim() && { section: section.trim() }),
        ...(roomId && { roomId, place: say.place({ boxId, roomId }).slice(0, 200) }),
        ...(boxId && { boxId }),
      }),
    );
    this.problem.set(refusal?.message);
    if (!refusal) field.value = '';
  }

  protected fixed(writeUp: WriteUp): void {
    this.set(writeUp, { fixedAt: new Date().toISOString(), fixedBy: this.session.who().id });
  }
  protected set({ id }: WriteUp, fields: Fields<'writeUps'>): void {
    this.problem.set(this.desk.make(setting('writeUps', id, fields))?.message);
  }
  protected remove({ id }: WriteUp): void {
    this.problem.set(this.desk.make(removing('writeUps', id))?.message);
  }
}
