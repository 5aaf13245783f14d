import { said } from '../testing/said.js';
import { many, runs } from '../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import type { Finding } from '../findings/finding.js';
import type { HouseFile } from '../house/house-file.js';
import { houseOf } from '../house/house-file.js';
import { madeUp } from '../testing/made-up.js';
import { randomSwitching } from '../testing/random-switching.js';
import { causesIn } from './causes.js';
import { inspectHouse } from './inspect-house.js';

/** In one box, conductors and terminals of two joints change places, or two joints become one. */
function wronglyMade(file: HouseFile, pick: number, kind: number): HouseFile {
  const made = madeUp(file);
  const boxes = made.boxes.filter(({ asBuilt }) => (asBuilt?.length ?? 0) > 1);
  const box = boxes[pick % boxes.length];
  if (!box) return made;
  const joints = structuredClone(box.asBuilt!);
  const [a, b] = [pick % joints.length, (pick + 1 + (kind % (joints.length - 1))) % joints.length];
  const [one, other] = [joints[a]!, joints[b]!];
  if (kind % 2) {
    [one.ends, other.ends] = [other.ends, one.ends];
  } else {
    one.ends = [...one.ends, ...other.ends];
    one.terminals = [...(one.terminals ?? []), ...(other.terminals ?? [])];
    one.kind = 'splice';
    joints.splice(b, 1);
  }
  return { ...made, boxes: made.boxes.map((own) => (own === box ? { ...box, asBuilt: joints } : own)) };
}

const name = ({ code, where }: Finding): string => `${code} ${JSON.stringify(where)}`;

describe('What is found, by cause,', () => {
  it('says everything once, and what stands under a cause alone goes when the cause is mended', () => {
    let gone = 0;
    fc.assert(
      fc.property(randomSwitching(4), fc.nat(), fc.nat(), (sound, pick, kind) => {
        const house = houseOf(wronglyMade(sound, pick, kind));
        const reader = readerOf(house);
        const causes = causesIn(reader);
        const told = causes.flatMap(({ finding, follows }) => [finding, ...follows]);
        const all = inspectHouse(reader);
        // A box that is reopened in several places has a sentence of its own above them.
        expect(told.filter((finding) => all.includes(finding)).length).toBe(all.length);
        expect(new Set(told).size).toBe(told.length);
        const reopen = causes.filter(({ finding }) => finding.code === 'box.reopen');
        const [only] = reopen;
        if (!only || reopen.length > 1) return;
        const mended = applyChange(house, only.finding.fixes![0]!.change);
        if (!mended.ok) throw new Error(mended.refusal.message);
        const left = new Set(inspectHouse(readerOf(mended.document)).map(name));
        const before = new Set(inspectHouse(readerOf(houseOf(sound))).map(name));
        for (const follow of only.follows) {
          gone++;
          if (!before.has(name(follow)))
            expect(left.has(name(follow)))
              .withContext(`${name(follow)}: ${said(reader, follow).message}`)
              .toBeFalse();
        }
      }),
      { numRuns: runs(80) },
    );
    expect(gone).toBeGreaterThan(many(80));
  });
});
