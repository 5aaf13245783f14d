import { Migration } from '@mikro-orm/migrations';

/** The crew that a transaction has said it is of; none where it has said nothing. */
const CREW = "nullif(current_setting('app.crew', true), '')::uuid";

/** Lets the role that serves see and write the rows of one crew of a table, and no others. */
export const apart = (table: string, column = 'crew_id'): readonly string[] => [
  `alter table "${table}" enable row level security`,
  `create policy "crew" on "${table}" using ("${column}" = ${CREW}) with check ("${column}" = ${CREW})`,
];

/** Every table that there is by now. */
const TABLES = [
  ...[
    'asks',
    'bands',
    'boxes',
    'catalogue_boxes',
    'catalogue_devices',
    'circuits',
    'connector_names',
    'controls',
  ],
  ...[
    'crew_journal',
    'devices',
    'drafts',
    'habits',
    'house',
    'journal',
    'kits',
    'openings',
    'people',
    'points',
  ],
  ...['prices', 'pulls', 'records', 'reels', 'room_kits', 'rooms', 'runs', 'stock', 'storeys'],
];

/** Crews do not see each other, whatever a query says. The role that owns the tables, which migrates, sees all. */
export class CrewsApart extends Migration {
  override up(): void {
    for (const sql of [...TABLES.flatMap((table) => apart(table)), ...apart('crew', 'id')]) this.addSql(sql);
  }

  override down(): void {
    for (const table of [...TABLES, 'crew']) {
      this.addSql(`drop policy "crew" on "${table}"`);
      this.addSql(`alter table "${table}" disable row level security`);
    }
  }
}
