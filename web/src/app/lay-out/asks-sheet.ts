import { OnlyFor } from '../parts/only-for';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Ask, Circuit, Fields } from '@mule-tally/core';
import { adding, removing, setting } from '@mule-tally/core';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';

const KINDS: readonly { readonly kind: Ask['kind']; readonly title: string }[] = [
  { kind: 'blocking', title: $localize`Blocking to ask the framer for` },
  { kind: 'pour', title: $localize`In before the pour` },
  { kind: 'siding', title: $localize`In before the siding` },
];

/** What others have to be asked, and what cannot wait: nameplates, blocking, what goes in before the pour or the siding. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-asks-sheet',
  imports: [OnlyFor, ToldPipe, Value, WordsPipe],
  template: `
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    <h2 i18n>Nameplates</h2>
    <p class="soft">
      {{
        'Breaker and wire of these are a guess until somebody has read the plate. Their cable is not offered for pulling before.'
          | words
      }}
    </p>
    <ul class="rows">
      @for (circuit of plates(); track circuit.id) {
        <li>
          <span class="what"
            ><strong class="num">{{ circuit.number }}</strong> {{ circuit.name }}</span
          >
          <fieldset mtOnlyFor="lead">
            <label
              ><span class="visually-hidden">{{ 'Breaker of circuit {}' | words: circuit.number }}</span>
              <select
                class="form-select"
                [mtValue]="circuit.breakerAmps"
                (mtValueChange)="set(circuit, { breakerAmps: $event })"
              >
                @for (size of sizes; track size) {
                  <option [value]="size">{{ size }} A</option>
                }
              </select></label
            >
            @if (circuit.nameplateOpen) {
              <button
                type="button"
                class="btn btn-main"
                [attr.aria-label]="'The plate of {} is read' | words: circuit.name"
                (click)="set(circuit, { nameplateOpen: false })"
              >
                {{ 'Read' | words }}
              </button>
            } @else {
              <button
                type="button"
                class="btn btn-line"
                [attr.aria-label]="'The plate of {} is not read yet' | words: circuit.name"
                (click)="set(circuit, { nameplateOpen: true })"
              >
                {{ 'Read ✓' | words }}
              </button>
            }
          </fieldset>
        </li>
      } @empty {
        <li i18n class="soft">No appliance goes by its plate.</li>
      }
    </ul>
    @for (list of lists(); track list.kind) {
      <h2>{{ list.title }}</h2>
      <fieldset mtOnlyFor="hand">
        <label class="due"
          ><span i18n class="name">Has to be in by</span>
          <input
            type="date"
            class="form-control"
            [mtValue]="list.dueOn"
            mtOnLeave
            [disabled]="list.asks.length === 0"
            (mtValueChange)="setDue(list.kind, $event)"
        /></label>
      </fieldset>
      <ul class="rows">
        @for (entry of list.asks; track entry.ask.id) {
          <li [class.done]="entry.ask.doneAt">
            <span class="what">
              @if (entry.tag) {
                <strong class="num">{{ entry.tag }}</strong>
              }
              {{ entry.where }}
              @if (entry.ask.note && entry.ask.roomId) {
                <span class="soft">{{ entry.ask.note }}</span>
              }
            </span>
            <fieldset mtOnlyFor="hand">
              <button
                type="button"
                class="btn btn-line"
                [attr.aria-label]="'Done: {}' | words: entry.tag || entry.where"
                [attr.aria-pressed]="!!entry.ask.doneAt"
                (click)="toggle(entry.ask)"
              >
                {{ (entry.ask.doneAt ? 'Done ✓' : 'Done') | words }}
              </button>
              <button
                type="button"
                class="btn btn-line"
                [attr.aria-label]="'Take out: {}' | words: entry.tag || entry.where"
                (click)="remove(entry.ask.id)"
              >
                ×
              </button>
            </fieldset>
          </li>
        } @empty {
          <li i18n class="soft">Nothing.</li>
        }
      </ul>
      <fieldset mtOnlyFor="hand">
        <form class="add" (submit)="add(list.kind, $event)">
          <input
            class="form-control"
            name="note"
            maxlength="200"
            [attr.aria-label]="'One more: {}' | words: list.title"
            i18n-placeholder
            placeholder="One more, in words"
          />
          <button i18n type="submit" class="btn btn-line">Add</button>
        </form>
      </fieldset>
    }
  `,
  styles: `
    .rows {
      list-style: none;
      padding: 0;
      margin: 0 0 0.4rem;
      max-width: 56rem;
    }
    .rows li {
      display: flex;
      gap: 0.6rem;
      align-items: center;
      border-bottom: 1px solid var(--rule);
      padding: 0.25rem 0;
    }
    .what {
      flex: 1;
    }
    .what .soft {
      display: block;
    }
    .done .what {
      text-decoration: line-through;
    }
    .add,
    .due {
      display: flex;
      gap: 0.6rem;
      max-width: 30rem;
      align-items: center;
      margin-bottom: 0.4rem;
    }
    .due .name {
      white-space: nowrap;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
  `,
})
export class AsksSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly sizes = [15, 20, 25, 30, 35, 40, 45, 50, 60];

  protected readonly plates = computed(() =>
    (this.derived.reader()?.all('circuits') ?? [])
      .filter(({ nameplateOpen }) => nameplateOpen !== undefined)
      .toSorted((a, b) => a.number - b.number),
  );

  protected readonly lists = computed(() => {
    const reader = this.derived.reader();
    const all = reader?.all('asks') ?? [];
    return KINDS.map(({ kind, title }) => {
      const asks = all
        .filter((ask) => ask.kind === kind)
        .map((ask) => ({
          ask,
          tag: (ask.boxId && reader?.get('boxes', ask.boxId)?.tag) || '',
          where: (ask.roomId && reader?.get('rooms', ask.roomId)?.name) || (ask.note ?? ''),
        }));
      return { kind, title, asks, dueOn: asks.find(({ ask }) => ask.dueOn)?.ask.dueOn ?? '' };
    });
  });

  protected set(circuit: Circuit, fields: Fields<'circuits'>): void {
    this.problem.set(this.desk.make(setting('circuits', circuit.id, fields))?.message);
  }

  protected setDue(kind: Ask['kind'], typed: string): void {
    const asks = this.lists().find((list) => list.kind === kind)!.asks;
    const changes = asks.map(({ ask }) => setting('asks', ask.id, { dueOn: typed || null }));
    if (changes.length)
      this.problem.set(
        this.desk.make({ kind: 'group', title: $localize`Set a day: ${typed || '—'}`, changes })?.message,
      );
  }

  protected toggle(ask: Ask): void {
    this.problem.set(
      this.desk.make(
        setting('asks', ask.id, {
          doneAt: ask.doneAt ? null : new Date().toISOString(),
          doneBy: ask.doneAt ? null : this.session.who().id,
        }),
      )?.message,
    );
  }

  protected add(kind: Ask['kind'], event: SubmitEvent): void {
    event.preventDefault();
    const field = (event.target as HTMLFormElement).elements.namedItem('note') as HTMLInputElement;
    const note = field.value.trim();
    if (!note) return;
    const refusal = this.desk.make(adding('asks', { id: crypto.randomUUID(), kind, note }));
    this.problem.set(refusal?.message);
    if (!refusal) field.value = '';
  }

  protected remove(id: string): void {
    this.problem.set(this.desk.make(removing('asks', id))?.message);
  }
}
