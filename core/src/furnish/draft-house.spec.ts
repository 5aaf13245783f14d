import '../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import type { SingleChangeBody } from '../changes/change.js';
import { adding, removing, setting } from '../changes/change.js';
import { readerOf } from '../derive/reader.js';
import { copyHouseFile, houseOf, readHouseFile, writeHouseFile } from '../house/house-file.js';
import type { House } from '../house/house.js';
import { mentionersOf, recordOf, rowsOf } from '../house/house.js';
import { inspectHouse } from '../inspection/inspect-house.js';
import { rulebookFor } from '../rulebook/rulebook.js';
import { Plan } from '../testing/plan.js';
import { randomRooms } from '../testing/random-rooms.js';
import { runs } from '../testing/seed.js';
import type { RoomKind } from '../vocabulary/kinds.js';
import type { RoomKit } from '../vocabulary/room-kit-types.js';
import { lightingCircuits } from './circuit-plan.js';
import type { DraftChoices } from './draft-house.js';
import { draftHouse } from './draft-house.js';
import { takeBackDraft } from './merge.js';
import { moveBreaker, panelLayout } from './panel.js';
import { readOutline, readSize } from '../plan/typed-outline.js';
import { readRoomLine } from './room-line.js';

function made(house: House, changes: readonly SingleChangeBody[]): House {
  if (changes.length === 0) return house;
  const applied = applyChange(house, { kind: 'group', changes: [...changes] });
  if (!applied.ok) throw new Error(JSON.stringify(applied.refusal));
  return applied.document;
}
const drafted = (house: House, choices: DraftChoices = {}): House =>
  made(house, draftHouse(house, choices).changes);

const SIZES: Readonly<Partial<Record<RoomKind, readonly [number, number]>>> = {
  kitchen: [14, 12],
  hall: [14, 4],
  garage: [22, 22],
};
function roomsOf(base: 'us-2017' | 'us-2020' | 'us-2023', ...kinds: RoomKind[]): House {
  const plan = new Plan('Rooms', base);
  for (const kind of kinds) {
    plan.room(kind, kind);
    const [lengthFt, widthFt] = SIZES[kind] ?? [12, 11];
    Object.assign(plan.file.rooms.at(-1)!, { lengthIn: lengthFt * 12, widthIn: widthFt * 12 });
  }
  return houseOf(plan.file);
}

/** "switch 2, luminaire 1": what is in the boxes of a house, by type, and "S" boxes. */
function inHouse(house: House): string {
  const counts = new Map<string, number>();
  for (const { record } of rowsOf(house, 'devices'))
    counts.set(record.catalogueId, (counts.get(record.catalogueId) ?? 0) + 1);
  const low = rowsOf(house, 'boxes').filter(
    ({ record }) => record.catalogueId === 'low-voltage' && !record.tag.startsWith('LV'),
  ).length;
  return [
    ...[...counts].sort().map(([type, count]) => `${type} ${count}`),
    ...(low ? [`low voltage ${low}`] : []),
  ].join(', ');
}
const circuitsOf = (house: House): string =>
  rowsOf(house, 'circuits')
    .map(
      ({ record: { name, breakerAmps, poles, protection } }) =>
        `${name} ${breakerAmps}/${poles} ${protection}`,
    )
    .sort()
    .join(' · ');

