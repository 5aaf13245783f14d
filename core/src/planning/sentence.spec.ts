import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { readOutline } from '../plan/typed-outline.js';
import { Plan } from '../testing/plan.js';
import { readSentence, setBySentence } from './sentence.js';

describe('A sentence', () => {
  it('is in millimeters and meters where the house is, unless it says otherwise; an outline too', () => {
    const told = (text: string) => readSentence(text, true);
    expect(told('two gang left of the door at 1200')?.heightIn).toBeCloseTo(47.244, 3);
    expect(told('receptacle on wall 2, 0.9 m from the left corner at 400 mm')).toEqual(
      jasmine.objectContaining({ heightIn: 400 / 25.4 }),
    );
    expect(told('receptacles every 3.6 from the door')?.at).toEqual(
      jasmine.objectContaining({ eachIn: 3600 / 25.4 }),
    );
    expect(told('receptacles every 12 feet from the door')?.at).toEqual(
      jasmine.objectContaining({ eachIn: 144 }),
    );
    const side = (text: string, unit: 'ft' | 'm') => readOutline(text, 0, unit)?.map(({ xIn }) => xIn)[1];
    expect([side('3.6 x 4.2', 'm'), side('3600 mm x 4200 mm', 'ft'), side('3,6m x 4,2m', 'm')]).toEqual([
      141.732, 141.732, 141.732,
    ]);
    expect([side("12'6 x 10", 'm'), side('12 x 10', 'ft'), side('0.2 x 4', 'm')]).toEqual([
      150,
      144,
      undefined,
    ]);
    expect(readOutline('L 4.2 x 3.6 less 1.2 x 0.9', 0, 'm')).toHaveSize(6);
  });

  it('says what, how many, where and how high', () => {
    const told = (text: string): unknown => readSentence(text);
    expect(told('two gang left of the door at 48')).toEqual({
      thing: 'switch',
      gangs: 2,
      count: 1,
      heightIn: 48,
      at: { where: 'beside', side: 'left', of: 'door' },
    });
    expect(told('Receptacles every 12 feet from the door')).toEqual({
      thing: 'receptacle',
      gangs: 1,
      count: 1,
      at: { where: 'every', eachIn: 144, from: 'door' },
    });
    expect(told("receptacle on wall 2, 3'6 from the right corner at 16 in")).toEqual({
      thing: 'receptacle',
      gangs: 1,
      count: 1,
      heightIn: 16,
      at: { where: 'wall', wall: 2, side: 'right', fromIn: 42 },
    });
    expect(told('four recessed lights')).toEqual({
      thing: 'recessed',
      gangs: 1,
      count: 4,
      at: { where: 'middle' },
    });
    expect(told('3-gang')).toEqual({ thing: 'switch', gangs: 3, count: 1, at: { where: 'latch' } });
    expect(told('receptacle over the window at 90')).toEqual({
      thing: 'receptacle',
      gangs: 1,
      count: 1,
      heightIn: 90,
      at: { where: 'over', of: 'window' },
    });
    for (const text of [
      '',
      'hello',
      'a receptacle',
      'nine gang',
      '12 x 10',
      'seven gang at the door'.repeat(20),
    ])
      expect(told(text)).withContext(text).toBeUndefined();
  });

  it('sets boxes with their devices where it says, or says what is missing', () => {
    const plan = new Plan('Told');
    plan.file.rulebook.overrides['wall.exterior'] = { value: 3.5 };
    plan.room('Room', 'bedroom');
    const room = plan.file.rooms[0]!;
    const set = (text: string): unknown => {
      const house = houseOf(structuredClone(plan.file));
      const found = setBySentence(readerOf(house), room, text);
      if ('problem' in found) return found.problem;
      const applied = applyChange(house, { kind: 'group', changes: [...found.changes] });
      if (!applied.ok) return applied.refusal;
      const reader = readerOf(applied.document);
      return reader
        .all('boxes')
        .map(({ id, tag, corner, alongIn, heightIn, xIn, yIn }) =>
          [tag, corner ?? `${xIn} ${yIn}`, alongIn, heightIn, reader.mentioning('devices', id).length]
            .join(' ')
            .trim(),
        );
    };
    expect(set('two gang left of the door')).toBe('no-outline');
    room.outline = readOutline('12 x 10', 3.5)!.map((corner) => ({ ...corner }));
    expect(set('two gang left of the door')).toBe('no-door');
    plan.file.openings.push({
      id: plan.id(),
      roomId: room.id,
      corner: 'c0',
      alongIn: 40,
      widthIn: 32,
      sillIn: 0,
      headIn: 80,
      kind: 'door',
      hinge: 'a',
    });
    // Seen from the room, along the wall is to the left: 72 + 2.05 + 5.
    expect(set('two gang left of the door at 48')).toEqual(['S1 c0 79 48 2']);
    expect(set('switch right of the door')).toEqual(['S1 c0 34 48 1']);
    expect(set('switch')).toEqual(['S1 c0 78 48 1']);
    expect(set('receptacle right of the window')).toBe('no-window');
    expect(set('receptacle on wall 9')).toBe('no-wall');
    expect(set('receptacle on wall 2 30 feet from the left corner')).toBe('no-room');
    // The left end of a wall is the end of it, seen from the room: 1.75 + 120 − 36.
    expect(set('receptacle on wall 2, 3 feet from the left corner at 16')).toEqual(['R1 c1 86 16 1']);
    expect(set('light in the middle')).toEqual(['L1 73.75 61.75   1']);
    // 496 in from jamb to jamb: at 72, 216 and 360, and none beyond 432 + 72.
    expect(set('receptacles every 12 feet from the door')).toEqual([
      'R1 c0 144 16 1',
      'R2 c2 24 16 1',
      'R3 c3 24 16 1',
    ]);
  });
});
