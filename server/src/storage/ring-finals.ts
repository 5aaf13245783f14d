import { Migration } from '@mikro-orm/migrations';

/** Circuits of which both ends come home to one breaker. */
export class RingFinals extends Migration {
  override up(): void {
    this.addSql('alter table "circuits" add column "ring" boolean null');
  }

  override down(): void {
    this.addSql('alter table "circuits" drop column "ring"');
  }
}
