import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { DrawnIn } from '@mule-tally/core/drawing';
import { OnlyFor } from '../parts/only-for';
import { saveText } from '../parts/save-text';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { OpenHouse } from '../state/open-house';
import { Rights } from '../state/rights';
import { answerTo } from '../work/answer';
import { DrawingIn } from './drawing-in';
import { ScheduleIn } from './schedule-in';

/** What goes out to other programs, and what comes from them: drawings, tables. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-exchange-sheet',
  imports: [DrawingIn, OnlyFor, ScheduleIn, Value, WordsPipe],
  template: `
    <section>
      <h2 i18n>The plan, drawn</h2>
      @if (storeys().length > 1) {
        <label
          ><span i18n class="name">Floor</span>
          <select class="form-select" [mtValue]="storeyId()" (mtValueChange)="picked.set($event)">
            @for (storey of storeys(); track storey.id) {
              <option [value]="storey.id">{{ storey.name }}</option>
            }
          </select></label
        >
      }
      <h3 i18n>Out</h3>
      <p i18n class="soft">
        Rooms, walls, openings, boxes as blocks with their tag, room, circuits and height, and runs along
        their ways, a layer for each circuit.
      </p>
      @if (drawing(); as now) {
        <div class="actions">
          <button type="button" class="btn btn-line" [disabled]="!isNow()" (click)="saveDxf('inches')">
            {{ 'DXF in inches' | words }}
          </button>
          <button type="button" class="btn btn-line" [disabled]="!isNow()" (click)="saveDxf('millimeters')">
            {{ 'DXF in millimeters' | words }}
          </button>
          <button type="button" class="btn btn-line" [disabled]="!isNow()" (click)="saveSvg()">
            {{ 'SVG picture' | words }}
          </button>
        </div>
        @if (now.rooms.length === 0) {
          <p i18n class="soft">No room of this floor is drawn yet: the drawing would be empty.</p>
        }
      } @else {
        <p i18n role="status">Finding the ways of this floor’s runs…</p>
      }
      @if (rights.isLead() && storey(); as floor) {
        <h3 i18n>In</h3>
        <p i18n class="soft">
          Rooms from closed lines of chosen layers. Nothing is changed before you take what was found.
        </p>
        <mt-drawing-in [storey]="floor" />
      }
    </section>
    <section>
      <h2 i18n>Boxes, as a table</h2>
      <p i18n class="soft">
        One row for each box: tag, room, box, height, wall and place, devices. What you change in it and read
        here again changes the boxes; new tags are new boxes.
      </p>
      <button type="button" class="btn btn-line" (click)="saveBoxes()">
        {{ 'Table of boxes (CSV)' | words }}
      </button>
      <fieldset mtOnlyFor="lead"><mt-schedule-in /></fieldset>
    </section>
    <section>
      <h2>{{ 'Panel directory' | words }}</h2>
      <button type="button" class="btn btn-line" (click)="savePanel()">
        {{ 'Panel directory (CSV)' | words }}
      </button>
    </section>
  `,
  styles: `
    section {
      border-top: 2px solid var(--ink);
      padding: 0.4rem 0 1.2rem;
      max-width: 60rem;
    }
    h2 {
      margin: 0.4rem 0;
      font-size: 1.2rem;
    }
    h3 {
      font-size: 1.1rem;
      margin: 1rem 0 0.2rem;
    }
    fieldset.only-for {
      display: block;
      margin-top: 0.6rem;
    }
  `,
})
export class ExchangeSheet {
  private readonly derived = inject(Derived);
  private readonly house = inject(OpenHouse);
  protected readonly rights = inject(Rights);
  protected readonly picked = signal<string | undefined>(undefined);
  protected readonly storeys = computed(() => this.derived.reader()?.all('storeys') ?? []);
  protected readonly storey = computed(
    () => this.storeys().find(({ id }) => id === this.picked()) ?? this.storeys()[0],
  );
  protected readonly storeyId = computed(() => this.storey()?.id ?? '');
  private readonly found = answerTo<'drawing'>(() => {
    const storeyId = this.storeyId();
    return storeyId ? { about: 'drawing', storeyId } : undefined;
  });
  protected readonly drawing = this.found.value;
  protected readonly isNow = this.found.isNow;

  private get houseName(): string {
    return this.house.view()?.head.name ?? 'house';
  }

  protected async saveDxf(drawnIn: DrawnIn): Promise<void> {
    const drawing = this.drawing();
    if (!drawing) return;
    const { planDxf } = await import('@mule-tally/core/drawing');
    saveText(`${this.houseName} ${drawing.storey}.dxf`, planDxf(drawing, drawnIn), 'image/vnd.dxf');
  }
  protected async saveSvg(): Promise<void> {
    const drawing = this.drawing();
    if (!drawing) return;
    const { planSvg } = await import('@mule-tally/core/drawing');
    const title = `${this.houseName}, ${drawing.storey}`;
    saveText(`${this.houseName} ${drawing.storey}.svg`, planSvg(drawing, title), 'image/svg+xml');
  }
  protected async saveBoxes(): Promise<void> {
    const reader = this.derived.reader();
    if (!reader) return;
    const { boxScheduleCsv } = await import('@mule-tally/core/exchange');
    saveText(`${this.houseName} boxes.csv`, boxScheduleCsv(reader), 'text/csv');
  }
  protected async savePanel(): Promise<void> {
    const reader = this.derived.reader();
    if (!reader) return;
    const { panelDirectoryCsv } = await import('@mule-tally/core/exchange');
    saveText(`${this.houseName} panel directory.csv`, panelDirectoryCsv(reader), 'text/csv');
  }
}
