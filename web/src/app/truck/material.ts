import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { CableId, HouseSummary } from '@mule-tally/core';
import { costOfCable, standingPull } from '@mule-tally/core';
import type { CutOptions } from '@mule-tally/core/work';
import { cutOf, cutPlan, neededCable, pullOrder, toBuy } from '@mule-tally/core/work';
import { CableChip } from '../parts/cable-chip';
import { saveText } from '../parts/save-text';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { OpenCrew } from '../state/open-crew';
import { OpenHouse } from '../state/open-house';
import { Reels } from '../state/reels';
import { Api } from '../sync/api';
import { answerTo } from '../work/answer';
import type { MaterialRow } from './material-rows';
import { materialRows, tableOf } from './material-rows';

/** What a room, a house or several take, against what is in stock; and off which reel each run is cut. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-material',
  imports: [CableChip, ToldPipe, Value, WordsPipe],
  templateUrl: './material.html',
  styles: `
    .fields {
      align-items: start;
    }
    .cables,
    .pieces {
      max-width: 52rem;
    }
    .pick {
      display: flex;
      align-items: center;
      gap: 0.6rem;
      min-height: 44px;
    }
    .pick input {
      width: 1.4rem;
      height: 1.4rem;
    }
    summary {
      min-height: 44px;
    }
    .roles {
      margin-bottom: 0.4rem;
    }
    .needs,
    .problem {
      color: var(--alert);
      font-weight: 700;
    }
    @media (max-width: 760px) {
      .cables {
        display: block;
        overflow-x: auto;
      }
      .cables td {
        white-space: nowrap;
      }
    }
  `,
})
export class Material {
  private readonly derived = inject(Derived);
  private readonly open = inject(OpenHouse);
  private readonly api = inject(Api);
  private readonly crewBook = inject(OpenCrew);
  private readonly reels = inject(Reels);
  protected readonly room = signal('');
  protected readonly order = signal<CutOptions['order']>('as-we-go');
  protected readonly picked = signal<readonly string[]>([]);
  protected readonly problem = signal<string | undefined>(undefined);
  private readonly houses = signal<readonly HouseSummary[]>([]);
  private readonly files = signal<Readonly<Record<string, string>>>({});

  protected readonly rooms = computed(() =>
    [...(this.derived.reader()?.all('rooms') ?? [])].sort((a, b) => a.order - b.order),
  );
  protected readonly others = computed(() =>
    this.houses().filter(({ id }) => id !== this.open.view()?.head.id),
  );

  constructor() {
    this.reels.want();
    this.api.houses().then(
      (houses) => this.houses.set(houses),
      // Without a network there is this house alone.
      () => undefined,
    );
  }

  protected async pick(id: string): Promise<void> {
    this.problem.set(undefined);
    if (this.picked().includes(id)) {
      this.picked.update((picked) => picked.filter((one) => one !== id));
      return;
    }
    try {
      const { text } = await this.api.document(id);
      this.files.update((files) => ({ ...files, [id]: text }));
      this.picked.update((picked) => [...picked, id]);
    } catch (error) {
      this.problem.set(error instanceof Error ? error.message : $localize`This house could not be read.`);
    }
  }

  private readonly answer = answerTo(() => ({
    about: 'material' as const,
    ...(this.room() && { roomId: this.room() }),
    others: this.room() ? [] : this.picked().flatMap((id) => this.files()[id] ?? []),
  }));
  private readonly stock = computed(() => {
    return this.reels
      .all()
      .filter(({ isInStock }) => isInStock)
      .map(({ reel, leftIn }) => ({ ...reel, leftIn: Math.max(0, leftIn) }));
  });
  private coil(): number {
    return Math.round(this.derived.units().inTyped(this.coilFt() * 12));
  }
  private readonly coilFt = computed(() => this.derived.reader()?.rules().number('reel.coil') ?? 250);

  protected readonly rows = computed((): readonly MaterialRow[] | undefined => {
    const [say, takeOff] = [this.derived.words()?.say, this.answer.value()];
    if (!say || !takeOff) return undefined;
    const stockFt = new Map<CableId, number>();
    for (const { cable, leftIn } of this.stock()) stockFt.set(cable, (stockFt.get(cable) ?? 0) + leftIn / 12);
    return materialRows(say, takeOff, toBuy(takeOff, stockFt, this.coilFt()));
  });
  protected readonly openings = computed(() => this.answer.value()?.openings ?? 0);
  protected readonly estimated = computed(() =>
    (this.answer.value()?.cables ?? []).some(({ estimated }) => estimated > 0),
  );
  private costOf(cable: string, feet: number): number | undefined {
    const crew = this.crewBook.view();
    return crew && costOfCable(crew, cable, feet * 12);
  }
  protected readonly cables = computed(() =>
    (this.rows() ?? []).flatMap(({ cable, ...row }) =>
      cable
        ? [
            {
              ...row,
              cable,
              stock: cable.stock,
              buy:
                cable.coils === 0
                  ? $localize`nothing`
                  : cable.coils === 1
                    ? $localize`1 coil`
                    : $localize`${cable.coils} coils`,
              cost: this.costOf(cable.id, cable.wasteFt)?.toFixed(2) ?? '?',
            },
          ]
        : [],
    ),
  );
  protected readonly isPriced = computed(() => this.cables().some(({ cost }) => cost !== '?'));
  protected readonly groups = computed(() => {
    const groups = new Map<string, MaterialRow[]>();
    for (const row of this.rows() ?? [])
      if (!row.cable) groups.set(row.group, [...(groups.get(row.group) ?? []), row]);
    return [...groups].map(([name, rows]) => ({ name, rows }));
  });

  /** Off which reel each run that is not in is cut: of this house, or of the room. */
  protected readonly plans = computed(() => {
    const [reader, say] = [this.derived.reader(), this.derived.words()?.say];
    if (!reader || !say || !this.rows()) return [];
    const rules = reader.rules();
    const roomId = this.room();
    const byCable = new Map<CableId, { id: string; lengthIn: number }[]>();
    for (const run of pullOrder(reader)) {
      const cable = neededCable(reader, run);
      if (!cable || standingPull(reader, run.id)?.state === 'in') continue;
      if (roomId && reader.get('boxes', run.to.boxId)?.roomId !== roomId) continue;
      byCable.set(cable, [
        ...(byCable.get(cable) ?? []),
        { id: run.id, lengthIn: cutOf(reader, run).lengthIn },
      ]);
    }
    const long = (inches: number): string => say.units.long(inches);
    return [...byCable].map(([cable, wanted]) => {
      const stock = this.stock().filter((reel) => reel.cable === cable);
      const plan = cutPlan(
        wanted,
        stock.map(({ id, leftIn }) => ({ id, lengthIn: leftIn })),
        {
          coilIn: this.coilFt() * 12,
          usefulIn: rules.number('reel.useful') * 12,
          order: this.order(),
        },
      );
      let coil = 0;
      return {
        cable,
        opened: plan.opened,
        waste: long(plan.wasteIn),
        tooLong: plan.tooLong.length,
        cuts: plan.cuts.map(({ reelId, ids, leftIn }) => ({
          name: stock.find(({ id }) => id === reelId)?.name ?? $localize`New coil ${++coil}`,
          runs: ids.map((id) => say.ends(id)).join('; '),
          left: $localize`${long(leftIn)} left`,
        })),
      };
    });
  });

  private get fileName(): string {
    return `${this.open.view()?.head.name ?? 'house'} material`;
  }

  protected async saveCsv(): Promise<void> {
    const { csvOf } = await import('@mule-tally/core/exchange');
    saveText(`${this.fileName}.csv`, csvOf(tableOf(this.rows() ?? [])), 'text/csv');
  }

  protected async saveXlsx(): Promise<void> {
    const { default: write } = await import('write-excel-file/universal');
    const table = tableOf(this.rows() ?? []).map((row, at) =>
      row.map((value) => ({ value, ...(at === 0 && { fontWeight: 'bold' as const }) })),
    );
    const blob = await write(table, { sheet: 'Material', columns: [{ width: 26 }, { width: 34 }] }).toBlob();
    saveText(`${this.fileName}.xlsx`, blob, blob.type);
  }

  /** As text: by the sheet that a phone shares with, or into the clipboard. */
  protected async share(): Promise<void> {
    const text = [
      this.fileName,
      ...(this.rows() ?? []).map(({ item, count, unit, cable }) =>
        cable && cable.coils
          ? `${item}: ${count} ${unit} (${$localize`buy ${cable.coils} × ${this.coil()} ${unit}`})`
          : `${item}: ${count} ${unit}`,
      ),
    ].join('\n');
    try {
      if ('share' in navigator) await navigator.share({ text });
      else await (navigator as Navigator).clipboard.writeText(text);
    } catch {
      saveText(`${this.fileName}.txt`, text, 'text/plain');
    }
  }
}
