import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Storey } from '@mule-tally/core';
import { sameJson } from '@mule-tally/core';
import { laidDown, outlineOf, storeyPlan } from '@mule-tally/core/furnish';
import { readLength } from '@mule-tally/core/work';
import type { PdfPages } from '../parts/pdf-pages';
import { isPdf, openPdf } from '../parts/pdf-pages';
import type { Shrunk } from '../parts/shrink-picture';
import { NoPicture, shrunk, shrunkPicture } from '../parts/shrink-picture';
import { FilePick } from '../parts/file-pick';
import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Pictures } from '../state/pictures';
import { UnderlayWork } from './underlay-work';

/** A plan sheet is kept no larger than this: its lines stay sharp when a room of it fills a screen. */
const SHEET = { longestPx: 3600, mostBytes: 1.5 * 1024 * 1024 } as const;
const PREVIEW_PX = 300;

/** The plan sheet under a story: a photo, a scan, or a page of a PDF, fitted to the plan. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-underlay-fields',
  imports: [FilePick, ToldPipe, WordsPipe],
  template: `
    <details [open]="isOpen()" (toggle)="isOpen.set($any($event.target).open)">
      <summary i18n>Plan sheet under this floor</summary>
      @if (problem() ?? work.problem(); as sentence) {
        <p role="alert" class="problem">{{ sentence | told }}</p>
      }
      @if (busy(); as what) {
        <p role="status">{{ what }}</p>
      }
      @if (pages(); as pdf) {
        <div class="panel-form">
          <p>
            <strong>{{ fileName() }}</strong>
          </p>
          <label
            ><span class="name">{{ 'Page, of {}' | words: pdf.count }}</span>
            <input
              #page
              type="number"
              class="form-control num"
              min="1"
              [max]="pdf.count"
              [value]="shownPage()"
              (change)="showPage(page.valueAsNumber)"
          /></label>
          @if (preview(); as url) {
            <img [src]="url" i18n-alt alt="The page as it will lie under the plan" />
          }
          <div class="actions">
            <button i18n type="button" class="btn btn-main" [disabled]="busy()" (click)="takePage()">
              Put it under the plan
            </button>
            <button i18n type="button" class="btn btn-line" (click)="leavePdf()">Leave it</button>
          </div>
        </div>
      } @else if (storey().underlay; as sheet) {
        <p>
          <strong>{{ sheet.name }}</strong>
          @if (scaledBy(); as length) {
            <span i18n class="soft"> · to scale by {{ length }}</span>
          } @else {
            <span i18n class="unscaled"> · not to scale yet</span>
          }
        </p>
        @switch (work.picture()?.is) {
          @case ('coming') {
            <p i18n role="status" class="soft">The picture is coming…</p>
          }
          @case ('on-its-way') {
            <p i18n class="strip note">
              The picture is not on the server yet: it is still on its way from the device that it was taken
              with, or the house came in as a file without its pictures. Once it has arrived it appears here.
            </p>
          }
          @case ('away') {
            <p i18n class="strip note">
              This device does not have the picture yet, and the server cannot be reached.
            </p>
          }
        }
        @if (unsent(); as waits) {
          <p class="soft">
            @if (waits.refusal; as refusal) {
              <strong>{{ refusal.message | told }}</strong>
              <button i18n type="button" class="btn btn-line" (click)="pictures.sendAgain(sheet.asset)">
                Try again
              </button>
            } @else {
              <ng-container i18n>Kept on this device; it is sent when the server is there.</ng-container>
            }
          </p>
        }
        @if (pictures.isFailing()) {
          <p i18n class="problem">
            This device keeps no pictures: leave the page open until this one has been sent.
          </p>
        }
        <label
          ><span i18n class="name">How strongly it is drawn</span>
          <input
            #strength
            type="range"
            min="0.1"
            max="1"
            step="0.1"
            [value]="work.strength()"
            (input)="work.strength.set(strength.valueAsNumber)"
        /></label>
        <div class="actions">
          <button
            type="button"
            class="btn btn-line"
            [class.active]="work.mode() === 'marks'"
            [attr.aria-pressed]="work.mode() === 'marks'"
            [disabled]="busy() !== undefined"
            (click)="work.start('marks')"
          >
            {{ 'Set to scale, straighten' | words }}
          </button>
          <button
            type="button"
            class="btn btn-line"
            [class.active]="work.mode() === 'move'"
            [attr.aria-pressed]="work.mode() === 'move'"
            [disabled]="busy() !== undefined"
            (click)="work.start('move')"
          >
            {{ 'Move it' | words }}
          </button>
          <button i18n type="button" class="btn btn-line" (click)="work.turn(90)">Turn a quarter</button>
        </div>
        @if (work.mode() === 'marks') {
          <div class="panel-form">
            <p i18n>
              Drag the two marks on the plan to the ends of a length that is written on the sheet: the longer,
              the better. Make the plan larger to hit them.
            </p>
            <label
              ><span i18n class="name">From mark to mark it is, in the house</span>
              <input
                #length
                class="form-control num"
                inputmode="text"
                placeholder="24'6"
                (keydown.enter)="scale(length.value)"
            /></label>
            <div class="actions">
              <button i18n type="button" class="btn btn-main" (click)="scale(length.value)">
                Set to scale
              </button>
              <button i18n type="button" class="btn btn-line" (click)="work.straighten()">
                Turn so that this line is straight
              </button>
              <button i18n type="button" class="btn btn-line" (click)="work.done()">Done</button>
            </div>
          </div>
        } @else if (work.mode() === 'move') {
          <p>
            {{
              'Drag the sheet to where the plan lies on it; arrow keys move it by {}, with Shift by {1}.'
                | words: units().short(12) : units().short(1)
            }}
          </p>
          <button i18n type="button" class="btn btn-line" (click)="work.done()">Done</button>
        }
      } @else {
        <p i18n class="soft">
          A photo or scan of the plan, or a page of its PDF, lies under the rooms and is drawn after. It is
          made smaller on this device, and nobody outside of the crew sees it.
        </p>
      }
      @if (!pages()) {
        <div class="actions">
          <mt-file-pick
            accept="image/png,image/jpeg,image/webp,application/pdf"
            [disabled]="busy() !== undefined"
            (chosen)="choose($event)"
          >
            {{ (storey().underlay ? 'Choose another one' : 'Choose a picture or a PDF') | words }}
          </mt-file-pick>
          @if (storey().underlay) {
            <button i18n type="button" class="btn btn-danger-line" (click)="remove()">Take it away</button>
          }
        </div>
      }
    </details>
  `,
  styles: `
    summary {
      line-height: 44px;
      cursor: pointer;
      font-weight: 600;
    }
    label {
      display: block;
    }
    input[type='range'] {
      width: 100%;
      min-height: 44px;
    }
    img {
      display: block;
      max-width: 100%;
      border: 1px solid var(--rule);
      margin: 0.4rem 0;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    .unscaled {
      font-weight: 700;
    }
  `,
})
export class UnderlayFields {
  private readonly derived = inject(Derived);
  protected readonly pictures = inject(Pictures);
  protected readonly work = inject(UnderlayWork);
  readonly storey = input.required<Storey>();

  protected readonly isOpen = signal(false);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly busy = signal<string | undefined>(undefined);
  /** The PDF of which a page is chosen. */
  protected readonly pages = signal<PdfPages | undefined>(undefined);
  protected readonly fileName = signal('');
  protected readonly shownPage = signal(1);
  protected readonly preview = signal<string | undefined>(undefined);

  protected readonly units = this.derived.units;
  protected readonly scaledBy = computed(() => {
    const inches = this.storey().underlay?.scaledByIn;
    return inches === undefined ? undefined : this.derived.units().long(inches);
  });
  protected readonly unsent = computed(
    () => this.pictures.waiting().find(({ sha256 }) => sha256 === this.storey().underlay?.asset),
    { equal: sameJson },
  );

  protected async choose(file: File): Promise<void> {
    this.fileName.set(file.name.slice(0, 200) || $localize`Plan sheet`);
    await this.tried($localize`Reading ${file.name}…`, async () => {
      if (!(await isPdf(file))) return this.take(await shrunkPicture(file, SHEET));
      const pdf = await openPdf(file);
      if (pdf.count === 1) {
        try {
          await this.takeFrom(pdf, 1);
        } finally {
          pdf.close();
        }
        return;
      }
      this.pages.set(pdf);
      await this.drawPreview(pdf, 1);
    });
  }

  protected async showPage(page: number): Promise<void> {
    const pdf = this.pages();
    if (!pdf) return;
    const within = Math.min(pdf.count, Math.max(1, Math.round(page) || 1));
    await this.tried($localize`Drawing page ${within}…`, () => this.drawPreview(pdf, within));
  }
  private async drawPreview(pdf: PdfPages, page: number): Promise<void> {
    this.shownPage.set(page);
    this.preview.set(undefined);
    this.preview.set((await pdf.draw(page, PREVIEW_PX)).toDataURL());
  }
  protected async takePage(): Promise<void> {
    const pdf = this.pages();
    if (!pdf) return;
    await this.tried($localize`Drawing page ${this.shownPage()}…`, async () => {
      await this.takeFrom(pdf, this.shownPage());
      this.leavePdf();
    });
  }
  private async takeFrom(pdf: PdfPages, page: number): Promise<void> {
    const canvas = await pdf.draw(page, SHEET.longestPx);
    await this.take(await shrunk(canvas, canvas, SHEET));
  }
  protected leavePdf(): void {
    this.pages()?.close();
    this.pages.set(undefined);
    this.preview.set(undefined);
  }

  private async take({ bytes, type, widthPx, heightPx }: Shrunk): Promise<void> {
    const asset = await this.pictures.keep(bytes, type);
    const picture = { asset, name: this.fileName(), widthPx, heightPx };
    const old = this.storey().underlay;
    // A better picture of the same sheet lies where the old one lay.
    const isSameShape = old && Math.abs(old.widthPx / old.heightPx - widthPx / heightPx) < 0.01;
    this.work.write(
      isSameShape
        ? { ...old, ...picture, inPerPx: (old.inPerPx * old.widthPx) / widthPx }
        : laidDown(picture, this.frame()),
    );
  }
  /** Middle and width of what is drawn of the story. */
  private frame(): Parameters<typeof laidDown>[1] {
    const reader = this.derived.reader();
    const rooms = reader ? storeyPlan(reader, this.storey().id).rooms : [];
    const corners = rooms.flatMap(({ id }) => {
      const room = reader?.get('rooms', id);
      return (room && outlineOf(room)) ?? [];
    });
    if (corners.length === 0) return { middle: { xIn: 300, yIn: -250 }, widthIn: 600 };
    const [xs, ys] = [corners.map(({ xIn }) => xIn), corners.map(({ yIn }) => yIn)];
    const [left, right] = [Math.min(...xs), Math.max(...xs)];
    const [low, high] = [Math.min(...ys), Math.max(...ys)];
    return { middle: { xIn: (left + right) / 2, yIn: (low + high) / 2 }, widthIn: right - left };
  }

  protected scale(typed: string): void {
    const inches = readLength(typed, this.derived.units().system);
    this.work.scale(inches === undefined || Number.isNaN(inches) ? 0 : inches);
  }
  protected remove(): void {
    this.work.done();
    this.work.write(null);
  }

  private async tried(what: string, job: () => Promise<void>): Promise<void> {
    this.busy.set(what);
    this.problem.set(undefined);
    try {
      await job();
    } catch (error) {
      if (!(error instanceof NoPicture)) throw error;
      this.problem.set(error.message);
    } finally {
      this.busy.set(undefined);
    }
  }
}