describe('The kit of a room', () => {
  // Worked by hand for NEC 2020, rooms of 12 × 11 ft unless SIZES says otherwise: section 13 of the trade, from memory.
  const BY_HAND: Readonly<Record<RoomKind, readonly [devices: string, circuits: string]>> = {
    // 46 ft of wall: four receptacles, and the one for the screen; light and fan on two switches.
    bedroom: [
      'alarm 1, fan-light 1, receptacle 5, switch 2, low voltage 1',
      'Smoke alarms 15/1 afci · bedroom 15/1 afci',
    ],
    closet: ['luminaire 1, switch 1', 'closet 15/1 afci'],
    // Switched from both ends; 14 ft long: a second light, and a receptacle (210.52(H)).
    hall: [
      'alarm 1, luminaire 2, receptacle 1, switch 2, low voltage 2',
      'Smoke alarms 15/1 afci · hall 15/1 afci',
    ],
    // 72 ft²: more than 60, so that its walls have receptacles (210.52(I)).
    foyer: ['luminaire 1, receptacle 3, switch 2', 'foyer 15/1 afci'],
    stairs: ['luminaire 1, switch 2', 'stairs 15/1 afci'],
    // Vanity, tub light, fan on three switches; all of one bath on its own 20 A.
    bath: ['fan 1, luminaire 2, receptacle 1, switch 3', 'bath 20/1 gfci'],
    'water-closet': ['fan-light 1, receptacle 1, switch 2', 'water-closet 20/1 gfci'],
    // 168 ft²: six in the ceiling, from both entries; 52 ft of wall: six at the counter, on two circuits.
    kitchen: [
      'appliance 3, luminaire 8, receptacle 6, receptacle-240-neutral 1, receptacle-single 1, switch 4',
      'Dishwasher 20/1 dual · Disposer 20/1 afci · Hood 20/1 afci · Kitchen counter 1 20/1 dual · Kitchen counter 2 20/1 dual · Range 50/2 none · Refrigerator 20/1 afci · kitchen 15/1 afci',
    ],
    dining: ['luminaire 1, receptacle 4, switch 2', 'dining 15/1 afci · dining receptacles 20/1 afci'],
    living: ['luminaire 1, receptacle 5, switch 2, low voltage 2', 'living 15/1 afci'],
    family: ['fan-light 1, receptacle 5, switch 2, low voltage 1', 'family 15/1 afci'],
    office: ['luminaire 1, receptacle 4, switch 1, low voltage 2', 'office 15/1 afci'],
    laundry: [
      'luminaire 1, receptacle 1, receptacle-240-neutral 1, switch 1',
      'Dryer 30/2 gfci · Laundry 20/1 dual · laundry 15/1 afci',
    ],
    // 484 ft²: three lights from both doors, three bays, the opener, and the light beside the door.
    garage: ['luminaire 4, receptacle 4, switch 3', 'Garage receptacles 20/1 gfci · garage 15/1 none'],
    porch: [
      'luminaire 1, receptacle 1, switch 1, low voltage 1',
      'Outside receptacles 20/1 gfci · porch 15/1 none',
    ],
    outdoors: ['luminaire 1, receptacle 2, switch 1', 'Outside receptacles 20/1 gfci · outdoors 15/1 none'],
    utility: [
      'appliance 1, appliance-240 2, luminaire 1, receptacle 1, switch 1',
      'Air conditioner 30/2 none · Heat 15/1 none · Water heater 30/2 none · utility 15/1 none',
    ],
    attic: ['luminaire 1, receptacle 1, switch 1', 'attic 15/1 none'],
    basement: ['alarm 1, luminaire 2, receptacle 2, switch 1', 'Smoke alarms 15/1 none · basement 15/1 gfci'],
    other: ['luminaire 1, receptacle 4, switch 1', 'other 15/1 afci'],
  };

  for (const [kind, [devices, circuits]] of Object.entries(BY_HAND))
    it(`of a ${kind} is what it usually gets`, () => {
      const house = drafted(roomsOf('us-2020', kind as RoomKind));
      // The button of a doorbell is a buried point: no bracket.
      expect(inHouse(house)).toBe(kind === 'porch' ? devices.replace(', low voltage 1', '') : devices);
      expect(circuitsOf(house)).toBe(circuits);
    });

  it('follows the edition: dryer and kitchen', () => {
    expect(circuitsOf(drafted(roomsOf('us-2017', 'laundry')))).toContain('Dryer 30/2 none');
    const of2023 = circuitsOf(drafted(roomsOf('us-2023', 'kitchen')));
    expect(of2023).toContain('Refrigerator 20/1 dual');
    expect(of2023).toContain('Range 50/2 gfci');
  });

  it('is the crew’s own where it has one, and asks for no more gangs than a box has', () => {
    const kit: RoomKit = {
      roomKind: 'bedroom',
      ways: 1,
      items: Array.from({ length: 6 }, (_none, index) => ({
        key: `light-${index}`,
        name: `Light ${index}`,
        thing: 'light' as const,
        least: 1,
        switch: { order: index + 1, from: 'first' as const },
        circuit: 'lighting' as const,
      })),
    };
    const house = roomsOf('us-2020', 'bedroom');
    const { changes, lookAt } = draftHouse(house, { kits: [kit] });
    const after = made(house, changes);
    expect(inHouse(after)).toBe('luminaire 6, switch 6');
    expect(lookAt).toContain({ code: 'gangs-split', roomId: rowsOf(house, 'rooms')[0]!.record.id, gangs: 6 });
    const gangs = rowsOf(after, 'boxes').filter(({ record }) => record.tag.startsWith('S'));
    expect(gangs.map(({ record }) => record.catalogueId!.slice(0, 10))).toEqual(['plastic-4g', 'plastic-2g']);
    expect(inspectHouse(readerOf(after)).filter(({ severity }) => severity !== 'note')).toEqual([]);
  });
});

