import { houseOf, readHouseFile, readerOf } from '@mule-tally/core';
import { netlistOf, wireCircuit, wordsOf } from '@mule-tally/core/work';
import demo from '../../../../demo/lot-12.house.json';
import { drawSwitching } from './switching-drawing';

const read = readHouseFile(demo);
if (!read.ok) throw new Error('the demo is broken');
const reader = readerOf(houseOf(read.file));

describe('The picture of a circuit', () => {
  it('shows every reached box once, apart from the others, and every conductor between them', () => {
    for (const { id, name } of reader.all('circuits')) {
      const wiring = wireCircuit(reader, id);
      const { boxes, lines, width, height } = drawSwitching(
        reader,
        wordsOf(reader).say,
        wiring,
        netlistOf(reader, id),
        undefined,
      );
      expect(boxes.map(({ node }) => node).sort())
        .withContext(name)
        .toEqual([...wiring.tree.nodes].sort());
      expect(lines.length).toBe(
        [...wiring.tree.feed.values()].reduce(
          (sum, { run }) => sum + wiring.runs.get(run.id)!.carries.size,
          0,
        ),
      );
      for (const one of boxes) {
        expect(one.x + one.width).toBeLessThanOrEqual(width);
        expect(one.y + one.height).toBeLessThanOrEqual(height);
        for (const other of boxes) {
          if (one === other || one.x !== other.x) continue;
          expect(one.y + one.height <= other.y || other.y + other.height <= one.y)
            .withContext(`${name}: ${one.tag} and ${other.tag}`)
            .toBeTrue();
        }
      }
    }
  });

  it('shows for one control only what lies between its points and the panel', () => {
    const control = reader.all('controls').find(({ name }) => name === 'Family room closet')!;
    const boxOf = (pointId: string): string =>
      reader.get('devices', reader.get('points', pointId)!.deviceId)!.boxId;
    const circuit = reader.all('circuits').find(({ name }) => name === 'Family room')!.id;
    const { boxes } = drawSwitching(
      reader,
      wordsOf(reader).say,
      wireCircuit(reader, circuit),
      netlistOf(reader, circuit),
      [...control.places, ...control.loads].map(boxOf),
    );
    expect(boxes.map(({ tag }) => tag)).toEqual(
      jasmine.arrayWithExactContents(['PANEL', 'L29', 'L31', 'S19']),
    );
  });
});
