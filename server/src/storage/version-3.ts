import { Migration } from '@mikro-orm/migrations';

/**
 * Version 3 of the house: what stands on a wall stands on a named corner, and every corner has its name, as the core brings over
 * the records of a file. Entries of the journal stay as they were written; they are brought over where they are read.
 */
export class Version3 extends Migration {
  override up(): void {
    for (const table of ['boxes', 'openings']) {
      this.addSql(
        `update "${table}" set "corner" = 'c' || "wall"::int where "corner" is null and "wall" is not null`,
      );
      this.addSql(`alter table "${table}" drop column "wall"`);
    }
    this.addSql(`update "rooms" set "outline" = (
      select jsonb_agg(jsonb_build_object('id', 'c' || (at - 1)) || corner order by at)
      from jsonb_array_elements("outline") with ordinality as each(corner, at))
      where jsonb_array_length("outline") > 0`);
  }

  /** What was entered since could not be kept in the old shape. */
  override down(): void {
    throw new Error('This migration is not taken back: restore the dump that was made before it.');
  }
}
