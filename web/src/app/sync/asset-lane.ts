import { Refused, ServerAway } from './api';
import type { AssetShelf, AssetTaker } from './asset-shelf';

const inTurn = <Result>(work: () => Promise<Result>): Promise<Result> =>
  navigator.locks.request('mule-tally-pictures', work) as Promise<Result>;

/**
 * Sends pictures, one after another and beside the changes that name them: a large one never holds up what was entered. One that
 * is refused keeps its refusal and holds up no other.
 */
export class AssetLane {
  constructor(
    private readonly shelf: Pick<AssetShelf, 'waiting' | 'sent' | 'refuse'>,
    private readonly server: AssetTaker,
    private readonly alone = inTurn,
  ) {}

  /** Whether all that waited was judged; not where the server is away. */
  async run(): Promise<'done' | 'away'> {
    return this.alone(async () => {
      for (const asset of await this.shelf.waiting()) {
        if (asset.refusal) continue;
        try {
          await this.server.putAsset(asset);
          await this.shelf.sent(asset.sha256);
        } catch (error) {
          if (error instanceof ServerAway) return 'away';
          if (!(error instanceof Refused)) throw error;
          await this.shelf.refuse(asset.sha256, { code: error.problem.code, message: error.message });
        }
      }
      return 'done';
    });
  }
}