describe('A room that is drawn', () => {
  it('has its switch at the latch side of the door, receptacles by spacing, the light in the middle: by hand', () => {
    const plan = new Plan('Drawn', 'us-2020');
    plan.file.rulebook.overrides['wall.exterior'] = { value: 3.5 };
    plan.room('Office', 'office');
    const room = plan.file.rooms[0]!;
    // 12 × 10 ft clear between 2 × 4 walls; a door of 32 in, 20 in from the lower left corner, hung on its left.
    room.outline = readOutline('12 x 10', 3.5)!.map((corner) => ({ ...corner }));
    const opening = (hinge: 'a' | 'b', alongIn: number) => ({
      id: plan.id(),
      roomId: room.id,
      corner: 'c0',
      alongIn,
      widthIn: 32,
      sillIn: 0,
      headIn: 80,
      kind: 'door' as const,
      hinge,
    });
    const placesWith = (hinge: 'a' | 'b', alongIn: number) => {
      plan.file.openings = [opening(hinge, alongIn)];
      const house = drafted(houseOf(plan.file));
      const boxes = rowsOf(house, 'boxes').map(({ record }) => record);
      const place = ({ corner, alongIn: along, xIn, yIn }: (typeof boxes)[number]): string =>
        corner ? `${corner} ${along}` : xIn === undefined ? 'no place' : `${xIn}, ${yIn}`;
      return (letter: string): string[] =>
        boxes.filter(({ tag }) => new RegExp(`^${letter}\\d`).test(tag)).map(place);
    };
    const left = placesWith('a', 20);
    expect(left('S')).toEqual(['c0 58']);
    expect(left('L')).toEqual(['73.75, 61.75']);
    // From jamb to jamb along the faces 528 − 32 = 496 in: four, 62 in from the door and 124 apart.
    expect(left('R')).toEqual(['c0 114', 'c1 94', 'c2 98', 'c3 78']);
    expect(placesWith('b', 60)('S')).toEqual(['c0 54']);
    // No wall left beside the latch: round the corner on that side, never behind the door.
    expect(placesWith('a', 113)('S')).toEqual(['c1 5']);
  });
});

