import { Migration } from '@mikro-orm/migrations';

/** What was seen of a circuit that has a fault, what was found, and what stays as it is. */
export class FindFaults extends Migration {
  override up(): void {
    this.addSql(
      'alter table "records" add column "report" jsonb null, add column "cause" jsonb null, add column "accepted" jsonb null',
    );
  }

  override down(): void {
    this.addSql('alter table "records" drop column "report", drop column "cause", drop column "accepted"');
  }
}
