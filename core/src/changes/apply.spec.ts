import { LEG } from '../vocabulary/terminal.js';
import { many, runs } from '../testing/seed.js';
import * as fc from 'fast-check';
import type { House } from '../house/house.js';
import { recordOf, rowsOf } from '../house/house.js';
import { houseOf, readHouseFile, writeHouseFile } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import type { RandomHouse } from '../testing/random-house.js';
import { randomHouse } from '../testing/random-house.js';
import type { Applied } from './apply.js';
import { applyChange } from './apply.js';
import type { ChangeBody, Fields } from './change.js';
import { adding, removing, setting } from './change.js';
import { applyDiff } from './diff.js';
import type { HouseDiff } from './diff.js';

const NEW = '77777777-0000-4000-8000-000000000001';
const OTHER = '77777777-0000-4000-8000-000000000002';

function small() {
  const plan = new Plan('Small');
  const room = plan.room('Hall', 'hall');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(1, 'Lights', panel, 15);
  const box = plan.fed('S1', panel, '14/2', circuit);
  const run = plan.file.runs[0]!.id;
  const points = plan.device(box, 'switch');
  const control = plan.control('Light', points, []);
  plan.pull(run, '14/2', 240);
  return {
    plan,
    house: houseOf(plan.file),
    room,
    panel,
    circuit,
    box,
    run,
    points,
    control,
    device: plan.file.devices[0]!.id,
  };
}

const done = (applied: Applied): { house: House; diff: HouseDiff } => {
  if (!applied.ok) throw new Error(applied.refusal.message);
  return { house: applied.document, diff: applied.diff };
};
const codeOf = (applied: Applied): string => (applied.ok ? 'applied' : applied.refusal.code);

/** Which records mention which, as plain data. */
const indexOf = ({ mentionedBy }: House) =>
  [...mentionedBy].map(([id, tables]) => [id, [...tables].map(([table, ids]) => [table, [...ids.keys()]])]);

