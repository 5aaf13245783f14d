import pg from 'pg';

/** What is said on it: words without blanks, with blanks between them. */
export type Heard = (said: string) => void;

/** How long after a connection was lost another is tried, in ms: doubling to the last. */
const AGAIN = [100, 5000] as const;
/** How long what is to be said is collected, in ms: commits that notify inside of their transaction run one after another. */
const COLLECT = 30;

/**
 * What the processes that serve one database say to each other, by NOTIFY: numbers only, after their commits. One connection
 * hears, another says. What is lost on the way costs nothing: whoever hears goes by numbers, and asks for them now and then.
 */
export class Channel {
  private readonly ears = new Set<Heard>();
  private hearing: pg.Client | undefined;
  private saying: Promise<pg.Client> | undefined;
  /** What is to be said, the last of each kind. */
  private waiting = new Map<string, string>();
  private timer: NodeJS.Timeout | undefined;
  private isClosed = false;
  /** Whether what others say is heard; `onLost` is told when it no longer is. */
  isHearing = false;
  onLost: () => void = () => undefined;

  constructor(
    private readonly databaseUrl: string,
    private readonly name = 'mule_tally',
  ) {
    void this.hear(AGAIN[0]);
  }

  onHeard(ear: Heard): () => void {
    this.ears.add(ear);
    return () => this.ears.delete(ear);
  }

  /** Says something soon; what is said of the same `about` before that is left out. */
  say(about: string, said: string): void {
    this.waiting.set(about, said);
    this.timer ??= setTimeout(() => void this.send(), COLLECT);
  }

  private async connected(): Promise<pg.Client> {
    const client = new pg.Client({ connectionString: this.databaseUrl, connectionTimeoutMillis: 4000 });
    client.on('error', () => undefined);
    await client.connect();
    return client;
  }

  private async send(): Promise<void> {
    this.timer = undefined;
    const said = [...this.waiting.values()];
    this.waiting = new Map();
    try {
      this.saying ??= this.connected();
      await (
        await this.saying
      ).query('select pg_notify($1, word) from unnest($2::text[]) word', [this.name, said]);
    } catch {
      // Lost: whoever listens asks for the numbers by and by.
      const lost = this.saying;
      this.saying = undefined;
      void lost?.then((client) => client.end()).catch(() => undefined);
    }
  }

  private async hear(wait: number): Promise<void> {
    if (this.isClosed) return;
    const again = (): void => {
      const { hearing } = this;
      if (this.isClosed) return;
      this.hearing = undefined;
      this.isHearing = false;
      this.onLost();
      void hearing?.end().catch(() => undefined);
      setTimeout(() => void this.hear(Math.min(wait * 2, AGAIN[1])), wait).unref();
    };
    try {
      const client = await this.connected();
      this.hearing = client;
      client.on('notification', ({ payload }) => {
        for (const ear of this.ears) ear(payload ?? '');
      });
      client.once('end', again);
      await client.query(`listen ${client.escapeIdentifier(this.name)}`);
      this.isHearing = true;
      wait = AGAIN[0];
      if (this.isClosed) await client.end();
    } catch {
      again();
    }
  }

  async close(): Promise<void> {
    this.isClosed = true;
    clearTimeout(this.timer);
    await this.hearing?.end().catch(() => undefined);
    await this.saying?.then((client) => client.end()).catch(() => undefined);
  }
}
