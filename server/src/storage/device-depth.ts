import { Migration } from '@mikro-orm/migrations';

/** How deep a device of the house reaches into its box, where a code counts by that. */
export class DeviceDepth extends Migration {
  override up(): void {
    this.addSql('alter table "catalogue_devices" add column "depth_in" double precision null');
  }

  override down(): void {
    this.addSql('alter table "catalogue_devices" drop column "depth_in"');
  }
}