describe('Changes', () => {
  it('are refused whole, each with its code and path', () => {
    const { house, box, run, room, circuit, panel } = small();
    const cases: [ChangeBody, string, string | undefined][] = [
      [setting('boxes', NEW, { tag: 'X' }), 'change.stale-target', '$.recordId'],
      [setting('boxes', box, { id: NEW } as Fields<'boxes'>), 'change.id-fixed', '$.fields.id'],
      [setting('boxes', box, { tag: '' }), 'change.invalid', '$.fields.tag'],
      [setting('boxes', box, { nonsense: 1 } as Fields<'boxes'>), 'change.invalid', '$.fields.nonsense'],
      [setting('boxes', box, { roomId: null }), 'change.invalid', '$.fields.roomId'],
      [setting('boxes', box, { roomId: NEW }), 'house.dangling', '$.record.roomId'],
      [setting('runs', run, { to: { boxId: panel } }), 'change.invalid', '$.fields.to.boxId'],
      [
        adding('boxes', { id: box, roomId: room, tag: 'X', catalogueId: 'plastic-1g-18' }),
        'change.id-taken',
        '$.record.id',
      ],
      [
        adding('boxes', { id: room, roomId: room, tag: 'X', catalogueId: 'plastic-1g-18' }),
        'change.id-taken',
        '$.record.id',
      ],
      [removing('boxes', box), 'change.still-used', '$.recordId'],
      [removing('circuits', NEW), 'change.stale-target', '$.recordId'],
      [{ kind: 'revert', of: NEW }, 'revert.unknown', '$.of'],
      [{ kind: 'rule.set', key: 'nope', override: { value: 1 } }, 'rule.unknown', '$.override.value'],
      [
        { kind: 'rule.set', key: 'wire.maxBreaker.12', override: { value: 30 } },
        'rule.cannot-loosen',
        '$.override.value',
      ],
      [
        { kind: 'rule.set', key: 'makeup.hots', override: { value: 'magic' } },
        'rule.unknown-option',
        '$.override.value',
      ],
      [
        { kind: 'group', changes: [setting('boxes', box, { tag: 'Kept?' }), setting('boxes', NEW, {})] },
        'change.stale-target',
        '$.changes[1].recordId',
      ],
    ];
    for (const [body, code, path] of cases) {
      const applied = applyChange(house, body);
      expect(codeOf(applied)).withContext(JSON.stringify(body)).toBe(code);
      if (!applied.ok) {
        expect(applied.refusal.path).withContext(JSON.stringify(body)).toBe(path);
        expect(applied.refusal.message.length).toBeGreaterThan(10);
      }
    }
    expect(recordOf(house, 'circuits', circuit)).toBeDefined();
  });

  it('accept what is on the wall: a thin cable on a large breaker, many cables in one slot', () => {
    const { house, run, circuit, box } = small();
    expect(codeOf(applyChange(house, setting('circuits', circuit, { breakerAmps: 20 })))).toBe('applied');
    expect(codeOf(applyChange(house, setting('runs', run, { to: { boxId: box, slot: 1 } })))).toBe('applied');
  });

  it('ask before they take a box with pulled runs, then take all of it and give it back', () => {
    const { house, box, control } = small();
    const asked = applyChange(house, removing('boxes', box));
    expect(!asked.ok && asked.refusal.dependents).toEqual({ runs: 1, pulls: 1 });
    const removed = done(applyChange(house, removing('boxes', box, true)));
    expect(
      rowsOf(removed.house, 'runs').length +
        rowsOf(removed.house, 'pulls').length +
        rowsOf(removed.house, 'points').length,
    ).toBe(0);
    expect(recordOf(removed.house, 'controls', control)!.places).toEqual([]);
    expect(removed.diff.rows.find((row) => row.table === 'pulls')!.removed!.record['lengthIn']).toBe(240);
    const back = done(applyChange(removed.house, { kind: 'revert', of: NEW }, () => removed.diff));
    expect(writeHouseFile(back.house)).toEqual(writeHouseFile(house));
  });

  it('take a device with its points, and a circuit out of its runs', () => {
    const { house, device, circuit, run } = small();
    expect(rowsOf(done(applyChange(house, removing('devices', device))).house, 'points')).toEqual([]);
    const without = done(applyChange(house, removing('circuits', circuit)));
    expect(recordOf(without.house, 'runs', run)!.circuitIds).toEqual([]);
  });

  it('drop only what means nothing any more from joints recorded as built', () => {
    const { plan, run, box, device } = small();
    const other = plan.fed('S2', box, '14/2', plan.file.circuits[0]!.id);
    const second = plan.file.runs.at(-1)!.id;
    plan.file.boxes.find(({ id }) => id === box)!.asBuilt = [
      {
        kind: 'splice',
        ends: [
          { runId: run, conductor: 'WH' },
          { runId: second, conductor: 'WH' },
        ],
      },
      {
        kind: 'land',
        ends: [{ runId: second, conductor: 'BK' }],
        terminals: [{ deviceId: device, terminal: LEG() }],
      },
      { kind: 'cap', ends: [{ runId: run, conductor: 'BK' }] },
    ];
    const withoutRun = done(applyChange(houseOf(plan.file), removing('runs', second)));
    expect(recordOf(withoutRun.house, 'boxes', box)!.asBuilt).toEqual([
      { kind: 'splice', ends: [{ runId: run, conductor: 'WH' }] },
      { kind: 'cap', ends: [{ runId: run, conductor: 'BK' }] },
    ]);
    const withoutDevice = done(applyChange(houseOf(plan.file), removing('devices', device)));
    expect(recordOf(withoutDevice.house, 'boxes', box)!.asBuilt![1]).toEqual({
      kind: 'land',
      ends: [{ runId: second, conductor: 'BK' }],
    });
    expect(recordOf(withoutRun.house, 'boxes', other)).toBeDefined();
  });

  it('are not undone over what somebody changed since', () => {
    const { house, box } = small();
    const mine = done(applyChange(house, setting('boxes', box, { tag: 'Mine', clamps: 'internal' })));
    const theirs = done(applyChange(mine.house, setting('boxes', box, { tag: 'Theirs' })));
    const late = applyChange(theirs.house, { kind: 'revert', of: NEW }, () => mine.diff);
    expect(!late.ok && [late.refusal.code, late.refusal.conflicts]).toEqual([
      'revert.conflict',
      [{ table: 'boxes', id: box, field: 'tag' }],
    ]);
    const elsewhere = done(applyChange(mine.house, setting('boxes', box, { fittings: [{ kind: 'stud' }] })));
    const undone = done(applyChange(elsewhere.house, { kind: 'revert', of: NEW }, () => mine.diff));
    expect(recordOf(undone.house, 'boxes', box)).toEqual({
      ...recordOf(house, 'boxes', box)!,
      fittings: [{ kind: 'stud' }],
    });
  });

  it('do not undo the setting of a box that has got a run since', () => {
    const { house, room, panel, circuit } = small();
    const added = done(
      applyChange(house, adding('boxes', { id: NEW, roomId: room, tag: 'N', catalogueId: 'plastic-1g-18' })),
    );
    const used = done(
      applyChange(
        added.house,
        adding('runs', {
          id: OTHER,
          kind: 'cable',
          circuitIds: [circuit],
          from: { boxId: panel },
          to: { boxId: NEW },
        }),
      ),
    );
    expect(codeOf(applyChange(used.house, { kind: 'revert', of: OTHER }, () => added.diff))).toBe(
      'house.dangling',
    );
  });

  it('replace a house by a file of the same id and give it back, list order included', () => {
    const { plan, house } = small();
    const other = {
      ...structuredClone(plan.file),
      name: 'Other',
      boxes: plan.file.boxes.toReversed(),
      pulls: [],
      people: [],
    };
    const replaced = done(applyChange(house, { kind: 'house.replace', file: other }));
    expect(writeHouseFile(replaced.house)).toEqual(other);
    expect(writeHouseFile(applyDiff(house, replaced.diff))).toEqual(other);
    const back = done(applyChange(replaced.house, { kind: 'revert', of: NEW }, () => replaced.diff));
    expect(writeHouseFile(back.house, plan.file.people)).toEqual(plan.file);
    expect(codeOf(applyChange(house, { kind: 'house.replace', file: { ...other, id: NEW } }))).toBe(
      'house.other-id',
    );
  });
});

