import { readerOf } from '../../../derive/reader.js';
import type { HouseReader } from '../../../derive/reader.js';
import { withGangMore } from '../../../furnish/plates.js';
import type { House } from '../../../house/house.js';
import { houseOf, writeHouseFile } from '../../../house/house-file.js';
import { inspectHouse } from '../../../inspection/inspect-house.js';
import { applyChange } from '../../../changes/apply.js';
import { makeUpBox } from '../../../makeup/make-up-box.js';
import { Plan } from '../../../testing/plan.js';
import { carriedFacts } from '../../../vocabulary/signal.js';
import { wireCircuit } from '../../../wiring/conductors/wire-circuit.js';
import { boxJoints } from '../../../wiring/joints/box-joints.js';
import { proveCircuit } from '../../../wiring/proof/prove-circuit.js';
import { sayingOf } from '../../../words/say.js';
import { terminalText } from '../../../words/terminal-text.js';
import { BACK, ROSE, atRose, built, found, oneLight, places, read } from '../../../testing/british-plan.js';
import type { Build, Schools } from '../../../testing/british-plan.js';

const SHORT: Readonly<Record<string, string>> = {
  ...{ hot: 'L', neutral: 'N', leg: 'SL', a: '1', b: '2', common: 'C' },
};
/** What every core carries, cable by cable, and what every terminal of every plate has: "CU–L1: BN line, BU neutral". */
function table(reader: HouseReader): string[] {
  const say = sayingOf(reader);
  const tag = (id: string): string => reader.get('boxes', id)!.tag!;
  const cables = reader.all('circuits').flatMap(({ id }) =>
    [...wireCircuit(reader, id).runs].map(([runId, { carries }]) => {
      const run = reader.get('runs', runId)!;
      const cores = [...carries]
        .map(([key, carried]) => {
          const facts = carriedFacts(carried);
          const what =
            typeof facts === 'string' ? facts : facts.kind === 'traveler' ? facts.side : facts.kind;
          return `${key} ${SHORT[what] ?? what}`;
        })
        .sort();
      return `${tag(run.from.boxId)}–${tag(run.to.boxId)}: ${cores.join(', ')}`;
    }),
  );
  const screws = reader.all('boxes').flatMap(({ id }) =>
    boxJoints(reader, id)
      .joints.filter(({ role }) => role !== 'ground')
      .flatMap(({ ends, landings }) =>
        landings
          .filter(
            ({ deviceId }) => deviceId && reader.get('devices', deviceId)!.catalogueId.startsWith('gb-plate'),
          )
          .map(
            ({ terminal }) =>
              `${tag(id)} ${terminalText(terminal, undefined, say.tongue)}: ${ends
                .map(({ colour, reidentified }) => `${colour}${reidentified ? ' sleeved' : ''}`)
                .join(' + ')}`,
          ),
      ),
  );
  return [...cables, ...screws.sort()];
}

const atSwitch =
  (cables: readonly string[]): Build =>
  (plan, panel, lights) => {
    const levers = places(plan, panel, lights, cables);
    const last = plan.file.boxes.at(-1)!.id;
    plan.control('Light', levers, oneLight(plan, plan.fed('L1', last, '1.0 T&E', lights, ROSE), lights));
  };
const CONVERSION = { 'wiring.twoWay': 'conversion' };

