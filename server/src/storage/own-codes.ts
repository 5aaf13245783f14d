import { Migration } from '@mikro-orm/migrations';

/** A code of its own that a house goes by, and the rules of one whose edition is not here. */
export class OwnCodes extends Migration {
  override up(): void {
    this.addSql('alter table "house" add column "code" jsonb null, add column "elsewhere" jsonb null');
  }

  override down(): void {
    this.addSql('alter table "house" drop column "code", drop column "elsewhere"');
  }
}
