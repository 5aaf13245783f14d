import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Storey } from '@mule-tally/core';
import { LIMITS, megabytes } from '@mule-tally/core';
import type { DrawingUnit, OfferedRoom, OutlineDoubt, RoomsOffered } from '@mule-tally/core/drawing';
import { readShort } from '@mule-tally/core/work';
import { kindFromName } from '../parts/room-kind';
import { FilePick } from '../parts/file-pick';
import { ToldPipe } from '../parts/term';
import { textOfFile } from '../parts/text-of-file';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import type { DrawingLook } from '../work/drawings';
import { DrawingRefused, Drawings } from '../work/drawings';

const UNITS: readonly { readonly id: DrawingUnit; readonly name: string }[] = [
  { id: 'inches', name: $localize`inches` },
  { id: 'feet', name: $localize`feet` },
  { id: 'millimeters', name: $localize`millimeters` },
  { id: 'centimeters', name: $localize`centimeters` },
  { id: 'meters', name: $localize`meters` },
];
const DOUBTS: Readonly<Record<OutlineDoubt, string>> = {
  small: $localize`very small`,
  sliver: $localize`as narrow as a wall`,
  huge: $localize`larger than a room`,
  'around-others': $localize`lies around others`,
  'few-corners': $localize`has too few corners`,
  'many-corners': $localize`has too many corners`,
  'corner-twice': $localize`two of its corners are one`,
  'no-area': $localize`encloses no room`,
  crossing: $localize`its walls cross`,
  'too-far': $localize`lies too far out`,
};
/** From face to face of a wall: studs of 3½ in with board on both sides. Common practice. */
const WALL_IN = 4.5;