/** By hand, cable by cable and terminal by terminal, from how each is wired: common practice (section 8 and 18 of the trade). */
const TABLES: readonly (readonly [string, Build, Schools, readonly string[]])[] = [
  [
    'loop-in at the ceiling (three-plate)',
    atRose(['1.0 T&E']),
    {},
    ['CU–L1: BN L, BU N', 'L1–S1: BN L, BU SL', 'S1 COM: BN', 'S1 L1: BU sleeved'],
  ],
  [
    'loop at the switch (two-plate), its neutrals in a block',
    atSwitch(['1.5 T&E']),
    {},
    ['CU–S1: BN L, BU N', 'S1–L1: BN SL, BU N', 'S1 COM: BN', 'S1 L1: BN'],
  ],
  [
    'two-way by strappers, both at the switch drop',
    atRose(['1.0 T&E', '1.0 3C&E']),
    {},
    [
      'CU–L1: BN L, BU N',
      'L1–S1: BN L, BU SL',
      'S1–S2: BK 1, BN SL, GY 2',
      'S1 COM: BN',
      'S1 L1: BK sleeved',
      'S1 L2: GY sleeved',
      'S2 COM: BN',
      'S2 L1: BK sleeved',
      'S2 L2: GY sleeved',
    ],
  ],
  [
    'two-way by conversion',
    atRose(['1.0 T&E', '1.0 3C&E']),
    CONVERSION,
    [
      'CU–L1: BN L, BU N',
      'L1–S1: BN L, BU SL',
      'S1–S2: BK L, BN C, GY SL',
      'S1 COM: BN',
      'S1 L1: BN + BK sleeved',
      'S1 L2: BU sleeved + GY sleeved',
      'S2 COM: BN',
      'S2 L1: BK sleeved',
      'S2 L2: GY sleeved',
    ],
  ],
  [
    'two-way from the first switch to the light beyond the second: the neutral goes along, sleeved blue',
    atSwitch(['1.5 T&E', '1.0 3C&E']),
    {},
    [
      'CU–S1: BN L, BU N',
      'S1–S2: BK 1, BN 2, GY N',
      'S2–L1: BN SL, BU N',
      'S1 COM: BN',
      'S1 L1: BK sleeved',
      'S1 L2: BN',
      'S2 COM: BN',
      'S2 L1: BK sleeved',
      'S2 L2: BN',
    ],
  ],
  [
    'intermediate on the strappers',
    atRose(['1.0 T&E', '1.0 3C&E', '1.0 3C&E']),
    {},
    [
      'CU–L1: BN L, BU N',
      'L1–S1: BN L, BU SL',
      'S1–S2: BK 1, BN SL, GY 2',
      'S2–S3: BK 1, BN SL, GY 2',
      'S1 COM: BN',
      'S1 L1: BK sleeved',
      'S1 L2: GY sleeved',
      'S2 L1: BK sleeved',
      'S2 L2: GY sleeved',
      'S2 L3: BK sleeved',
      'S2 L4: GY sleeved',
      'S3 COM: BN',
      'S3 L1: BK sleeved',
      'S3 L2: GY sleeved',
    ],
  ],
  [
    'intermediate on L1 and L2 of a conversion, COM carried through',
    atRose(['1.0 T&E', '1.0 3C&E', '1.0 3C&E']),
    CONVERSION,
    [
      'CU–L1: BN L, BU N',
      'L1–S1: BN L, BU SL',
      'S1–S2: BK L, BN C, GY SL',
      'S2–S3: BK 1, BN C, GY 2',
      'S1 COM: BN',
      'S1 L1: BN + BK sleeved',
      'S1 L2: BU sleeved + GY sleeved',
      'S2 L1: BK sleeved',
      'S2 L2: GY sleeved',
      'S2 L3: BK sleeved',
      'S2 L4: GY sleeved',
      'S3 COM: BN',
      'S3 L1: BK sleeved',
      'S3 L2: GY sleeved',
    ],
  ],
];

/** A plate of two gangs from one permanent line, and a further gang for an outside light. */
const plate =
  (gangs: 2 | 3): Build =>
  (plan, panel, lights) => {
    const box = plan.fed('S1', panel, '1.5 T&E', lights, BACK);
    const levers = plan.device(box, `gb-plate-${gangs}`, 1, lights);
    levers.forEach((lever, at) => {
      const light = plan.fed(`L${at + 1}`, box, '1.0 T&E', lights, ROSE);
      plan.control(`Light ${at + 1}`, [lever], oneLight(plan, light, lights));
    });
  };

