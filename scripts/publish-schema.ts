/** Writes the JSON Schemas of the files people exchange to docs/. Run with `npx tsx scripts/publish-schema.ts`; a test compares. */
import { writeFileSync } from 'node:fs';
import { houseFileJsonSchema } from '../core/src/house/house-file.js';
import { codeFileJsonSchema } from '../core/src/vocabulary/own-code.js';

for (const [name, schema] of [
  ['house-file', houseFileJsonSchema()],
  ['jurisdiction-file', codeFileJsonSchema()],
] as const)
  writeFileSync(
    new URL(`../docs/${name}.schema.json`, import.meta.url),
    `${JSON.stringify(schema, null, 1)}\n`,
  );
