import { runs } from '../testing/seed.js';
import * as fc from 'fast-check';
import { Plan } from '../testing/plan.js';
import { randomHouse } from '../testing/random-house.js';
import { copyHouseFile, houseFileJsonSchema, houseOf, readHouseFile, writeHouseFile } from './house-file.js';
import type { HouseFile } from './house-file.js';
import { rowsOf } from './house.js';
import { TABLE_NAMES } from './model.js';

const problemsIn = (input: unknown): [string, string][] => {
  const read = readHouseFile(input);
  return read.ok ? [] : read.problems.map(({ code, path }) => [code, path]);
};

function smallHouse(): HouseFile {
  const plan = new Plan('Small');
  plan.room('Hall', 'hall');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(1, 'Lights', panel, 15);
  const box = plan.fed('S1', panel, '14/2', circuit);
  const lamp = plan.fed('L1', box, '14/2', circuit, 'plastic-round-20');
  plan.control('Hall light', plan.device(box, 'switch'), plan.device(lamp, 'luminaire'));
  plan.pull(plan.file.runs[0]!.id, '14/2', 0.1 + 0.2);
  return plan.file;
}

/** The small house with one thing put at a path. */
function withValue(path: string, value: unknown): unknown {
  const file = JSON.parse(JSON.stringify(smallHouse())) as Record<string, unknown>;
  const steps = path.split('.');
  let at: Record<string, unknown> = file;
  for (const step of steps.slice(0, -1)) at = at[step] as Record<string, unknown>;
  at[steps.at(-1)!] = value;
  return file;
}

