/** Writes the JSON Schema of the house file to docs/. Run with `npx tsx scripts/publish-schema.ts`; a test compares. */
import { writeFileSync } from 'node:fs';
import { houseFileJsonSchema } from '../core/src/house/house-file.js';

writeFileSync(
  new URL('../docs/house-file.schema.json', import.meta.url),
  `${JSON.stringify(houseFileJsonSchema(), null, 1)}\n`,
);