describe('A flight of stairs', () => {
  it('has its upper switch in the hall that it leads to, where one is drafted', () => {
    const tags = (second?: 'hall' | 'bedroom'): string[] => {
      const plan = new Plan('Stairs', 'us-2020');
      plan.room('Stairs', 'stairs');
      if (second) plan.room('Up', second, plan.storey('Second floor'));
      const reader = readerOf(drafted(houseOf(plan.file)));
      const control = reader.all('controls').find(({ name }) => name.startsWith('Stairs'))!;
      return control.places.map((id) => {
        const box = reader.get('boxes', reader.get('devices', reader.get('points', id)!.deviceId)!.boxId)!;
        return reader.get('rooms', box.roomId!)!.name;
      });
    };
    expect(tags()).toEqual(['Stairs', 'Stairs']);
    expect(tags('bedroom')).toEqual(['Stairs', 'Stairs']);
    expect(tags('hall')).toEqual(['Stairs', 'Up']);
  });
});

describe('Circuits of a draft', () => {
  it('are as many as the floor asks for: 3 VA a square foot on 15 A (NEC 220.12 and 210.11(A), from memory)', () => {
    const rules = rulebookFor({ base: 'us-2020', overrides: {} });
    expect([1200, 2400, 3600].map((area) => lightingCircuits(rules, area, 15))).toEqual([2, 4, 6]);
    expect(lightingCircuits(rules, 600, 15)).toBe(1);
    expect(lightingCircuits(rules, 601, 15)).toBe(2);
  });

  it('hold no more points than the house allows, and as few as that takes', () => {
    const house = roomsOf('us-2020', ...Array<RoomKind>(6).fill('bedroom'));
    const pointsOn = (limit: string): number[] => {
      const after = drafted(house, { rules: { 'draft.points': limit } });
      return rowsOf(after, 'circuits')
        .filter(({ record }) => record.name !== 'Smoke alarms')
        .map(({ record }) => {
          const boxes = new Set(
            mentionersOf(after, 'runs', record.id).map((run) => recordOf(after, 'runs', run)!.to.boxId),
          );
          return [...boxes].filter((id) => /^[RL]/.test(recordOf(after, 'boxes', id)!.tag)).length;
        });
    };
    // A bedroom has five receptacles and a fan with its light: six points.
    expect(pointsOn('8')).toEqual([6, 6, 6, 6, 6, 6]);
    expect(pointsOn('12')).toEqual([12, 12, 12]);
    // 792 ft² ask for two.
    expect(pointsOn('none')).toEqual([18, 18]);
  });

  it('stand on both legs alike, and a breaker that is moved changes places', () => {
    fc.assert(
      fc.property(randomRooms, fc.nat(), fc.integer({ min: 1, max: 40 }), ({ file, rules }, pick, space) => {
        let house = drafted(houseOf(file), { rules });
        const panel = rowsOf(house, 'boxes').find(({ record }) => record.catalogueId === 'panel')?.record;
        const circuits = rowsOf(house, 'circuits').map(({ record }) => record);
        if (!panel || circuits.length === 0) return;
        const circuit = circuits[pick % circuits.length]!;
        house = made(house, moveBreaker(readerOf(house), circuit.id, space));
        const taken = rowsOf(house, 'circuits').flatMap(({ record }) => record.spaces ?? []);
        expect(new Set(taken).size).toBe(taken.length);
        expect(recordOf(house, 'circuits', circuit.id)!.spaces![0]).toBe(space);
        const layout = panelLayout(readerOf(house), panel.id);
        const shown = layout.rows.flat().flatMap(({ circuitId }) => circuitId ?? []);
        expect(new Set(shown).size).toBe(circuits.length);
        expect(layout.legAmps[0] + layout.legAmps[1]).toBe(
          circuits.reduce((sum, { breakerAmps, poles }) => sum + breakerAmps * poles, 0),
        );
      }),
      { numRuns: runs(25) },
    );
  });
});

/** What a person may do to a drafted house before it is drafted again. */
type Edit =
  'rename' | 'retag' | 'device' | 'cable' | 'take-box' | 'take-run' | 'pull' | 'make' | 'own-box' | 'resize';
const EDITS: readonly Edit[] = [
  'rename',
  'retag',
  'device',
  'cable',
  'take-box',
  'take-run',
  'pull',
  'make',
  'own-box',
  'resize',
];

