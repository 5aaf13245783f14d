import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
} from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { CableId, Pull } from '@mule-tally/core';
import type { Units } from '@mule-tally/core/work';
import { pulledLengthIn, removing, setting, standingPull } from '@mule-tally/core';
import { CUT_STEP, MOVED_STEP, askedOfPull, cutOf, readLength, stillStruck } from '@mule-tally/core/work';
import { startWith, switchMap } from 'rxjs';
import * as z from 'zod';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { PhotosOf } from '../parts/photos-of';
import { formOf, problemOf } from '../parts/zod-form';
import { Crew } from '../state/crew';
import { Reels } from '../state/reels';
import { Session } from '../state/session';
import { loggedPull, withReel } from './log-pull';
import { markText } from './mark-text';
import { Strikes, StruckLine } from '../parts/struck-line';

/** A mark on the sheath, in feet of what is printed there. */
const markEntry = ({ system, ofMark }: Units) =>
  z
    .string()
    .transform((text) => (text.trim() === '' ? undefined : ofMark(Number(text.replace(',', '.')))))
    .refine(
      (feet) => feet === undefined || feet >= 0,
      system === 'metric'
        ? $localize`Marks and lengths are numbers of meters, such as 3.5.`
        : $localize`Marks and lengths are numbers of feet, such as 12 or 12.5.`,
    );

/** What is entered of a pull. */
const pullEntry = (units: Units) =>
  z
    .object({
      cable: z.string(),
      reel: z.string(),
      start: markEntry(units),
      end: markEntry(units),
      length: z
        .string()
        .transform((text) => readLength(text, units.system))
        .refine(
          (inches) => inches === undefined || inches >= 0,
          units.system === 'metric'
            ? $localize`The length is in meters, such as 3.5.`
            : $localize`Marks and lengths are numbers of feet, such as 12 or 12.5.`,
        ),
      by: z.string(),
    })
    .refine(
      ({ start, end }) => (start === undefined) === (end === undefined),
      $localize`Both marks are needed, or none.`,
    );

