import type { RoomKind } from '@mule-tally/core';
import { readHouseFile } from '@mule-tally/core';
import { kindFromName } from '../parts/room-kind';
import { controlOf, problemOf, zodValidator } from '../parts/zod-form';
import {
  draftProblems,
  emptyDraft,
  emptyRoom,
  fileOfDraft,
  houseEntry,
  readCircuitLine,
  rebased,
  usualCircuit,
} from './house-draft';

describe('A house as it is typed in', () => {
  it('becomes a house file that core reads, in the order of typing, without the empty lines', () => {
    const draft = emptyDraft();
    draft.name = '  Lot 31 ';
    draft.storeys[0]!.rooms = [
      { name: 'Kitchen', kind: 'kitchen', kindChosen: false },
      { name: '  ', kind: 'other', kindChosen: false },
      { name: 'Garage', kind: 'garage', kindChosen: false },
    ];
    draft.storeys.push({ name: '', rooms: [{ name: 'Bed', kind: 'bedroom', kindChosen: true }] });
    draft.circuits = [
      { name: 'Counter 20', amps: 20, protection: 'dual' },
      { name: '', amps: 15, protection: 'afci' },
      { name: 'Lights', amps: 15, protection: 'afci' },
    ];
    draft.panelRoom = '0.2';
    let count = 0;
    const file = fileOfDraft(draft, () => `10000000-0000-4000-8000-${String(++count).padStart(12, '0')}`);
    const read = readHouseFile(JSON.stringify(file));
    expect(read.ok ? [] : read.problems).toEqual([]);
    expect([file.name, file.storeys.map(({ name }) => name)]).toEqual(['Lot 31', ['First floor', 'Floor 2']]);
    expect(file.rooms.map(({ name, order }) => [name, order])).toEqual([
      ['Kitchen', 1],
      ['Garage', 2],
      ['Bed', 3],
    ]);
    expect(file.circuits.map(({ number, name, breakerAmps }) => [number, name, breakerAmps])).toEqual([
      [1, 'Counter', 20],
      [2, 'Lights', 15],
    ]);
    expect(file.boxes[0]!.roomId).toBe(file.rooms[1]!.id);
  });

  it('says what is missing before it can be one', () => {
    expect(draftProblems(emptyDraft())).toEqual(['Give the house a name.', 'Name at least one room.']);
  });

  it('is a form that grows and shrinks with its lines, and is valid when it can be a house', () => {
    const form = controlOf(emptyDraft());
    form.addValidators(zodValidator(houseEntry));
    form.updateValueAndValidity();
    expect(problemOf(form)).toBe('Give the house a name.');
    form.controls.name.setValue('Lot 31');
    const { rooms } = form.controls.storeys.at(0).controls;
    rooms.insert(0, controlOf({ ...emptyRoom(), name: 'Hall', kind: 'hall' as RoomKind }));
    expect([form.valid, form.getRawValue().storeys[0]!.rooms.map(({ name }) => name)]).toEqual([
      true,
      ['Hall', ''],
    ]);
    rooms.removeAt(0);
    expect(problemOf(form)).toBe('Name at least one room.');
  });

  it('reads the kind of a room off its name and the breaker off the end of a circuit', () => {
    expect(['Bedroom 2', 'Powder room', 'Upstairs hall', 'Den', 'Nook'].map(kindFromName)).toEqual([
      'bedroom',
      'water-closet',
      'hall',
      'office',
      'other',
    ]);
    const now = { name: '', amps: 15, protection: 'afci' as const };
    expect(readCircuitLine('Dryer 30A', now)).toEqual({ name: 'Dryer 30A', amps: 30 });
    expect(readCircuitLine('Bedroom 2', now)).toEqual({ name: 'Bedroom 2', amps: 15 });
  });

  it('takes what nobody has said yet from the edition that is chosen, and leaves what somebody has', () => {
    expect(usualCircuit('us-2020')).toEqual({ name: '', amps: 15, protection: 'afci' });
    const draft = emptyDraft();
    draft.storeys.push({ name: 'Up there', rooms: [emptyRoom()] });
    draft.circuits.unshift({ name: 'Cooker', amps: 30, protection: 'none' });
    const there = rebased(draft, 'us-2020', 'gb-2018');
    expect(there.storeys.map(({ name }) => name)).toEqual(['Ground floor', 'Up there']);
    expect(there.circuits).toEqual([
      { name: 'Cooker', amps: 30, protection: 'none' },
      { name: '', amps: 6, protection: 'gfci' },
    ]);
    expect(rebased(there, 'gb-2018', 'us-2020').storeys[0]!.name).toBe('First floor');
  });
});
