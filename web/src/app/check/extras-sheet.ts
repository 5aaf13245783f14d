import { DatePipe, DecimalPipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import type { Extra, Fields } from '@mule-tally/core';
import { adding, boxName, removing, setting } from '@mule-tally/core';
import type { ExtraStanding, Reopened } from '@mule-tally/core/work';
import { extraStanding, reopenedBy, sentence } from '@mule-tally/core/work';
import { FilePick } from '../parts/file-pick';
import { OnlyFor } from '../parts/only-for';
import { PhotoTaking } from '../parts/photo-taking';
import { PhotosOf } from '../parts/photos-of';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { OpenHouse } from '../state/open-house';
import { Rights } from '../state/rights';
import { Session } from '../state/session';

/** What is asked for most, before there is any price for it. */
const USUAL = [
  $localize`One more receptacle`,
  $localize`One more light`,
  $localize`One more switch location`,
  $localize`A box moved`,
];
const ASKERS = [$localize`Owner`, $localize`Builder`];
/** As many askers and things as are offered at once. */
const OFFERED = 6;
const RANK = { asked: 0, agreed: 1, done: 2, refused: 3 } as const;

/** Work that is asked for besides: who asked, where, what for how much, the yes; each with one touch. And the sheet of it to send. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-extras-sheet',
  imports: [DatePipe, DecimalPipe, FilePick, OnlyFor, PhotosOf, ToldPipe, Value, WordsPipe],
  templateUrl: './extras-sheet.html',
  styleUrl: './paper-sheet.scss',
})
export class ExtrasSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  private readonly taking = inject(PhotoTaking);
  private readonly house = inject(OpenHouse).view;
  protected readonly rights = inject(Rights);
  protected readonly crew = inject(Crew);
  readonly room = input<string>();
  readonly box = input<string>();
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  protected readonly sent = signal<string | undefined>(undefined);

  private readonly all = computed(() => {
    const reader = this.derived.reader();
    return (reader?.all('extras') ?? []).map((extra) => extraStanding(reader!, extra));
  });

  // What is being entered.
  protected readonly askedBy = signal('');
  private readonly here = computed(() => ({ room: this.room(), box: this.box() }));
  protected readonly roomId = linkedSignal(() => this.here().room ?? '');
  protected readonly boxId = linkedSignal(() => this.here().box ?? '');
  protected readonly what = signal('');
  protected readonly priceText = signal('');
  protected readonly initials = signal('');

  /** Who asked before comes first. */
  protected readonly askers = computed(() => {
    const before = this.all()
      .map(({ extra }) => extra.askedBy)
      .reverse();
    return [...new Set([...before, ...ASKERS])].slice(0, OFFERED);
  });
  /** What was asked for before, at the price it had then; then what is asked for most. */
  protected readonly offers = computed(() => {
    const prices = new Map<string, number | undefined>();
    for (const { extra } of this.all().toReversed())
      if (!prices.has(extra.what)) prices.set(extra.what, extra.price);
    for (const what of USUAL.map((one) => this.derived.inTrade(one)))
      if (!prices.has(what)) prices.set(what, undefined);
    return [...prices].slice(0, OFFERED).map(([what, price]) => ({ what, price }));
  });
  protected readonly rooms = computed(() =>
    (this.derived.reader()?.all('rooms') ?? []).toSorted((a, b) => a.order - b.order),
  );
  protected readonly roomName = computed(
    () => this.derived.reader()?.get('rooms', this.roomId())?.name ?? $localize`the whole house`,
  );
  protected readonly boxTag = computed(() => {
    const reader = this.derived.reader();
    return reader && this.boxId() && reader.get('boxes', this.boxId()) ? boxName(reader, this.boxId()) : '';
  });
  protected readonly price = computed(() => {
    const text = this.priceText().trim().replace(',', '.');
    return /^\d{1,7}(\.\d{1,2})?$/.test(text) ? Number(text) : undefined;
  });
  protected readonly isEntered = computed(
    () => this.askedBy().trim() !== '' && this.what().trim() !== '' && this.price() !== undefined,
  );

  /** What work there opens again. */
  protected readonly reopens = computed(() => {
    const reader = this.derived.reader();
    if (!reader || !this.roomId()) return [];
    return this.opened(
      reopenedBy(reader, { boxId: this.boxId() || undefined, roomId: this.roomId() || undefined }),
    );
  });
  private opened({ boxIds, circuitIds, walls, pulledInto }: Reopened): string[] {
    const [reader, words] = [this.derived.reader(), this.derived.words()];
    if (!reader || !words) return [];
    const tags = (ids: readonly string[]): string => ids.map((id) => boxName(reader, id)).join(', ');
    const rest = pulledInto.filter((id) => !boxIds.includes(id));
    return [
      ...(boxIds.length
        ? [$localize`Made up already, opened again for one more cable\: ${tags(boxIds)}`]
        : []),
      ...(rest.length ? [$localize`Cable is in, fill counted anew\: ${tags(rest)}`] : []),
      ...circuitIds.map(
        (id) => $localize`Rung out good, rung out again\: ${sentence(words.say.circuit(id))}`,
      ),
      ...walls.map(({ number }) =>
        number === undefined
          ? $localize`The ceiling is photographed\: another photo`
          : $localize`Wall ${number} is photographed\: another photo`,
      ),
    ];
  }

  protected readonly rows = computed(() => {
    const [reader, words] = [this.derived.reader(), this.derived.words()];
    if (!reader || !words) return [];
    return this.all()
      .map(({ extra, stands }) => {
        const { boxId, roomId, place } = extra;
        const at = boxId || roomId;
        return {
          extra,
          stands,
          where: at ? words.place({ boxId, roomId }) : (place ?? $localize`The whole house`),
          // Also what is agreed on is not built yet.
          reopens: stands === 'agreed' && at ? this.opened(reopenedBy(reader, { boxId, roomId })) : [],
        };
      })
      .sort((a, b) => RANK[a.stands] - RANK[b.stands] || Date.parse(b.extra.at) - Date.parse(a.extra.at));
  });
  private readonly isAgreed = ({ stands }: Pick<ExtraStanding, 'stands'>): boolean =>
    stands === 'agreed' || stands === 'done';
  /** What was agreed on, and what nobody has said yes to. */
  protected readonly sums = computed(() => {
    const sum = (isIn: (one: ExtraStanding) => boolean): number =>
      this.all().reduce((total, one) => (isIn(one) ? total + one.extra.price : total), 0);
    return { agreed: sum(this.isAgreed), asked: sum(({ stands }) => stands === 'asked') };
  });

  protected offer({ what, price }: { what: string; price: number | undefined }): void {
    this.what.set(what);
    if (price !== undefined) this.priceText.set(String(price));
  }
  protected pickRoom(id: string): void {
    this.roomId.set(id);
    this.boxId.set('');
  }

  /** Writes it down: with initials as the yes, or without a yes. Its id, where it was taken. */
  protected add(initials: string | undefined): string | undefined {
    const [price, words] = [this.price(), this.derived.words()];
    if (!this.isEntered() || price === undefined || !words) {
      this.problem.set($localize`Who asked, what, and for how much: a price is a number, such as 95.`);
      return undefined;
    }
    const now = new Date().toISOString();
    const id = crypto.randomUUID();
    const [roomId, boxId] = [this.roomId() || undefined, this.boxId() || undefined];
    const refusal = this.desk.make(
      adding('extras', {
        id,
        what: this.what().trim().slice(0, 200),
        askedBy: this.askedBy().trim().slice(0, 200),
        price,
        at: now,
        by: this.session.who().id,
        ...(roomId && { roomId, place: words.place({ boxId, roomId }).slice(0, 200) }),
        ...(boxId && { boxId }),
        ...(initials && { yesAt: now, initials }),
      }),
    );
    this.problem.set(refusal?.message);
    if (refusal) return undefined;
    this.what.set('');
    this.priceText.set('');
    this.initials.set('');
    return id;
  }
  protected addByInitials(): void {
    const initials = this.initials().trim().slice(0, 60);
    if (initials) this.add(initials);
    else this.problem.set($localize`The initials of whoever says yes are missing.`);
  }
  /** The photo is the yes: of the signed slip, or of the message. */
  protected async addByPhoto(file: File): Promise<void> {
    const extraId = this.add(undefined);
    if (!extraId) return;
    this.busy.set(true);
    try {
      this.problem.set(await this.taking.take(file, { extraId }));
    } finally {
      this.busy.set(false);
    }
  }

  protected yes(extra: Extra, field: HTMLInputElement): void {
    const initials = field.value.trim().slice(0, 60);
    if (initials) this.set(extra, { yesAt: new Date().toISOString(), initials, noAt: null });
  }
  protected refuse(extra: Extra): void {
    this.set(extra, { noAt: new Date().toISOString() });
  }
  protected done(extra: Extra): void {
    this.set(
      extra,
      extra.doneAt
        ? { doneAt: null, doneBy: null }
        : { doneAt: new Date().toISOString(), doneBy: this.session.who().id },
    );
  }
  protected set({ id }: Extra, fields: Fields<'extras'>): void {
    this.problem.set(this.desk.make(setting('extras', id, fields))?.message);
  }
  protected remove({ id }: Extra): void {
    this.problem.set(this.desk.make(removing('extras', id))?.message);
  }

  /** The sheet as text, for a message: what was asked for, by whom, for how much, and what was said. */
  private text(): string {
    const said = {
      asked: $localize`no answer yet`,
      agreed: $localize`agreed`,
      done: $localize`agreed, done`,
      refused: $localize`refused`,
    };
    const lines = this.rows().map(
      ({ extra, stands, where }) =>
        `${extra.at.slice(0, 10)} · ${extra.what} · ${where} · ${extra.askedBy} · ${extra.price.toFixed(2)} · ${said[stands]}${extra.initials ? ` (${extra.initials})` : ''}`,
    );
    const name = this.house()?.head.name ?? '';
    return [
      $localize`Extras, ${name}`,
      '',
      ...lines,
      '',
      $localize`Agreed\: ${this.sums().agreed.toFixed(2)}`,
      $localize`No answer yet\: ${this.sums().asked.toFixed(2)}`,
    ].join('\n');
  }
  /** To whatever this device sends with; else to the clipboard. */
  protected async send(): Promise<void> {
    const text = this.text();
    try {
      if (typeof navigator.share === 'function') await navigator.share({ text });
      else {
        await navigator.clipboard.writeText(text);
        this.sent.set($localize`Copied. Paste it into a message.`);
      }
    } catch {
      // Whoever called off the sending knows it; a clipboard that is shut leaves the printed sheet.
      this.sent.set($localize`Not sent. Print the sheet, or try again.`);
    }
  }
  protected print(): void {
    window.print();
  }
}
