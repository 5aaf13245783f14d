import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { adding, boxName } from '@mule-tally/core';
import type { BoxShowing } from '@mule-tally/core/work';
import { SHOWING_STEP, photosOfBox, roomShowing } from '@mule-tally/core/work';
import { OnlyFor } from '../parts/only-for';
import { PhotoStrip } from '../parts/photo-strip';
import { TallyMarks } from '../parts/tally-marks';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';
import { answerTo } from '../work/answer';
import { tapeText } from './tape-text';

/** The round after the board is up: which boxes show, where the tape and the photo find those that do not, where a fault could be. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-board-sheet',
  imports: [DatePipe, OnlyFor, PhotoStrip, RouterLink, TallyMarks, ToldPipe, Value, WordsPipe],
  template: `
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    @if (showing(); as showing) {
      <p class="of">
        <span class="cut">{{ roomName() }}</span>
        <strong i18n class="num">Boxes showing: {{ showing.showing }} of {{ showing.of }}</strong>
      </p>
      <fieldset mtOnlyFor="hand">
        @if (left().length) {
          <div class="act-bar shown">
            <button type="button" class="btn btn-main" (click)="allShow()">
              {{
                (left().length === showing.of ? 'All {} show' : 'The other {} show') | words: left().length
              }}
            </button>
          </div>
        }
        <ul class="rows">
          @for (box of boxes(); track box.boxId) {
            <li [attr.data-is]="box.is">
              <strong class="num tag">{{ box.tag }}</strong>
              @if (box.is === 'shows') {
                <span i18n class="made">✓ shows</span>
              } @else if (box.is === 'missing') {
                <strong i18n class="needs">buried</strong>
              }
              @if (box.seen; as seen) {
                <span class="soft">{{ crew.nameOf(seen.by) }}, {{ seen.at | date: 'd MMM, HH:mm' }}</span>
              }
              <span class="acts">
                @if (box.is !== 'shows') {
                  <button
                    type="button"
                    class="btn btn-line"
                    [attr.aria-label]="'{} shows' | words: box.tag"
                    (click)="say([box.boxId], 'pass')"
                  >
                    {{ 'Shows' | words }}
                  </button>
                }
                @if (box.is !== 'missing') {
                  <button
                    type="button"
                    class="btn btn-line"
                    [attr.aria-label]="'{} is not to be seen' | words: box.tag"
                    (click)="say([box.boxId], 'fail')"
                  >
                    {{ 'Not to be seen' | words }}
                  </button>
                }
              </span>
              @if (box.is === 'missing') {
                <div class="find">
                  <p>{{ box.tape }}</p>
                  @if (box.photos.length) {
                    <mt-photo-strip
                      [photos]="box.photos"
                      (picked)="open(box.boxId, $event.corner, $event.id)"
                    />
                  } @else {
                    <p i18n class="soft">No photo shows it.</p>
                  }
                  <a
                    i18n
                    [routerLink]="[]"
                    [queryParams]="{ of: 'walls', wall: box.corner, box: box.boxId, photo: null }"
                    queryParamsHandling="merge"
                    >Behind its wall</a
                  >
                </div>
              }
            </li>
          }
        </ul>
      </fieldset>
    } @else {
      <p i18n class="soft">Pick a room.</p>
    }

    <h2 i18n>A run that no longer rings</h2>
    <p>
      {{
        'After the board is up, ring every circuit out again: a drywall screw shorts or cuts what rang before. Where one could have hit:'
          | words
      }}
    </p>
    <a
      i18n
      class="btn btn-line"
      [routerLink]="[]"
      [queryParams]="{ of: 'test', round: 'boarded' }"
      queryParamsHandling="merge"
      >Ring out again</a
    >
    <label class="by"
      ><span i18n class="name">Run</span>
      <select class="form-select" [mtValue]="run() ?? ''" (mtValueChange)="go({ run: $event || null })">
        <option i18n value="">which…</option>
        @for (one of runs(); track one.id) {
          <option [value]="one.id">{{ one.name }}</option>
        }
      </select></label
    >
    @if (stretches(); as all) {
      <ol class="rows along">
        @for (stretch of all; track $index) {
          <li>
            <a
              [routerLink]="[]"
              [queryParams]="{
                of: 'walls',
                room: stretch.roomId,
                wall: stretch.corner,
                box: null,
                photo: null,
              }"
              queryParamsHandling="merge"
              >{{ stretch.wall }}</a
            >
            <span>{{ stretch.where }}</span>
            @if (stretch.plated) {
              <strong class="needs">{{
                (stretch.plated === 1
                  ? 'one stud there needs its plate: look for it first'
                  : '{} studs there need their plates: look for them first'
                ) | words: stretch.plated
              }}</strong>
            }
          </li>
        } @empty {
          <li i18n class="soft">Its way is not known: it goes through rooms that are not drawn.</li>
        }
      </ol>
    }

    <h2 i18n>The house</h2>
    <p class="whole"><mt-tally [done]="whole().showing" [of]="whole().of" [atMost]="40" /></p>
    <ul class="rows">
      @for (entry of rooms(); track entry.roomId) {
        @if (entry.showing < entry.of) {
          <li>
            <button type="button" class="btn btn-line" (click)="go({ room: entry.roomId })">
              {{ entry.name }}
            </button>
            <span i18n class="num">{{ entry.showing }} of {{ entry.of }}</span>
            @if (entry.missing) {
              <strong i18n class="needs">{{ entry.missing }} buried</strong>
            }
          </li>
        }
      }
    </ul>
  `,
  styleUrl: './walls-sheet.scss',
  styles: `
    .tag {
      min-width: 3.2rem;
      font-size: 1.2rem;
    }
    .acts {
      display: flex;
      gap: 8px;
      margin-left: auto;
    }
    .find {
      width: 100%;
    }
    .find p {
      margin: 0.2rem 0;
      font-size: 1.15rem;
    }
    .made {
      color: var(--done);
    }
    .by {
      display: block;
      max-width: 30rem;
    }
  `,
})
export class BoardSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  protected readonly crew = inject(Crew);
  readonly room = input<string>();
  readonly run = input<string>();
  protected readonly problem = signal<string | undefined>(undefined);

  protected readonly roomName = computed(() => this.derived.reader()?.get('rooms', this.room() ?? '')?.name);
  protected readonly showing = computed(() => {
    const [reader, room] = [this.derived.reader(), this.room()];
    return reader && room && reader.get('rooms', room) ? roomShowing(reader, room) : undefined;
  });
  protected readonly left = computed(() => this.showing()?.boxes.filter(({ is }) => is === 'open') ?? []);
  protected readonly boxes = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    const rank = { missing: 0, open: 1, shows: 2 };
    return (this.showing()?.boxes ?? [])
      .map((box) => ({
        ...box,
        tag: boxName(reader, box.boxId),
        corner: reader.get('boxes', box.boxId)?.corner ?? null,
        tape: this.tapeText(box),
        photos: photosOfBox(reader, box.boxId).slice(0, 4),
      }))
      .sort((a, b) => rank[a.is] - rank[b.is]);
  });
  private tapeText({ tape }: BoxShowing): string {
    if (!tape)
      return $localize`Where it is to be was not said: look in the photos, and at where its cables come in.`;
    const where = tapeText(this.derived.units(), tape);
    return $localize`Wall ${tape.number}\: ${where}`;
  }
  protected readonly rooms = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return reader
      .all('rooms')
      .toSorted((a, b) => a.order - b.order)
      .map(({ id, name }) => ({ ...roomShowing(reader, id), name }));
  });
  protected readonly whole = computed(() => ({
    showing: this.rooms().reduce((sum, { showing }) => sum + showing, 0),
    of: this.rooms().reduce((sum, { of }) => sum + of, 0),
  }));

  /** Runs of the room first. */
  protected readonly runs = computed(() => {
    const [reader, say, room] = [this.derived.reader(), this.derived.words()?.say, this.room()];
    if (!reader || !say) return [];
    const isHere = (boxId: string): boolean => reader.get('boxes', boxId)?.roomId === room;
    return reader
      .all('runs')
      .map((run) => ({
        id: run.id,
        name: say.run(run.id),
        here: isHere(run.from.boxId) || isHere(run.to.boxId),
      }))
      .sort((a, b) => Number(b.here) - Number(a.here));
  });
  private readonly along = answerTo<'stretches'>(() => {
    const runId = this.run();
    return runId && this.derived.reader()?.get('runs', runId) ? { about: 'stretches', runId } : undefined;
  });
  protected readonly stretches = computed(() => {
    const reader = this.derived.reader();
    const found = this.along.value();
    // What was found of another run is not this one's.
    if (!reader || found?.runId !== this.run() || !found) return undefined;
    const units = this.derived.units();
    return found.stretches.map(({ roomId, corner, number, from, to, plated, holes }) => {
      const room = reader.get('rooms', roomId)?.name ?? '';
      const [low, high] = [from.heightIn, to.heightIn].sort((a, b) => a - b);
      const [near, far] = [from.fromCornerIn, to.fromCornerIn].sort((a, b) => a - b);
      const up =
        high! - low! < 2
          ? $localize`${units.short(low!)} up`
          : $localize`${units.short(low!)} to ${units.short(high!)} up`;
      const across =
        far! - near! < 2
          ? $localize`${units.long(near!)} from the right corner`
          : $localize`${units.long(near!)} to ${units.long(far!)} from the right corner`;
      const members = holes === 1 ? $localize`one stud` : $localize`${holes} studs`;
      return {
        roomId,
        corner,
        plated,
        wall: $localize`${room}, wall ${number}`,
        where: holes ? $localize`${up}, ${across}, through ${members}` : $localize`${up}, ${across}`,
      };
    });
  });

  protected go(params: Record<string, string | null>): void {
    void this.router.navigate([], { queryParams: params, queryParamsHandling: 'merge', replaceUrl: true });
  }
  protected open(box: string, corner: string | undefined, photo: string): void {
    this.go({ of: 'walls', wall: corner ?? null, box, photo });
  }
  protected allShow(): void {
    this.say(
      this.left().map(({ boxId }) => boxId),
      'pass',
    );
  }
  protected say(boxIds: readonly string[], result: 'pass' | 'fail'): void {
    const at = new Date().toISOString();
    const by = this.session.who().id;
    const changes = boxIds.map((boxId) =>
      adding('records', { id: crypto.randomUUID(), kind: 'tick', at, by, boxId, step: SHOWING_STEP, result }),
    );
    this.problem.set(
      this.desk.make(
        changes.length === 1
          ? changes[0]!
          : { kind: 'group', title: $localize`${changes.length} boxes show after the board`, changes },
      )?.message,
    );
  }
}