describe('House file', () => {
  it('round-trips exactly, whatever the house', () => {
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const text = JSON.stringify(plan.file);
        const read = readHouseFile(text);
        if (!read.ok) throw new Error(JSON.stringify(read.problems));
        const { people } = plan.file;
        expect(writeHouseFile(read.house, people)).toEqual(plan.file);
        expect(readHouseFile(JSON.stringify(writeHouseFile(read.house, people)))).toEqual(read);
      }),
      { numRuns: runs(60) },
    );
  });

  it('says what is wrong with text that is no house file', () => {
    expect(problemsIn('not json')).toEqual([['file.not-json', '$']]);
    expect(problemsIn('[]')).toEqual([['file.not-a-house', '$']]);
    expect(problemsIn({ hello: 1 })).toEqual([['file.not-a-house', '$.format']]);
    expect(problemsIn(withValue('version', 99))).toEqual([['file.version', '$.version']]);
    expect(problemsIn(withValue('version', 'x'))).toEqual([['file.version', '$.version']]);
  });

  it('says in words of what kind a value must be', () => {
    const said = (path: string, value: unknown): string | undefined => {
      const read = readHouseFile(withValue(path, value));
      return read.ok ? undefined : read.problems[0]!.message;
    };
    expect(
      said('boxes.0.fixtureWires', { count: 2.5, size: { system: 'awg', value: 16 }, fromCanopy: true }),
    ).toBe('Expected here: a whole number.');
    expect(said('boxes.0.heightIn', 'tall')).toBe('Expected here: a number.');
  });

  const bad: [string, unknown, string, string][] = [
    ['rooms.0.colour', 'red', 'file.unknown-field', '$.rooms[0].colour'],
    ['boxes.1.tag', 'x'.repeat(10_000), 'file.invalid', '$.boxes[1].tag'],
    ['boxes.1.tag', 'a\u0000b', 'file.bad-text', '$.boxes[1].tag'],
    ['boxes.1.tag', '\ud800', 'file.bad-text', '$.boxes[1].tag'],
    ['boxes.1.catalogueId', 'no-such-box', 'house.dangling', '$.boxes[1].catalogueId'],
    ['boxes.1.markedVolumeIn3', -4, 'file.invalid', '$.boxes[1].markedVolumeIn3'],
    ['boxes.1.gangs', 1, 'file.invalid', '$.boxes[1].catalogueId'],
    ['boxes.1.roomId', undefined, 'file.invalid', '$.boxes[1].roomId'],
    [
      'boxes.1.asBuilt',
      [{ kind: 'cap', ends: [], terminals: [{ terminal: 'leg' }] }],
      'file.invalid',
      '$.boxes[1].asBuilt[0].terminals[0].terminal',
    ],
    ['boxes.1.id', 'ABC', 'file.invalid', '$.boxes[1].id'],
    ['pulls.0.lengthIn', -1, 'file.invalid', '$.pulls[0].lengthIn'],
    ['pulls.0.lengthIn', 1e12, 'file.invalid', '$.pulls[0].lengthIn'],
    ['pulls.0.lengthIn', Number.NaN, 'file.invalid', '$.pulls[0].lengthIn'],
    ['pulls.0.at', 'yesterday', 'file.invalid', '$.pulls[0].at'],
    ['runs.0.to', { boxId: '99999999-0000-4000-8000-000000000000' }, 'house.dangling', '$.runs[0].to.boxId'],
    [
      'controls.0.places',
      ['99999999-0000-4000-8000-000000000000'],
      'house.dangling',
      '$.controls[0].places[0]',
    ],
    ['circuits.0.poles', 3, 'file.invalid', '$.circuits[0].poles'],
    ['rulebook.base', 1999, 'file.invalid', '$.rulebook.base'],
    [
      'rulebook.overrides',
      { 'no.such.rule': { value: 1 } },
      'rule.unknown',
      '$.rulebook.overrides["no.such.rule"]',
    ],
    [
      'rulebook.overrides',
      { 'wire.maxBreaker.14': { value: 20 } },
      'rule.cannot-loosen',
      '$.rulebook.overrides["wire.maxBreaker.14"]',
    ],
  ];
  for (const [path, value, code, at] of bad) {
    it(`refuses ${path} = ${String(JSON.stringify(value)).slice(0, 40)} at its path`, () => {
      const problems = problemsIn(withValue(path, value));
      expect(problems).toContain([code, at]);
    });
  }

  it('finds ids used twice, across lists too, and a reference to the wrong kind of record', () => {
    const file = smallHouse();
    expect(problemsIn(withValue('rooms.0.id', file.boxes[1]!.id))).toContain([
      'file.duplicate-id',
      '$.boxes[1].id',
    ]);
    expect(problemsIn(withValue('runs.0.circuitIds', [file.boxes[0]!.id]))).toEqual([
      ['house.dangling', '$.runs[0].circuitIds[0]'],
    ]);
  });

  it('refuses a run from a box to itself', () => {
    const boxId = smallHouse().boxes[1]!.id;
    expect(
      problemsIn(withValue('runs.0', { ...smallHouse().runs[0], from: { boxId }, to: { boxId } })),
    ).toEqual([['file.invalid', '$.runs[0].to.boxId']]);
  });

  it('lists every problem, not the first', () => {
    const file = withValue('rooms.0.colour', 1) as HouseFile;
    (file.boxes[1] as { tag: unknown }).tag = 5;
    (file.pulls[0] as { lengthIn: unknown }).lengthIn = 'long';
    expect(problemsIn(file).map(([, path]) => path)).toEqual([
      '$.rooms[0].colour',
      '$.boxes[1].tag',
      '$.pulls[0].lengthIn',
    ]);
  });

  it('refuses keys that reach into prototypes, and depth without end', () => {
    const text = JSON.stringify(smallHouse()).replace(
      '"openings":',
      '"__proto__":{"polluted":true},"openings":',
    );
    expect(problemsIn(text)).toEqual([['file.forbidden-key', '$.__proto__']]);
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
    expect(problemsIn(`${'{"a":'.repeat(100)}1${'}'.repeat(100)}`)[0]![0]).toBe('file.too-deep');
  });

  it('keeps a script in a name as the text it is', () => {
    const read = readHouseFile(withValue('name', '<script>alert(1)</script>'));
    expect(read.ok && read.house.head.name).toBe('<script>alert(1)</script>');
  });

  it('upgrades a file of version 0, in which devices carried their points', () => {
    const { points, catalogueBoxes: _own, catalogueDevices: _devices, reels: _reels, ...rest } = smallHouse();
    const devices = rest.devices.map((device) => ({
      ...device,
      points: points
        .filter((point) => point.deviceId === device.id)
        .map(({ deviceId: _device, ...point }) => point),
    }));
    const pulls = rest.pulls.map((pull) => ({ ...pull, by: 'Lead' }));
    const read = readHouseFile({ ...rest, version: 0, devices, pulls, catalogue: [] });
    expect(read.ok && read.file).toEqual(smallHouse());
    expect(read.ok && writeHouseFile(read.house, read.file.people)).toEqual(smallHouse());
  });

  it('copies a house under new ids with nothing pulled, and with everything when asked', () => {
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        let count = 0;
        const newId = () => `cccccccc-0000-4000-8000-${String(++count).padStart(12, '0')}`;
        const copy = copyHouseFile(plan.file, 'Next lot', newId, false);
        const read = readHouseFile(copy);
        if (!read.ok) throw new Error(JSON.stringify(read.problems));
        expect(JSON.stringify(copy)).not.toContain(plan.file.id.slice(0, 8) + '-');
        expect(copy.pulls).toEqual([]);
        for (const table of TABLE_NAMES)
          if (table !== 'pulls') expect(copy[table].length).toBe(plan.file[table].length);
        expect(copyHouseFile(plan.file, 'Twin', newId, true).pulls.length).toBe(plan.file.pulls.length);
      }),
      { numRuns: runs(30) },
    );
  });

  it('publishes a JSON Schema that names every list', () => {
    const schema = houseFileJsonSchema() as { properties: Record<string, unknown>; required: string[] };
    for (const table of TABLE_NAMES) expect(schema.properties[table]).withContext(table).toBeDefined();
    expect(schema.required).toContain('format');
  });

  it('keeps the order of lists as the order of rows', () => {
    const file = smallHouse();
    const turned = { ...file, boxes: file.boxes.toReversed() };
    expect(rowsOf(houseOf(turned), 'boxes').map(({ record }) => record.id)).toEqual(
      turned.boxes.map(({ id }) => id),
    );
  });
});
