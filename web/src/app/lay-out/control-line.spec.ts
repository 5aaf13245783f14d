import { houseOf, readHouseFile, readerOf } from '@mule-tally/core';
import demo from '../../../../demo/lot-12.house.json';
import { pointWord, readControlLine, withName, withPoint } from './control-line';

const reader = (() => {
  const read = readHouseFile(demo);
  if (!read.ok) throw new Error('the demo is broken');
  return readerOf(houseOf(read.file));
})();
const boxOf = (pointId: string): string =>
  reader.get('boxes', reader.get('devices', reader.get('points', pointId)!.deviceId)!.boxId)!.tag;
const gangOf = (pointId: string): number =>
  reader.get('devices', reader.get('points', pointId)!.deviceId)!.gang;

describe('A control in one line', () => {
  it('is read with its name, places and loads, however the arrow is written', () => {
    for (const arrow of ['→', '->', '=>', 'switches', 'switch']) {
      const read = readControlLine(reader, `stairs: S5-S4, s6.1 ${arrow} light L18`)!;
      expect(read.problems).withContext(arrow).toEqual([]);
      expect([read.name, read.places.map(boxOf), read.loads.map(boxOf)]).toEqual([
        'Stairs',
        ['S5', 'S6'],
        ['L18'],
      ]);
      expect(gangOf(read.places[0]!)).toBe(4);
    }
  });

  it('takes another lever of a box each time that it is named, and says when there is none left', () => {
    const read = readControlLine(reader, 'S1 S1 -> L1')!;
    expect([new Set(read.places).size, read.name]).toEqual([2, 'Garage light']);
    expect(readControlLine(reader, 'S1 S1 S1 -> L1')!.problems).toEqual(['S1 has no switch left.']);
  });

  it('says in a sentence what it cannot read', () => {
    const problems = (line: string) => readControlLine(reader, line)?.problems;
    expect(problems('   ')).toBeUndefined();
    expect(problems('hall: S5')).toEqual([
      'Write the switches, then “switch”, then what they switch: S5 and S6 switch L18.',
    ]);
    expect(problems('hall: S99 -> L1')).toEqual(['There is no box S99.']);
    expect(problems('hall: L1 -> L2')).toEqual(['L1 has no switch left.']);
    expect(problems('hall: S1.7 -> L2')).toEqual(['S1 has no switch 7 left.']);
    expect(problems('hall: -> L2')).toEqual(['No switch is named.']);
  });

  it('names every switch and every load of the house by a word of its own, and takes it back', () => {
    for (const point of reader.all('points')) {
      const line = withPoint(reader, '', point);
      const read = readControlLine(reader, line)!;
      expect([...read.places, ...read.loads])
        .withContext(`${pointWord(reader, point)} in “${line}”`)
        .toEqual([point.id]);
      expect(withPoint(reader, line, point)).toBe('');
    }
  });

  it('keeps the words that cannot be read, and the name, when something is touched', () => {
    const lever = reader.get('points', readControlLine(reader, 'S5.4 -> L1')!.places[0]!)!;
    const line = withPoint(reader, 'stairs: S6, S99 -> L18', lever);
    expect(line).toBe('stairs: S6, S99 and S5.4 switch L18');
    expect(withName(reader, line, 'Upper stairs')).toBe('Upper stairs: S6, S99 and S5.4 switch L18');
    expect(readControlLine(reader, 'S6 -> L18')!.name).toBe('Stairs light');
  });
});
