/** The columns and keys with which every table of a list of houses begins. */
export const KEY_OF_HOUSE = (table: string): string =>
  `"crew_id" uuid not null, "house_id" uuid not null, "id" uuid not null, "list_place" double precision not null, "written_seq" int not null,
   constraint "${table}_pkey" primary key ("crew_id", "house_id", "id"),
   constraint "${table}_house" foreign key ("crew_id", "house_id") references "house" ("crew_id", "id") on delete cascade`;
