import { writeFileSync } from 'node:fs';
import { applyChange } from '../core/src/changes/apply.js';
import { readerOf } from '../core/src/derive/reader.js';
import type { HouseFile } from '../core/src/house/house-file.js';
import { houseOf, readHouseFile, writeHouseFile } from '../core/src/house/house-file.js';
import { inspectHouse } from '../core/src/inspection/inspect-house.js';

/** Sets what the layout still lacks as the app offers it, one touch after another (what stays is for a person to decide), and writes the house. */
export function settleAndWrite(file: HouseFile, to: string): void {
  let house = houseOf(file);
  for (;;) {
    const fix = inspectHouse(readerOf(house)).find(
      ({ code, fixes = [] }) => /^layout\.(far|no-|same-bay|in-the-way)/.test(code) && fixes.length > 0,
    )?.fixes![0];
    const taken = fix && applyChange(house, fix.change);
    if (!taken?.ok) break;
    house = taken.document;
  }
  const result = readHouseFile(writeHouseFile(house));
  if (!result.ok) throw new Error(JSON.stringify(result.problems));
  writeFileSync(new URL(to, import.meta.url), `${JSON.stringify(result.file, null, 1)}\n`);
  console.log(
    `${result.file.rooms.length} rooms, ${result.file.boxes.length} boxes, ${result.file.runs.length} runs`,
  );
}