function edited(
  house: House,
  edit: Edit,
  pick: number,
  by: string,
): { changes: SingleChangeBody[]; id?: string } {
  const of = <T extends 'boxes' | 'runs' | 'devices' | 'circuits' | 'rooms'>(table: T) => {
    const rows = rowsOf(house, table).map(({ record }) => record);
    return rows.length ? rows[pick % rows.length] : undefined;
  };
  const newId = `eeeeeeee-0000-4000-8000-${pick.toString(16).padStart(12, '0').slice(-12)}`;
  switch (edit) {
    case 'rename': {
      const circuit = of('circuits');
      return circuit
        ? { changes: [setting('circuits', circuit.id, { name: 'Mine' })], id: circuit.id }
        : { changes: [] };
    }
    case 'retag': {
      const box = of('boxes');
      return box ? { changes: [setting('boxes', box.id, { tag: `X${pick}` })], id: box.id } : { changes: [] };
    }
    case 'device': {
      const device = rowsOf(house, 'devices')
        .map(({ record }) => record)
        .find(({ catalogueId }) => catalogueId === 'switch');
      return device
        ? { changes: [setting('devices', device.id, { catalogueId: 'dimmer' })], id: device.id }
        : { changes: [] };
    }
    case 'cable': {
      const run = of('runs');
      return run?.kind === 'cable'
        ? { changes: [setting('runs', run.id, { plannedCable: '12/3' })], id: run.id }
        : { changes: [] };
    }
    case 'take-box': {
      const box = of('boxes');
      return box && box.catalogueId !== 'panel'
        ? { changes: [removing('boxes', box.id, true)], id: box.id }
        : { changes: [] };
    }
    case 'take-run': {
      const run = of('runs');
      return run ? { changes: [removing('runs', run.id, true)], id: run.id } : { changes: [] };
    }
    case 'pull': {
      const run = of('runs');
      return run?.plannedCable
        ? {
            changes: [
              adding('pulls', {
                id: newId,
                runId: run.id,
                cable: run.plannedCable,
                at: '2026-03-02T08:00:00Z',
                by,
                state: 'in',
              }),
            ],
            id: run.id,
          }
        : { changes: [] };
    }
    case 'make': {
      const box = of('boxes');
      const run = box && mentionersOf(house, 'runs', box.id)[0];
      return box && run && box.catalogueId !== 'panel' && recordOf(house, 'runs', run)!.kind === 'cable'
        ? {
            changes: [
              setting('boxes', box.id, {
                asBuilt: [{ kind: 'cap', ends: [{ runId: run, conductor: 'WH' }] }],
              }),
            ],
            id: box.id,
          }
        : { changes: [] };
    }
    case 'own-box': {
      const room = of('rooms');
      return room
        ? {
            changes: [
              adding('boxes', { id: newId, roomId: room.id, tag: 'OWN', catalogueId: 'plastic-1g-18' }),
            ],
            id: newId,
          }
        : { changes: [] };
    }
    case 'resize': {
      const room = of('rooms');
      return room
        ? { changes: [setting('rooms', room.id, { lengthIn: 300, widthIn: 200 })] }
        : { changes: [] };
    }
  }
}
const BY = 'bbbbbbbb-0000-4000-8000-000000000001';

