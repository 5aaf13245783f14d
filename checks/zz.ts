import '../core/src/testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../core/src/changes/apply.js';
import { readerOf } from '../core/src/derive/reader.js';
import { draftHouse } from '../core/src/furnish/draft-house.js';
import { houseOf } from '../core/src/house/house-file.js';
import { inspectHouse } from '../core/src/inspection/inspect-house.js';
import { randomRooms } from '../core/src/testing/random-rooms.js';
const counts = new Map<string, number>();
const first = new Map<string, unknown>();
for (const { file, rules } of fc.sample(randomRooms, { numRuns: 250, seed: 5 })) {
  const house = houseOf(file);
  const { changes } = draftHouse(house, { rules });
  if (!changes.length) continue;
  const applied = applyChange(house, { kind: 'group', changes: [...changes] });
  if (!applied.ok) throw new Error('x');
  const reader = readerOf(applied.document);
  for (const f of inspectHouse(reader)) {
    const key = `${f.code} ${f.severity} ${JSON.stringify((f.facts as any).what ?? (f.facts as any).lacks ?? '')} ${f.where.roomId ? reader.get('rooms', f.where.roomId)?.kind : ''}`;
    counts.set(key, (counts.get(key) ?? 0) + 1);
    if (!first.has(key))
      first.set(key, [
        f,
        f.where.boxId && reader.get('boxes', f.where.boxId),
        f.where.roomId && reader.get('rooms', f.where.roomId),
        f.where.circuitId && reader.get('circuits', f.where.circuitId),
      ]);
  }
}
console.log(
  [...counts]
    .sort((a, b) => b[1] - a[1])
    .map(([k, n]) => `${n} ${k}`)
    .join('\n'),
);
for (const [k, v] of first)
  if (!/same-bay|fan-could|loose/.test(k))
    console.log(
      k,
      JSON.stringify(v, (key, val) => (key === 'drafted' || key === 'fixes' ? undefined : val)).slice(0, 900),
    );
