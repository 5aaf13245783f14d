import { adding } from '../changes/change.js';
import type { EnvelopeOf } from '../documents/envelope.js';
import type { HandedOver } from './hand-over.js';
import { handOverProblem, readHandOver, signedText, takenIn, writeHandOver } from './hand-over.js';

const id = (number: number): string => `70000000-0000-4000-8000-${String(number).padStart(12, '0')}`;
const [CREW, HOUSE, DEVICE, HAND, STRANGER] = [1, 2, 3, 4, 5].map(id) as [
  string,
  string,
  string,
  string,
  string,
];
const envelope = (number: number, actorId: string): EnvelopeOf => ({
  change: { id: id(number), version: 3, body: adding('storeys', { id: id(number + 50), name: 'Attic' }) },
  actorId,
  deviceId: STRANGER,
});
const what = (changes: readonly unknown[], more: object = {}): HandedOver => ({
  crewId: CREW,
  deviceId: DEVICE,
  madeAt: '2026-11-27T08:00:00Z',
  documents: [{ documentId: HOUSE, name: 'Lot 7', since: 12, changes: [...changes] }],
  ...more,
});

describe('A hand-over file', () => {
  it('is read as it was signed, letter by letter, and anything else is told with its code', () => {
    const signed = signedText(what([envelope(20, HAND)]));
    const text = writeHandOver(signed, 'c2ln');
    expect(readHandOver(text)).toEqual({
      ok: true,
      what: what([envelope(20, HAND)]),
      signed,
      signature: 'c2ln',
    });
    const code = (given: string): string => {
      const read = readHandOver(given);
      return read.ok ? 'read' : read.problem.code;
    };
    for (let cut = 0; cut < text.length - 1; cut += 7)
      expect(code(text.slice(0, cut))).toBe('hand-over.none');
    for (const given of [
      '',
      'null',
      '[]',
      '{"format":"mule-tally-house"}',
      text.replace('"version":1', '"version":2'),
    ])
      expect(code(given)).toBe('hand-over.none');
    for (const broken of [
      '',
      '{}',
      JSON.stringify({ ...what([]), documents: 'none' }),
      JSON.stringify({ ...what([]), more: 1 }),
    ])
      expect(code(writeHandOver(broken, ''))).toBe('hand-over.invalid');
  });

  it('is taken from devices of the crew that are not locked out, whatever is in it', () => {
    const device = { isRevoked: false, people: [{ id: HAND }] };
    const code = (...given: Parameters<typeof handOverProblem>) => handOverProblem(...given)?.code;
    expect(code(what([]), CREW, device)).toBeUndefined();
    expect(code(what([]), id(9), device)).toBe('hand-over.other-crew');
    expect(code(what([]), CREW, undefined)).toBe('hand-over.unknown-device');
    expect(code(what([]), CREW, { ...device, isRevoked: true })).toBe('hand-over.revoked');
  });

  it('gives what people of the device made, in order and marked; the rest is left out and counted', () => {
    const changes = [envelope(20, HAND), { change: 'none' }, envelope(21, STRANGER), envelope(22, HAND)];
    const taken = takenIn(what(changes), { isRevoked: false, people: [{ id: HAND }] });
    expect(taken.left).toBe(2);
    expect(taken.changes.map(({ documentId, envelope: { change } }) => [documentId, change.id])).toEqual([
      [HOUSE, id(20)],
      [HOUSE, id(22)],
    ]);
    // It is the device that signed, whatever a change says of itself.
    for (const { envelope: one } of taken.changes)
      expect([one.deviceId, one.isHandedOver]).toEqual([DEVICE, true]);
  });
});