/** Logs a pull: the second touch. Marks or a length may be added; without either the run is simply in. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-pull-form',
  imports: [PhotosOf, StruckLine, ToldPipe, WordsPipe, ReactiveFormsModule],
  template: `
    <form class="panel-form" [formGroup]="form()" (ngSubmit)="log()">
      @if (standing(); as pull) {
        <p>
          <ng-container i18n
            >In: <span class="num">{{ pull.cable ?? ('its wires' | words) }}</span></ng-container
          >
          @if (length(pull); as text) {
            , <span class="num">{{ text }}</span>
            @if (pull.lengthFrom === 'planned') {
              <span i18n class="soft"> as planned</span>
            } @else if (pull.lengthFrom === 'shared') {
              <span i18n class="soft"> shared out between marks</span>
            }
          }
          <ng-container i18n>, by {{ crew.nameOf(pull.by) }}{{ reelOf(pull) }}.</ng-container>
        </p>
        <div class="actions">
          <button i18n type="button" class="btn btn-danger-line" (click)="scrap(pull)">
            Scrap this pull
          </button>
          <button i18n type="button" class="btn btn-danger-line" (click)="cutOff(pull)">
            Cut by another trade
          </button>
          <button i18n type="button" class="btn btn-line" (click)="moved(pull)">
            Moved by another trade
          </button>
          <button i18n type="button" class="btn btn-line" (click)="takeBack(pull)">
            It was never pulled
          </button>
          <button i18n type="button" class="btn btn-line" (click)="finished.emit()">Close</button>
        </div>
        @if (isStruck()) {
          <mt-struck-line [runId]="pull.runId" />
        } @else {
          <mt-photos-of [runId]="pull.runId" />
        }
      } @else {
        <mt-struck-line [runId]="runId()" />
        <div class="fields">
          @if (!isRaceway()) {
            <label
              ><span i18n class="name">Cable</span>
              <select class="form-select" formControlName="cable">
                @for (id of cables(); track id) {
                  <option [value]="id">{{ id }}</option>
                }
              </select></label
            >
          }
          @if (reels().length) {
            <label
              ><span i18n class="name">Off</span>
              <select class="form-select" formControlName="reel">
                <option i18n value="">not said</option>
                @for (known of reels(); track known.reel.id) {
                  <option [value]="known.reel.id">
                    {{ known.reel.name }} ({{ units().long(max(known.leftIn)) }})
                  </option>
                }
              </select></label
            >
          }
          <label
            ><span i18n class="name">Mark at the start ({{ units().typed }})</span
            ><input class="form-control num" inputmode="decimal" formControlName="start"
          /></label>
          <label
            ><span i18n class="name">Mark at the end ({{ units().typed }})</span
            ><input class="form-control num" inputmode="decimal" formControlName="end"
          /></label>
          <label
            ><span i18n class="name">or length ({{ units().typed }})</span
            ><input class="form-control num" formControlName="length" [placeholder]="lengthExample()"
          /></label>
          <label
            ><span i18n class="name">Pulled by</span>
            <select class="form-select" formControlName="by">
              @for (person of crew.people(); track person.id) {
                <option [value]="person.id">{{ person.name }}</option>
              }
            </select></label
          >
        </div>
        @if (problem(); as sentence) {
          <p role="alert" class="problem">{{ sentence | told }}</p>
        }
        @for (sentence of asked(); track sentence) {
          <p role="alert" class="problem">{{ sentence }}</p>
        }
        <div class="actions">
          <button type="submit" class="btn btn-main">
            {{ (asked().length ? 'It is right: log it' : 'Log it: in') | words }}
          </button>
          <button i18n type="button" class="btn btn-line" (click)="log('part')">Only part of the way</button>
          <button i18n type="button" class="btn btn-line" (click)="finished.emit()">Close</button>
        </div>
      }
    </form>
  `,
  styles: `
    .actions {
      margin-top: 0.7rem;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
      margin: 0.5rem 0 0;
    }
  `,
})
export class PullForm {
  private readonly derived = inject(Derived);
  protected readonly lengthExample = computed(() =>
    this.units().typed === 'm' ? '3.5' : $localize`12 or 12'6`,
  );
  protected readonly units = this.derived.units;
  private readonly desk = inject(Desk);
  protected readonly crew = inject(Crew);
  private readonly known = inject(Reels);
  private readonly session = inject(Session);
  private readonly strikes = inject(Strikes);
  readonly runId = input.required<string>();
  readonly cable = input<CableId | undefined>();
  readonly finished = output();

  protected readonly cables = computed(() => this.derived.trade().cables.map(({ id }) => id));
  private readonly entry = computed(() => pullEntry(this.units()));
  protected readonly form = linkedSignal(() =>
    formOf(
      {
        cable: this.cable() ?? this.cables()[0] ?? '',
        reel: '',
        start: '',
        end: '',
        length: '',
        by: untracked(this.session.who).id,
      },
      this.entry(),
    ),
  );
  private readonly typed = toSignal(
    toObservable(this.form).pipe(switchMap((form) => form.valueChanges.pipe(startWith(form.value)))),
  );
  /** Never told as less than nothing. */
  protected readonly max = (inches: number): number => Math.max(0, inches);
  /** Reels of the crew with this cable. */
  protected readonly reels = computed(() => {
    const cable = this.typed()?.cable;
    if (this.isRaceway()) return [];
    return this.known.all().filter(({ reel, isInStock }) => isInStock && reel.cable === cable);
  });
  protected readonly problem = signal<string | undefined>(undefined);
  /** What was asked about what is typed. */
  protected readonly asked = signal<readonly string[]>([]);
  protected readonly isRaceway = computed(
    () => this.derived.reader()?.get('runs', this.runId())?.kind === 'raceway',
  );
  protected readonly standing = computed(() => {
    const reader = this.derived.reader();
    const pull = reader && standingPull(reader, this.runId());
    return pull?.state === 'in' ? pull : undefined;
  });

  protected readonly isStruck = computed(() => {
    const reader = this.derived.reader();
    return reader !== undefined && stillStruck(reader, this.runId()) !== undefined;
  });

  /** ", off Reel 4" */
  protected reelOf({ reelId }: Pull): string {
    const reel = reelId && this.derived.reader()?.get('reels', reelId);
    return reel ? $localize`, off ${reel.name}` : '';
  }

  protected length(pull: Pull): string | undefined {
    const inches = pulledLengthIn(pull);
    return inches === undefined ? undefined : this.derived.units().long(inches);
  }

  protected log(state: 'in' | 'part' = 'in'): void {
    const read = this.entry().safeParse(this.form().getRawValue());
    this.problem.set(read.success ? undefined : problemOf(this.form()));
    if (!read.success) return this.asked.set([]);
    const { cable, reel, start: startMark, end: endMark, length: lengthIn, by } = read.data;
    const taken = this.reels().find((known) => known.reel.id === reel)?.reel;
    const told = {
      runId: this.runId(),
      cable: this.isRaceway() ? undefined : cable,
      reel: taken,
      startMark,
      endMark,
      lengthIn,
      by,
      state,
    };
    const reader = this.derived.reader();
    if (!reader) return;
    const run = reader.get('runs', told.runId);
    const plannedIn = run && !this.isRaceway() ? cutOf(reader, run).lengthIn : undefined;
    const isWhole = state === 'in';
    const questions = askedOfPull(
      reader,
      { reelId: taken?.id, startMark, endMark, lengthIn, ...(isWhole && { plannedIn }) },
      this.known.before(),
    ).map((question) => markText(question, this.units()));
    // Asked once about what was typed; whoever logs the same again means it.
    if (questions.some((one) => !this.asked().includes(one))) return this.asked.set(questions);
    const refusal = this.desk.make(withReel(reader, taken, [loggedPull(reader, told)]));
    if (refusal) this.problem.set(refusal.message);
    else this.finished.emit();
  }

  protected scrap(pull: Pull): void {
    if (!this.desk.make(setting('pulls', pull.id, { state: 'scrapped' }))) this.finished.emit();
  }

  /** Another trade cut it: what hung there is scrap, and the run is to be pulled again. */
  protected cutOff(pull: Pull): void {
    this.problem.set(this.strikes.strike(pull.runId, CUT_STEP));
  }
  /** Another trade moved it: it hangs there still, and somebody has to look at it. */
  protected moved(pull: Pull): void {
    this.problem.set(this.strikes.strike(pull.runId, MOVED_STEP));
  }

  protected takeBack(pull: Pull): void {
    if (!this.desk.make(removing('pulls', pull.id))) this.finished.emit();
  }
}
