import { createHash } from 'node:crypto';
import type { AssetType, AssetUse } from '@mule-tally/core';
import { LIMITS, lookAtPicture, tooMuchToKeep } from '@mule-tally/core';
import { HttpProblem } from '../api/problem.js';
import type { Orm } from '../storage/orm.js';
import { inCrew } from '../storage/sql.js';

export interface KeptAsset {
  readonly type: AssetType;
  readonly bytes: Buffer;
}

/** Pictures of crews. Typed by what is in them, known by their hash, shown within their crew only. */
export class AssetStore {
  constructor(
    private readonly orm: Orm,
    private readonly now: () => Date = () => new Date(),
  ) {}

  /**
   * Keeps a picture; one that is here already is left as it is. Codes: asset.empty, asset.type, asset.too-large,
   * asset.too-many-points, asset.other-hash, asset.crew-full.
   */
  async keep(
    crewId: string,
    sha256: string,
    bytes: Buffer,
    use: AssetUse = 'sheet',
  ): Promise<'kept' | 'known'> {
    const look = lookAtPicture(bytes);
    const why = 'code' in look ? look : tooMuchToKeep(bytes.length, look, use);
    if (why) throw new HttpProblem(why.code === 'asset.too-large' ? 413 : 422, why.code, why.message);
    if ('code' in look) throw new Error('a picture without a look');
    if (createHash('sha256').update(bytes).digest('hex') !== sha256)
      throw new HttpProblem(422, 'asset.other-hash', 'This is another picture than the one that was named.');
    return inCrew(this.orm, crewId, async (sql) => {
      // One upload of a crew at a time: its limit is kept by counting.
      await sql.all('select pg_advisory_xact_lock(hashtext(?))', [`asset ${crewId}`]);
      const [known] = await sql.all('select 1 from "asset" where crew_id = ? and sha256 = ?', [
        crewId,
        sha256,
      ]);
      if (known) return 'known';
      const [sum] = await sql.all<{ bytes: string }>(
        'select coalesce(sum(size), 0) as bytes from "asset" where crew_id = ?',
        [crewId],
      );
      if (Number(sum?.bytes ?? 0) + bytes.length > LIMITS.crewAssetBytes)
        throw new HttpProblem(
          422,
          'asset.crew-full',
          'The pictures of this crew take all the room that there is for them: this one was not kept.',
        );
      const { type, widthPx, heightPx } = look;
      await sql.all(
        'insert into "asset" (crew_id, sha256, type, size, width_px, height_px, bytes, at) values (?, ?, ?, ?, ?, ?, ?, ?)',
        [crewId, sha256, type, bytes.length, widthPx, heightPx, bytes, this.now()],
      );
      return 'kept';
    });
  }

  /** A picture of a crew; of one house, where it is named, only what that house shows. */
  async read(crewId: string, sha256: string, houseId?: string): Promise<KeptAsset | undefined> {
    return inCrew(
      this.orm,
      crewId,
      async (sql) => {
        if (houseId !== undefined) {
          const [named] = await sql.all(
            `select 1 from "storeys" where crew_id = ? and house_id = ? and underlay->>'asset' = ?
             union all select 1 from "photos" where crew_id = ? and house_id = ? and (asset = ? or thumb = ?)`,
            [crewId, houseId, sha256, crewId, houseId, sha256, sha256],
          );
          if (!named) return undefined;
        }
        const [kept] = await sql.all<KeptAsset>(
          'select type, bytes from "asset" where crew_id = ? and sha256 = ?',
          [crewId, sha256],
        );
        return kept;
      },
      true,
    );
  }
}