describe('British topologies (BS 7671, from memory)', () => {
  for (const [name, build, schools, expected] of TABLES)
    it(`wires ${name} as the table by hand has it, and proves it`, () => {
      const reader = read(build, schools);
      expect(table(reader)).toEqual([...expected]);
      const proof = proveCircuit(reader, reader.all('circuits')[0]!.id);
      expect([proof.holds, proof.advice]).toEqual([true, []]);
      expect(found(reader)).toEqual([]);
    });

  it('loops one permanent line from COM to COM, leaves L2 empty, numbers or letters the gangs, and joins neutrals in a block', () => {
    const reader = read(plate(3));
    expect(table(reader).filter((line) => line.startsWith('S1 '))).toEqual([
      'S1 COM 1: BN',
      'S1 COM 2: BN',
      'S1 COM 3: BN',
      'S1 L1 1: BN',
      'S1 L1 2: BN',
      'S1 L1 3: BN',
    ]);
    const box = reader.all('boxes').find(({ tag }) => tag === 'S1')!.id;
    const { steps } = makeUpBox(reader, box);
    expect(steps.find(({ joint }) => joint.role === 'neutral')!.connector!.id).toMatch(/^gb-block/);
    const line = steps.find(({ joint }) => joint.role === 'hot')!;
    expect([line.connector, line.pigtails.length, line.pigtails.every(({ link }) => link)]).toEqual([
      undefined,
      2,
      true,
    ]);
    expect(
      table(read(plate(2), { 'plates.labels': 'lettered' })).filter((one) => one.includes('COM')),
    ).toEqual(['S1 A COM: BN', 'S1 B COM: BN']);
  });

  it('adds a gang from the permanent line in the box: linked to its COM, the neutral of an outside light from the block', () => {
    let count = 0;
    const gangMore = (house: House, tag: string): House => {
      const reader = readerOf(house);
      const box = reader.all('boxes').find((own) => own.tag === tag)!.id;
      const [device] = reader.mentioning('devices', box);
      const changes = withGangMore(reader, device!.id, () => {
        count++;
        return `a0000000-0000-4000-8000-${String(count).padStart(12, '0')}`;
      });
      if (!changes) return house;
      const done = applyChange(house, { kind: 'group', changes });
      if (!done.ok) throw new Error(done.refusal.message);
      return done.document;
    };
    /** The outside light, fed from the plate and switched by its last gang. */
    const withLight = (house: House, tag: string): HouseReader => {
      const plan = new Plan('More', 'gb-2018', '00000009');
      const file = Object.assign(plan.file, writeHouseFile(house));
      const box = file.boxes.find((own) => own.tag === tag)!.id;
      const light = plan.fed('L9', box, '1.0 T&E', file.circuits[0]!.id, ROSE);
      const device = file.devices.find(({ boxId }) => boxId === box)!.id;
      const lever = file.points.findLast(({ deviceId }) => deviceId === device)!.id;
      plan.control('Outside', [lever], oneLight(plan, light, file.circuits[0]!.id));
      return readerOf(houseOf(file));
    };
    const two = houseOf(built(plate(2)));
    const more = gangMore(two, 'S1');
    // What was there stays as it was; before its light is there the new gang is said to switch nothing.
    expect(table(readerOf(more))).toEqual(jasmine.arrayContaining(table(readerOf(two))));
    expect(found(readerOf(more))).toEqual(['control.switch-without']);
    const done = withLight(more, 'S1');
    const screws = table(done).filter((line) => line.startsWith('S1 '));
    expect(screws).toEqual(
      ['COM', 'L1'].flatMap((screw) => [1, 2, 3].map((gang) => `S1 ${screw} ${gang}: BN`)),
    );
    expect(proveCircuit(done, done.all('circuits')[0]!.id).holds).toBeTrue();
    expect(found(done)).toEqual([]);
    // Behind a drop from a rose there is line, and no neutral for a light that is fed from here: said, never taken for wired.
    const drop = withLight(gangMore(houseOf(built(atRose(['1.0 T&E']))), 'S1'), 'S1');
    expect(found(drop)).not.toEqual([]);
    // A plate of four gangs is the widest.
    const four = gangMore(gangMore(gangMore(two, 'S1'), 'S1'), 'S1');
    expect(
      readerOf(four)
        .all('points')
        .filter(({ role }) => role === 'lever').length,
    ).toBe(4);
  });

  it('reads an old installation by its own colours and never proposes them', () => {
    const reader = read((plan, panel, lights) => {
      const rose = plan.fed('L1', panel, '1.5 T&E old', lights, ROSE);
      plan.control(
        'Light',
        places(plan, rose, lights, ['1.0 T&E', '1.0 3C&E old']),
        oneLight(plan, rose, lights),
      );
    });
    expect(table(reader)).toEqual(
      jasmine.arrayContaining(['CU–L1: BK N, RD L', 'L1–S1: BN L, BU SL', 'S1–S2: BU 2, RD SL, YE 1']),
    );
    expect(proveCircuit(reader, reader.all('circuits')[0]!.id).holds).toBeTrue();
    const proposed = JSON.stringify(inspectHouse(reader).map(({ fixes }) => fixes));
    expect(proposed).not.toContain('old');
  });
});
