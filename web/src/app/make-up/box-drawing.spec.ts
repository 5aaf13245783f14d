import { houseOf, readHouseFile, readerOf } from '@mule-tally/core';
import { makeUpBox, wordsOf } from '@mule-tally/core/work';
import type { HouseFile } from '@mule-tally/core';
import demo from '../../../../demo/lot-12.house.json';
import { drawBox } from './box-drawing';

const file = (() => {
  const read = readHouseFile(demo);
  if (!read.ok) throw new Error('the demo is broken');
  return read.file;
})();
const reader = readerOf(houseOf(file satisfies HouseFile));
const said = (boxId: string) => wordsOf(reader).makeUp(makeUpBox(reader, boxId));

describe('The picture of a box', () => {
  it('has every conductor, pigtail and screw of the make-up, in every box of the demo house', () => {
    for (const box of reader.all('boxes')) {
      const made = said(box.id);
      const drawing = drawBox(made);
      const tails = made.steps.reduce(
        (sum, step) => sum + (step.joint.kind === 'land' ? 0 : step.joint.landings.length),
        0,
      );
      const ends = made.steps.flatMap((step) => step.joint.ends);
      const drawn = drawing.wires.filter((wire) => wire.runId);
      expect(drawn.map(({ id }) => id).sort())
        .withContext(box.tag)
        .toEqual(ends.map(({ runId, key }) => `${runId} ${key}`).sort());
      expect(drawing.wires.length - drawn.length)
        .withContext(box.tag)
        .toBeLessThanOrEqual(tails);
      expect(drawing.devices.flatMap(({ screws }) => screws).length).toBe(
        made.devices.flatMap(({ terminals }) => terminals).length,
      );
      expect(drawing.wires.flatMap(({ marks }) => marks).length).toBe(
        2 * ends.filter(({ reidentified }) => reidentified).length,
      );
    }
  });

  it('keeps everything inside its frame, cables apart and rows apart', () => {
    for (const box of reader.all('boxes')) {
      const { width, height, cables, rows, devices, wires } = drawBox(said(box.id));
      for (const list of [cables, devices]) {
        list.forEach(({ x, width: own }, index) => {
          expect(x + own).toBeLessThanOrEqual(list[index + 1]?.x ?? width);
        });
      }
      rows.forEach(({ y }, index) => expect(y - (rows[index - 1]?.y ?? -99)).toBeGreaterThan(20));
      for (const { path } of wires) {
        const numbers = [...path.matchAll(/-?\d+(\.\d+)?/g)].map(([text]) => Number(text));
        numbers.forEach((value, index) => {
          expect(value).withContext(`${box.tag} ${path}`).toBeGreaterThanOrEqual(0);
          expect(value).toBeLessThanOrEqual(index % 2 ? height : width);
        });
      }
    }
  });
});
