import type { Circuit } from '@mule-tally/core';
import { awg, jurisdictionBy } from '@mule-tally/core';
import { readWireLine, wireLine } from './wire-list';

const circuit = (number: number): Circuit => ({
  id: `00000000-0000-4000-8000-0000000000${number}`,
  number,
  name: 'Garage',
  panelId: '00000000-0000-4000-8000-000000000001',
  poles: 1,
  breakerAmps: 20,
  protection: 'none',
});

const US = jurisdictionBy('us-2020');
const GB = jurisdictionBy('gb-2018');

describe('The wires of a raceway in one line', () => {
  const circuits = [circuit(10), circuit(14)];

  it('come back as they were written, each with its circuit where it is said', () => {
    for (const line of ['12 BK, 12 WH', '12 BK of 10, 12 WH of 10, 14 RD of 14, 12 GN']) {
      const read = readWireLine(line, circuits, US);
      expect('wires' in read && wireLine(read.wires, circuits)).toBe(line);
    }
    expect(readWireLine(' 12bk of 10 ,', circuits, US)).toEqual({
      wires: [{ size: awg(12), colour: 'BK', circuitId: circuits[0]!.id }],
    });
  });

  it('say what cannot be read', () => {
    const said = (line: string): string => {
      const read = readWireLine(line, circuits, US);
      return 'problem' in read ? read.problem : 'read';
    };
    expect(said('12 BK, twelve WH')).toContain('“twelve WH” is no wire');
    expect(said('13 BK')).toContain('“13 BK” is no wire');
    expect(said('12 BK of 11')).toBe('Circuit 11 does not run in this raceway.');
    expect(said(' , ')).toContain('12 BK, 12 WH, 12 RD');
    const british = readWireLine('two BN', circuits, GB);
    expect('problem' in british && british.problem).toContain('1.5 BN');
  });
});
