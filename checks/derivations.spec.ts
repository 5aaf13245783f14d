import { readFileSync } from 'node:fs';
import type { ChangeBody, HouseReader } from '@mule-tally/core';
import { Derivations, applyChange, readHouseFile, setting } from '@mule-tally/core';
import { HOUSE_PULLS, causesIn, fillBox, makeUpBox, proveCircuit } from '@mule-tally/core/work';

/** What belongs to the wiring itself, and not to what is said of it. */
const WIRING = ['circuit wiring', 'box joints', 'circuit netlist', 'circuit proof', 'device sides'];

describe('What a change to the demo house derives again', () => {
  const read = readHouseFile(readFileSync(new URL('../demo/lot-12.house.json', import.meta.url), 'utf8'));
  if (!read.ok) throw new Error(read.problems[0]!.message);
  const { house, file } = read;
  const everything = (reader: HouseReader): void => {
    causesIn(reader);
    reader.derive(HOUSE_PULLS, reader.houseId);
    for (const { id } of file.boxes) {
      fillBox(reader, id);
      makeUpBox(reader, id);
    }
    for (const { id } of file.circuits) proveCircuit(reader, id);
  };
  /** How often each derivation is computed again after a change; nothing where it is not. */
  const again = (body: ChangeBody): Record<string, number> => {
    const kept = new Derivations(house);
    everything(kept.reader());
    const before = new Map(kept.computedByName);
    const applied = applyChange(house, body);
    if (!applied.ok) throw new Error(applied.refusal.message);
    kept.update(applied.document);
    everything(kept.reader());
    return Object.fromEntries(
      [...kept.computedByName].flatMap(([name, count]) =>
        count > (before.get(name) ?? 0) ? [[name, count - (before.get(name) ?? 0)]] : [],
      ),
    );
  };
  const wiring = (counts: Record<string, number>): number =>
    WIRING.reduce((sum, name) => sum + (counts[name] ?? 0), 0);
  const panel = file.boxes.find(({ catalogueId }) => catalogueId === 'panel')!;
  const box = file.boxes.find(({ tag }) => tag === 'S2')!;

  it('is none of the wiring for a height, a tag, the name of a room or a circuit', () => {
    expect(wiring(again(setting('boxes', box.id, { heightIn: 50 })))).toBe(0);
    expect(wiring(again(setting('boxes', panel.id, { tag: 'MAIN' })))).toBe(0);
    expect(wiring(again(setting('rooms', file.rooms[3]!.id, { name: 'Den' })))).toBe(0);
    const circuit = file.circuits.find(({ neutralGroup }) => neutralGroup)!;
    expect(wiring(again(setting('circuits', circuit.id, { name: 'Ovens' })))).toBe(0);
    // It is not that nothing is ever derived again.
    expect(wiring(again(setting('boxes', box.id, { neutralException: 'reachable' })))).toBeGreaterThan(0);
    expect(wiring(again(setting('rooms', box.roomId!, { kind: 'garage' })))).toBeGreaterThan(0);
  });

  it('is what reads it for one value of the rulebook', () => {
    const volume = again({ kind: 'rule.set', key: 'fill.volume.14', override: { value: 2.1 } });
    expect(wiring(volume)).toBe(0);
    expect(volume['box fill']).toBeGreaterThan(50);
    const trim = again({ kind: 'rule.set', key: 'makeup.trim', override: { value: 7 } });
    expect([wiring(trim), trim['box fill'] ?? 0, trim['box make-up']! > 50]).toEqual([0, 0, true]);
    const units = again({ kind: 'rule.set', key: 'show.units', override: { value: 'metric' } });
    expect(
      Object.keys(units).filter((name) => name !== 'rule findings' && !name.startsWith('house')),
    ).toEqual([]);
    const colour = again({ kind: 'rule.set', key: 'makeup.fanColour', override: { value: 'RD' } });
    expect(wiring(colour)).toBeGreaterThan(0);
  });
});