/** Rooms out of a DXF drawing: which layers, in what unit, which of what they enclose is a room. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-drawing-in',
  imports: [FilePick, ToldPipe, WordsPipe],
  providers: [Drawings],
  template: `
    <mt-file-pick
      accept=".dxf,application/dxf,image/vnd.dxf"
      [disabled]="busy() !== undefined"
      (chosen)="choose($event)"
    >
      <ng-container i18n>Choose a DXF drawing</ng-container>
    </mt-file-pick>
    @if (busy(); as what) {
      <p role="status">{{ what }}</p>
    }
    @if (problem(); as sentence) {
      <p role="alert" class="problem">{{ sentence | told }}</p>
    }
    @if (done(); as sentence) {
      <p role="status" class="done">{{ sentence }}</p>
    }
    @if (look(); as look) {
      <div class="panel-form">
        <p>
          <strong>{{ fileName() }}</strong>
        </p>
        @if (look.unit === undefined) {
          <p i18n class="strip note">
            The drawing does not say in what unit it is drawn: look whether the sizes below are right.
          </p>
        }
        <div class="fields">
          <label
            ><span i18n class="name">It is drawn in</span>
            <select #unitField class="form-select" (change)="setUnit(unitField.value)">
              @for (one of units; track one.id) {
                <option [value]="one.id" [selected]="one.id === unit()">{{ one.name }}</option>
              }
            </select></label
          >
          <label
            ><span i18n class="name">Its lines are</span>
            <select #areField class="form-select" (change)="setFaces(areField.value === 'faces')">
              <option value="middles" [selected]="!isFaces()">{{ 'the middles of walls' | words }}</option>
              <option value="faces" [selected]="isFaces()">{{ 'the faces of walls' | words }}</option>
            </select></label
          >
          @if (isFaces()) {
            <label
              ><span i18n class="name">Walls, from face to face</span>
              <input
                #wallField
                class="form-control num"
                inputmode="decimal"
                [value]="wallText()"
                (change)="setWall(wallField.value)"
            /></label>
          }
        </div>
        <fieldset>
          <legend i18n>Layers with the rooms, or the walls</legend>
          <div class="layers">
            @for (layer of look.layers; track layer.name) {
              <label class="check"
                ><input
                  type="checkbox"
                  [checked]="layers().has(layer.name)"
                  (change)="toggleLayer(layer.name)"
                />
                {{ layer.name }}
                <span class="soft num">{{
                  '{} closed, {1} lines' | words: layer.closed : layer.lines
                }}</span></label
              >
            }
          </div>
        </fieldset>
        @if (look.notUnderstood.length) {
          <details>
            <summary>{{ '{} things in it make no rooms' | words: leftOut() }}</summary>
            <ul>
              @for (one of look.notUnderstood; track one.kind) {
                <li class="num">{{ one.count }} × {{ one.kind }}</li>
              }
            </ul>
          </details>
        }
        @if (offered(); as offered) {
          @if (offered.likely; as likely) {
            <p class="strip note" role="alert">
              {{ '{} wide: no house is.' | words: wide() }}
              {{ 'Drawn in {} its rooms would be as large as rooms are.' | words: nameOf(likely) }}
              <button type="button" class="btn btn-line" (click)="setUnit(likely)">
                {{ 'Read it in {}' | words: nameOf(likely) }}
              </button>
            </p>
          } @else {
            <p class="num">{{ '{} wide, {1} deep' | words: wide() : deep() }}</p>
          }
          @if (offered.isTangled) {
            <p i18n class="problem">The lines of these layers cross so often that no room can be made out.</p>
          }
          @if (offered.openEnds) {
            <p class="soft">
              {{
                '{} ends of lines meet nothing: what they should close is missing below.'
                  | words: offered.openEnds
              }}
            </p>
          }
          @if (offered.more) {
            <p class="soft">{{ '{} smaller outlines are left out.' | words: offered.more }}</p>
          }
          <ul class="rooms">
            @for (room of shownRooms(); track $index) {
              <li [class.doubt]="room.doubt">
                <label class="check"
                  ><input
                    type="checkbox"
                    [disabled]="!room.canBeTaken"
                    [checked]="picked().has(room)"
                    (change)="togglePick(room)"
                  /><span class="visually-hidden">{{ 'Take {}' | words: nameOfRoom(room) }}</span></label
                >
                <svg viewBox="0 0 40 30" aria-hidden="true"><polygon [attr.points]="shape(room)" /></svg>
                <input
                  #nameField
                  class="form-control"
                  i18n-aria-label
                  aria-label="Name of the room"
                  [value]="nameOfRoom(room)"
                  [disabled]="!room.canBeTaken"
                  (change)="rename(room, nameField.value)"
                />
                <span class="num">{{ sizes().ground(room.areaFt2 * 144) }}</span>
                @if (room.doubt; as doubt) {
                  <span class="soft">{{ doubts[doubt] }}</span>
                }
              </li>
            } @empty {
              <li i18n>Nothing that these layers enclose is as large as a room.</li>
            }
          </ul>
          @if (hiddenRooms(); as count) {
            <button type="button" class="btn btn-line" (click)="showsAll.set(true)">
              {{ 'Show {} that are hardly rooms' | words: count }}
            </button>
          }
        }
        <div class="actions">
          <button
            type="button"
            class="btn btn-main"
            [disabled]="picked().size === 0 || busy() !== undefined"
            (click)="take()"
          >
            {{ 'Take {} rooms onto {1}' | words: picked().size : storey().name }}
          </button>
          <button i18n type="button" class="btn btn-line" (click)="leave()">Leave it</button>
        </div>
      </div>
    }
  `,
  styles: `
    .fields {
      display: flex;
      flex-wrap: wrap;
      gap: 0.4rem 1rem;
    }
    .layers {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr));
      max-height: 14rem;
      overflow: auto;
    }
    .check {
      min-height: 44px;
      display: inline-flex;
      align-items: center;
      gap: 0.5rem;
      overflow-wrap: anywhere;
    }
    .check input {
      width: 22px;
      height: 22px;
      flex: none;
    }
    .rooms {
      list-style: none;
      padding: 0;
      max-height: 28rem;
      overflow: auto;
    }
    .rooms li {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0.3rem 0.8rem;
      border-top: 1px solid var(--rule);
      padding: 0.2rem 0;
    }
    .rooms .form-control {
      width: 14rem;
    }
    .rooms svg {
      width: 40px;
      height: 30px;
    }
    polygon {
      fill: var(--rule-soft);
      stroke: var(--ink);
      stroke-width: 1;
    }
    .doubt polygon {
      stroke-dasharray: 3 2;
    }
    .actions {
      margin-top: 0.6rem;
    }
    legend {
      padding-top: 0.8rem;
      font-size: 1rem;
      font-weight: 600;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    .done {
      font-weight: 700;
    }
  `,
})
export class DrawingIn {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly drawings = inject(Drawings);
  /** Where the rooms go. */
  readonly storey = input.required<Storey>();
  protected readonly units = UNITS;
  protected readonly doubts = DOUBTS;
  protected readonly sizes = this.derived.units;

  protected readonly busy = signal<string | undefined>(undefined);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly done = signal<string | undefined>(undefined);
  protected readonly fileName = signal('');
  protected readonly look = signal<DrawingLook | undefined>(undefined);
  protected readonly unit = signal<DrawingUnit>('inches');
  protected readonly isFaces = signal(false);
  private readonly wallIn = signal(WALL_IN);
  protected readonly layers = signal<ReadonlySet<string>>(new Set());
  protected readonly offered = signal<RoomsOffered | undefined>(undefined);
  protected readonly picked = signal<ReadonlySet<OfferedRoom>>(new Set());
  protected readonly showsAll = signal(false);
  /** Names that were typed, by room. */
  private readonly names = signal<ReadonlyMap<OfferedRoom, string>>(new Map());

  protected readonly wallText = computed(() => String(this.wallIn()));
  protected readonly leftOut = computed(() =>
    (this.look()?.notUnderstood ?? []).reduce((sum, { count }) => sum + count, 0),
  );
  protected readonly shownRooms = computed(() =>
    (this.offered()?.rooms ?? []).filter(({ doubt }) => this.showsAll() || !doubt),
  );
  protected readonly hiddenRooms = computed(
    () => (this.offered()?.rooms.length ?? 0) - this.shownRooms().length,
  );
  protected readonly wide = computed(() => this.sizes().long((this.offered()?.widthFt ?? 0) * 12));
  protected readonly deep = computed(() => this.sizes().long((this.offered()?.heightFt ?? 0) * 12));

  protected nameOf(unit: DrawingUnit): string {
    return UNITS.find(({ id }) => id === unit)!.name;
  }
  protected nameOfRoom(room: OfferedRoom): string {
    const typed = this.names().get(room) ?? room.name;
    return typed ?? $localize`Room ${(this.offered()?.rooms.indexOf(room) ?? 0) + 1}`;
  }
  /** Its outline, small. */
  protected shape({ outline }: OfferedRoom): string {
    const [xs, ys] = [outline.map(({ xIn }) => xIn), outline.map(({ yIn }) => yIn)];
    const [left, low] = [Math.min(...xs), Math.min(...ys)];
    const scale = Math.min(36 / (Math.max(...xs) - left || 1), 26 / (Math.max(...ys) - low || 1));
    return outline
      .map(
        ({ xIn, yIn }) => `${(2 + (xIn - left) * scale).toFixed(1)},${(28 - (yIn - low) * scale).toFixed(1)}`,
      )
      .join(' ');
  }

  protected async choose(file: File): Promise<void> {
    this.leave();
    this.fileName.set(file.name);
    if (file.size > LIMITS.exchangeBytes)
      return this.problem.set(
        $localize`This drawing has more than ${megabytes(LIMITS.exchangeBytes)}\: save only the floor plan.`,
      );
    await this.tried($localize`Reading ${file.name}…`, async () => {
      const look = await this.drawings.read(await textOfFile(file));
      this.look.set(look);
      this.unit.set(look.unit ?? look.likelyUnit);
      this.layers.set(new Set(look.likelyLayers));
      await this.lookForRooms();
    });
  }
  protected setUnit(unit: string): void {
    this.unit.set(unit as DrawingUnit);
    void this.again();
  }
  protected setFaces(isFaces: boolean): void {
    this.isFaces.set(isFaces);
    void this.again();
  }
  protected setWall(typed: string): void {
    const inches = readShort(typed, this.sizes().system);
    if (inches === undefined || !(inches > 0 && inches < 24))
      return this.problem.set($localize`“${typed.slice(0, 20)}” is no depth of a wall.`);
    this.wallIn.set(inches);
    void this.again();
  }
  protected toggleLayer(name: string): void {
    const layers = new Set(this.layers());
    if (!layers.delete(name)) layers.add(name);
    this.layers.set(layers);
    void this.again();
  }
  private again(): Promise<void> {
    return this.tried($localize`Looking for rooms…`, () => this.lookForRooms());
  }
  private async lookForRooms(): Promise<void> {
    const offered = await this.drawings.rooms({
      layers: [...this.layers()],
      unit: this.unit(),
      lines: this.isFaces() ? { are: 'faces', wallIn: this.wallIn() } : { are: 'middles' },
    });
    this.offered.set(offered);
    this.names.set(new Map());
    this.picked.set(new Set(offered.rooms.filter(({ doubt }) => !doubt)));
  }

  protected togglePick(room: OfferedRoom): void {
    const picked = new Set(this.picked());
    if (!picked.delete(room)) picked.add(room);
    this.picked.set(picked);
  }
  protected rename(room: OfferedRoom, name: string): void {
    const trimmed = name.trim().slice(0, 200);
    if (trimmed) this.names.set(new Map(this.names()).set(room, trimmed));
  }

  protected async take(): Promise<void> {
    const reader = this.derived.reader();
    if (!reader) return;
    const { takeOutlines } = await import('@mule-tally/core/drawing');
    const rooms = (this.offered()?.rooms ?? []).filter((room) => this.picked().has(room));
    const taken = rooms.map((room) => {
      const name = this.nameOfRoom(room);
      return { name, kind: kindFromName(name), outline: room.outline };
    });
    const changes = takeOutlines(reader, this.storey().id, taken, () => crypto.randomUUID());
    const title = $localize`${changes.length} rooms of ${this.fileName()}`.slice(0, 200);
    const refusal = this.desk.make({ kind: 'group', title, changes: [...changes] });
    if (refusal) return this.problem.set(refusal.message);
    this.leave();
    this.done.set(
      $localize`${changes.length} rooms were taken onto ${this.storey().name}. They lie on its plan.`,
    );
  }
  protected leave(): void {
    this.look.set(undefined);
    this.offered.set(undefined);
    this.picked.set(new Set());
    this.problem.set(undefined);
    this.done.set(undefined);
    this.showsAll.set(false);
  }

  private async tried(what: string, job: () => Promise<void>): Promise<void> {
    this.busy.set(what);
    this.problem.set(undefined);
    try {
      await job();
    } catch (error) {
      if (!(error instanceof DrawingRefused)) throw error;
      this.problem.set(error.message);
    } finally {
      this.busy.set(undefined);
    }
  }
}
