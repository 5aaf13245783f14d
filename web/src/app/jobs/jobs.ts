import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { HouseSummary, OnExisting, Problem } from '@mule-tally/core';
import { LIMITS, assetsOf, editionName, lookAtPicture, megabytes, readHouseFile } from '@mule-tally/core';
import { HandOverPanel } from '../parts/hand-over-panel';
import { ReadyLine } from '../parts/ready-line';
import { saveText } from '../parts/save-text';
import { TallyMarks } from '../parts/tally-marks';
import { Identity } from '../state/identity';
import { Pictures, sha256Of } from '../state/pictures';
import { Session } from '../state/session';
import { Api, Refused, ServerAway } from '../sync/api';
import { DeviceStore } from '../sync/device-store';

/** Houses shown at once. */
const PAGE = 50;

/** Bytes by themselves, whatever they were part of. */
const bufferOf = (bytes: Uint8Array): ArrayBuffer =>
  bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;

/** The jobs: every house of the crew. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-jobs',
  imports: [ToldPipe, WordsPipe, RouterLink, TallyMarks, DatePipe, HandOverPanel, ReadyLine],
  templateUrl: './jobs.html',
  styleUrl: './jobs.scss',
})
export class Jobs {
  private readonly api = inject(Api);
  private readonly device = inject(DeviceStore);
  private readonly router = inject(Router);
  /** How much is unsent of each house. */
  protected readonly unsent = signal<ReadonlyMap<string, number>>(new Map());
  private readonly session = inject(Session);
  private readonly shelf = inject(Pictures);

  protected readonly houses = signal<readonly HouseSummary[] | undefined>(undefined);
  /** There are more houses than are shown. */
  protected readonly more = signal(false);
  /** Houses that this device remembers, for when the server is away. */
  protected readonly kept = signal<readonly { id: string; name: string }[]>([]);
  protected readonly away = signal<string | undefined>(undefined);
  protected readonly busy = signal<string | undefined>(undefined);
  protected readonly said = signal<string | undefined>(undefined);
  protected readonly most = LIMITS.problems;
  protected readonly problems = signal<readonly Problem[]>([]);
  /** A file of a house that is here already waits for a decision. */
  protected readonly waiting = signal<string | undefined>(undefined);

  protected readonly identity = inject(Identity);
  protected readonly edition = editionName;
  constructor() {
    void this.read();
  }

  protected async read(): Promise<void> {
    void this.device.unsentCounts().then((counts) => this.unsent.set(counts));
    try {
      const shown = Math.max(PAGE, this.houses()?.length ?? 0);
      const houses = await this.api.houses(0, Math.min(LIMITS.page, shown + 1));
      this.houses.set(houses.slice(0, shown));
      this.more.set(houses.length > shown);
      this.away.set(undefined);
    } catch (error) {
      this.away.set(error instanceof ServerAway ? error.message : 'The list of houses could not be read.');
      this.kept.set(await this.device.keptHouses());
    }
  }

  /** The next houses of the list. */
  protected async readMore(): Promise<void> {
    await this.work('Reading more houses', async () => {
      const known = this.houses() ?? [];
      const next = await this.api.houses(known.length, PAGE + 1);
      const ids = new Set(known.map(({ id }) => id));
      this.houses.set([...known, ...next.slice(0, PAGE).filter(({ id }) => !ids.has(id))]);
      this.more.set(next.length > PAGE);
    });
  }

  protected async duplicate(house: HouseSummary): Promise<void> {
    await this.work(`Copying ${house.name}`, async () => {
      const id = crypto.randomUUID();
      await this.api.duplicate(house.id, { id, name: this.freeName(house.name) });
      this.said.set(`Copied: same plan, nothing pulled yet.`);
      await this.read();
    });
  }

  /** "Lot 12" becomes "Lot 12, next", "Lot 12, next 2" … */
  private freeName(name: string): string {
    const taken = new Set(this.houses()?.map((house) => house.name));
    for (let number = 1; ; number++) {
      const next = `${name.slice(0, 180)}, next${number === 1 ? '' : ` ${number}`}`;
      if (!taken.has(next)) return next;
    }
  }

  protected async choose(event: Event): Promise<void> {
    const field = event.target as HTMLInputElement;
    const file = field.files?.[0];
    field.value = '';
    if (!file) return;
    const most = /\.zip$/i.test(file.name) ? LIMITS.zipBytes : LIMITS.fileBytes;
    if (file.size > most) {
      this.said.set(undefined);
      this.problems.set([
        {
          code: 'body.too-large',
          message: `This file is too large. A house file may have up to ${megabytes(most)}.`,
          path: file.name,
        },
      ]);
      return;
    }
    this.pictures = new Map();
    const bytes = new Uint8Array(await file.arrayBuffer());
    // A zip by what is in it, whatever it is called.
    if (bytes[0] !== 0x50 || bytes[1] !== 0x4b) return this.take(new TextDecoder().decode(bytes), 'refuse');
    await this.work('Reading the house file', async () => {
      const { readHouseZip } = await import('@mule-tally/core/exchange');
      const read = readHouseZip(bytes);
      if (!read.ok) return this.problems.set(read.problems);
      for (const [sha256, own] of read.pictures)
        if ((await sha256Of(bufferOf(own))) !== sha256)
          return this.problems.set([
            {
              code: 'asset.other-hash',
              message:
                'A picture in this file is not the one that the house names: it was changed on its way.',
              path: `pictures/${sha256}`,
            },
          ]);
      this.pictures = read.pictures;
      await this.takeIn(read.text, 'refuse');
    });
  }
  /** Pictures that came with the file that is taken in. */
  private pictures: ReadonlyMap<string, Uint8Array> = new Map();

  protected async take(text: string, onExisting: OnExisting): Promise<void> {
    await this.work('Reading the house file', () => this.takeIn(text, onExisting));
  }
  private async takeIn(text: string, onExisting: OnExisting): Promise<void> {
    try {
      const { id } = await this.api.import(text, onExisting, this.session.who().id);
      this.waiting.set(undefined);
      for (const own of this.pictures.values()) {
        const look = lookAtPicture(own);
        if (!('code' in look)) await this.shelf.keep(bufferOf(own), look.type);
      }
      await this.router.navigate(['/house', id]);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      if (error.problem.code === 'house.exists') this.waiting.set(text);
      else
        this.problems.set(
          error.problem.problems ?? [{ code: error.problem.code, message: error.message, path: '' }],
        );
    }
  }

  /** The house file in a zip with the pictures that it names; those that are not here yet are told of. */
  protected async exportWithPictures(house: HouseSummary): Promise<void> {
    await this.work('Gathering the pictures', async () => {
      const [text, { houseZip }] = await Promise.all([
        this.api.houseFile(house.id),
        import('@mule-tally/core/exchange'),
      ]);
      const read = readHouseFile(text);
      if (!read.ok) throw new Error(read.problems[0]!.message);
      const pictures = new Map<string, Uint8Array>();
      const named = assetsOf(read.house);
      for (const sha256 of named) {
        const bytes = await this.shelf.bytesOf(sha256);
        if (bytes) pictures.set(sha256, new Uint8Array(bytes));
      }
      const zip = houseZip({ text, pictures });
      saveText(`${house.name}.house.zip`, new Blob([bufferOf(zip)]), 'application/zip');
      const missing = named.size - pictures.size;
      this.said.set(
        missing
          ? `${pictures.size} pictures are in the file. ${missing} are still on their way to the server and are not.`
          : `${pictures.size} pictures are in the file.`,
      );
    });
  }

  private async work(what: string, job: () => Promise<void>): Promise<void> {
    this.busy.set(what);
    this.problems.set([]);
    this.said.set(undefined);
    try {
      await job();
    } catch (error) {
      this.said.set(error instanceof Error ? error.message : 'That did not work. Try again.');
    } finally {
      this.busy.set(undefined);
    }
  }
}