/** Some change that may or may not apply to a house. */
function someChange({ plan, boxes, panel }: RandomHouse, kind: number, pick: number): ChangeBody {
  const { file } = plan;
  const any = <T>(list: readonly T[]): T => list[pick % list.length]!;
  const fresh = `66666666-0000-4000-8000-${String(pick).padStart(12, '0')}`;
  const box = any(boxes);
  const choices: (() => ChangeBody)[] = [
    () => setting('boxes', box, { tag: `T${pick}` }),
    () => setting('boxes', box, { clamps: 'internal', catalogueId: 'plastic-3g-44' }),
    () => removing('boxes', box, true),
    () => setting('runs', any(file.runs).id, { plannedCable: '12/3' }),
    () => removing('runs', any(file.runs).id, true),
    () =>
      adding('runs', {
        id: fresh,
        kind: 'cable',
        circuitIds: [any(file.circuits).id],
        from: { boxId: panel },
        to: { boxId: box },
      }),
    () => removing('circuits', any(file.circuits).id),
    () => removing('rooms', any(file.rooms).id, true),
    () =>
      file.devices.length ? removing('devices', any(file.devices).id) : setting('boxes', box, { tag: 'D' }),
    () => ({ kind: 'rule.set', key: 'fill.volume.14', override: { value: 2 + (pick % 5) } }),
    () => ({ kind: 'house.set', name: `House ${pick}`, base: 'us-2017' }),
    () => ({
      kind: 'group',
      changes: [setting('boxes', box, { tag: 'G' }), removing('runs', any(file.runs).id, true)],
    }),
  ];
  return choices[kind % choices.length]!();
}

describe('Any change to any house', () => {
  it('gives a diff that makes the same house, a house that reads back, and a revert that restores it', () => {
    let applies = 0;
    fc.assert(
      fc.property(
        randomHouse,
        fc.array(fc.tuple(fc.nat(), fc.nat(500)), { minLength: 1, maxLength: 6 }),
        (random, picks) => {
          let house = houseOf(random.plan.file);
          const steps: { before: string; diff: HouseDiff }[] = [];
          for (const [kind, pick] of picks) {
            const applied = applyChange(house, someChange(random, kind, pick));
            if (!applied.ok) continue;
            applies++;
            const after = JSON.stringify(writeHouseFile(applied.document));
            // The diff, as it comes back from JSON, makes the same house.
            const stored = JSON.parse(JSON.stringify(applied.diff)) as HouseDiff;
            expect(JSON.stringify(writeHouseFile(applyDiff(house, stored)))).toBe(after);
            const read = readHouseFile(after);
            expect(read.ok)
              .withContext(read.ok ? '' : JSON.stringify(read.problems))
              .toBeTrue();
            if (read.ok) expect(indexOf(read.house)).toEqual(indexOf(applied.document));
            steps.push({ before: JSON.stringify(writeHouseFile(house)), diff: stored });
            house = applied.document;
          }
          for (const { before, diff } of steps.reverse()) {
            house = done(applyChange(house, { kind: 'revert', of: NEW }, () => diff)).house;
            expect(JSON.parse(JSON.stringify(writeHouseFile(house)))).toEqual(JSON.parse(before));
          }
        },
      ),
      { numRuns: runs(120) },
    );
    expect(applies).toBeGreaterThan(many(100));
  });
});