describe('Drafting again', () => {
  it('does nothing to a house that stands as it was drafted; its file reads back, a copy of it too', () => {
    fc.assert(
      fc.property(randomRooms, ({ file, rules }) => {
        const start = houseOf(file);
        const first = draftHouse(start, { rules });
        const house = made(start, first.changes);
        expect(writeHouseFile(first.house).boxes).toEqual(writeHouseFile(house).boxes);
        expect(draftHouse(house).changes).toEqual([]);
        const written = writeHouseFile(house);
        expect(readHouseFile(JSON.parse(JSON.stringify(written))).ok).toBeTrue();
        let count = 0;
        const copy = copyHouseFile(
          written,
          'Copy',
          () => `cccccccc-0000-4000-8000-${(++count).toString(16).padStart(12, '0')}`,
          false,
        );
        expect(draftHouse(houseOf(copy)).changes).toEqual([]);
      }),
      { numRuns: runs(25) },
    );
  });

  it('keeps what a person changed, leaves away what was taken away, and touches nothing that was pulled or made', () => {
    const sorts = new Map<Edit, number>();
    fc.assert(
      fc.property(
        randomRooms,
        fc.array(fc.tuple(fc.constantFrom(...EDITS), fc.nat({ max: 10_000 })), {
          minLength: 1,
          maxLength: 4,
        }),
        fc.constantFrom('8', '12', 'none'),
        ({ file, rules }, edits, points) => {
          let house = drafted(houseOf(file), { rules });
          for (const [edit, pick] of edits) {
            const { changes } = edited(house, edit, pick, BY);
            if (changes.length && applyChange(house, { kind: 'group', changes }).ok) {
              house = made(house, changes);
              sorts.set(edit, (sorts.get(edit) ?? 0) + 1);
            }
          }
          const { changes, kept } = draftHouse(house, {
            rules: { 'draft.points': points, 'draft.feed': 'light' },
          });
          const after = made(house, changes);
          expect(readHouseFile(JSON.parse(JSON.stringify(writeHouseFile(after)))).ok).toBeTrue();
          expect(kept).toBeGreaterThanOrEqual(0);
          // Nothing that somebody changed is another one now, nothing that was worked on is gone or other.
          for (const table of ['boxes', 'devices', 'runs', 'circuits'] as const)
            for (const { record } of rowsOf(house, table)) {
              const now = recordOf(after, table, record.id) as Record<string, unknown> | undefined;
              const own = record as unknown as Record<string, unknown>;
              const was = record.drafted?.fields;
              const changed = Object.keys(own).filter(
                (field) =>
                  !['id', 'drafted'].includes(field) &&
                  was &&
                  JSON.stringify(own[field]) !== JSON.stringify(was[field]),
              );
              for (const field of was ? changed : Object.keys(own)) expect(now?.[field]).toEqual(own[field]);
            }
          for (const { record } of rowsOf(house, 'pulls')) {
            const { drafted: _own, ...run } = recordOf(house, 'runs', record.runId)!;
            const { drafted: _now, ...same } = recordOf(after, 'runs', record.runId)!;
            expect(same).toEqual(run);
          }
          for (const { record } of rowsOf(house, 'drafts'))
            for (const key of record.keys)
              if (!has(house, key)) expect(has(after, key)).withContext(key).toBeFalse();
          // And a third time there is nothing left to do.
          expect(draftHouse(after).changes).toEqual([]);
        },
      ),
      { numRuns: runs(40) },
    );
    expect(EDITS.filter((edit) => !sorts.has(edit))).toEqual([]);
  });

  const has = (house: House, key: string): boolean =>
    (['boxes', 'devices', 'points', 'controls', 'runs', 'circuits', 'asks'] as const).some((table) =>
      rowsOf(house, table).some(({ record }) => record.drafted?.key === key),
    );

  it('leaves rooms alone in which somebody has set boxes, and those that are left out', () => {
    const house = roomsOf('us-2020', 'bedroom', 'office', 'closet');
    const [first, second] = rowsOf(house, 'rooms').map(({ record }) => record.id);
    const own = made(house, [
      adding('boxes', { id: BY, roomId: first!, tag: 'S1', catalogueId: 'plastic-1g-18' }),
    ]);
    const draft = draftHouse(own, { leaveOut: new Set([second!]) });
    expect(draft.rooms.map(({ roomId }) => roomId)).toEqual([rowsOf(house, 'rooms')[2]!.record.id]);
    expect(draft.lookAt).toContain({ code: 'own-boxes', roomIds: [first!] });
    expect(draftHouse(own, { include: new Set([first!]) }).rooms.length).toBe(3);
    // Tags go on where those of the person end.
    const tags = rowsOf(made(own, draft.changes), 'boxes').map(({ record }) => record.tag);
    expect(new Set(tags).size).toBe(tags.length);
  });

  it('is taken back whole, or all but what somebody changed or worked on', () => {
    fc.assert(
      fc.property(
        randomRooms,
        fc.array(fc.tuple(fc.constantFrom(...EDITS), fc.nat({ max: 10_000 })), { maxLength: 3 }),
        ({ file }, edits) => {
          const start = houseOf(file);
          let house = drafted(start);
          const touched: string[] = [];
          for (const [edit, pick] of edits) {
            const { changes, id } = edited(house, edit, pick, BY);
            if (!changes.length || !applyChange(house, { kind: 'group', changes }).ok) continue;
            house = made(house, changes);
            if (id && !edit.startsWith('take')) touched.push(id);
          }
          const back = takeBackDraft(house);
          const after = back ? made(house, back.changes) : house;
          expect(readHouseFile(JSON.parse(JSON.stringify(writeHouseFile(after)))).ok).toBeTrue();
          for (const id of touched)
            for (const table of ['boxes', 'runs', 'devices', 'circuits', 'pulls'] as const)
              if (recordOf(house, table, id))
                expect(recordOf(after, table, id))
                  .withContext(table)
                  .toBeDefined();
          if (edits.length) return;
          expect(writeHouseFile(after) as unknown).toEqual(writeHouseFile(start));
        },
      ),
      { numRuns: runs(25) },
    );
  });
});

describe('A room on one line', () => {
  it('or its outline, clear between the studs', () => {
    const corners = (text: string) => readOutline(text, 3.5)?.map(({ xIn, yIn }) => [xIn, yIn]);
    expect(corners("12'6 x 10")).toEqual([
      [0, 0],
      [153.5, 0],
      [153.5, 123.5],
      [0, 123.5],
    ]);
    // 14 × 12 less 4 × 3: clear walls of 14, 9, 4, 3, 10 and 12 ft.
    expect(corners('L 14 x 12 less 4 x 3')).toEqual([
      [0, 0],
      [171.5, 0],
      [171.5, 111.5],
      [123.5, 111.5],
      [123.5, 147.5],
      [0, 147.5],
    ]);
    expect(corners('L 14 x 12 less 14 x 3')).toBeUndefined();
    expect(corners('12')).toBeUndefined();
  });

  it('may end with its size in feet and inches', () => {
    const cases: readonly (readonly [string, string, number?, number?])[] = [
      ['Bedroom 1 12x11', 'Bedroom 1', 144, 132],
      ['Bedroom 1', 'Bedroom 1'],
      ["Kitchen 12'6 x 10", 'Kitchen', 150, 120],
      ['Den 12\' 6" × 10 ft 3 in', 'Den', 150, 123],
      ['Hall 3.5 x 14', 'Hall', 42, 168],
      ['Suite 2 x', 'Suite 2 x'],
      ['Barn 0 x 12', 'Barn 0 x 12'],
      ['Field 900 x 900', 'Field 900 x 900'],
      ['12x11', '12x11'],
      ["Den 12'6", "Den 12'6"],
    ];
    /** What looks like a size and is none. */
    const doubts: Readonly<Record<string, string>> = {
      'Barn 0 x 12': '0 x 12',
      'Field 900 x 900': '900 x 900',
      "Den 12'6": "12'6",
    };
    for (const [line, name, lengthIn, widthIn] of cases)
      expect(readRoomLine(line))
        .withContext(line)
        .toEqual({
          name,
          ...(lengthIn && { lengthIn, widthIn: widthIn! }),
          ...(doubts[line] && { doubt: doubts[line] }),
        });
    expect(readSize('14 x 12')).toEqual({ lengthIn: 168, widthIn: 144 });
    expect(readSize('L 14 x 12')).toBeUndefined();
  });
});
