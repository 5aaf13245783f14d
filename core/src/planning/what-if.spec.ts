import { many, runs } from '../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { adding } from '../changes/change.js';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { wiringFindings } from '../testing/wiring-findings.js';
import type { House } from '../house/house.js';
import { Plan } from '../testing/plan.js';
import { randomSwitching } from '../testing/random-switching.js';
import type { Outlook } from './what-if.js';
import { feedOptions, outlook } from './what-if.js';

function stairs() {
  const plan = new Plan('Stairs');
  plan.room('Garage', 'garage');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(1, 'One', panel, 15);
  const one = plan.fed('S1', panel, '14/2', circuit, 'plastic-1g-18');
  const two = plan.fed('S2', one, '14/2', circuit, 'plastic-1g-18');
  const light = plan.fed('L1', two, '14/2', circuit, 'plastic-round-14');
  const places = [...plan.device(one, 'switch'), ...plan.device(two, 'switch')];
  const loads = plan.device(light, 'luminaire');
  return { plan, one, two, light, places, loads };
}
const NEW = '88888888-0000-4000-8000-000000000001';

describe('What a control would mean', () => {
  it('tells kinds of switches, cables, conductors and fill before it is added, and plans what it showed', () => {
    const { plan, places, loads } = stairs();
    const house = houseOf(plan.file);
    const look = outlook(house, adding('controls', { id: NEW, name: 'Stairs', places, loads }), NEW);
    expect(look.places.map(({ box, kind }) => [box, kind])).toEqual([
      ['S1', 'three-way'],
      ['S2', 'three-way'],
    ]);
    expect(look.runs.map(({ name, has, needed }) => [name, has, needed])).toEqual([
      ['PANEL → S1', '14/2', '14/2'],
      ['S1 → S2', '14/2', '14/3'],
      ['S2 → L1', '14/2', '14/2'],
    ]);
    expect(look.fills.map(({ tag, before, after }) => [tag, before, after])).toEqual([
      ['S1', 14, 16],
      ['S2', 14, 16],
      ['L1', 6, 6],
    ]);
    expect(look.findings).toEqual([]);
    const applied = applyChange(house, look.change);
    expect(applied.ok && wiringFindings(readerOf(applied.document)).map(({ code }) => code)).toEqual([]);
  });

  it('compares the feed at the switch end with the feed at the light end, and applies one', () => {
    const { plan, places, loads, one, two, light } = stairs();
    plan.file.runs[1]!.plannedCable = '14/3';
    plan.control('Stairs', places, loads);
    const house = houseOf(plan.file);
    const control = plan.file.controls[0]!.id;
    const options = feedOptions(house, control);
    expect(options.map(({ boxId, now, hasSwitch, hasLoad }) => [boxId, now, hasSwitch, hasLoad])).toEqual([
      [one, true, true, false],
      [two, false, true, false],
      [light, false, false, true],
    ]);
    const atLight = options[2]!.outlook;
    expect(atLight.runs.map(({ name, needed }) => [name, needed])).toEqual([
      ['PANEL → L1', '14/2'],
      ['S2 → L1', '14/2'],
      ['S1 → S2', '14/3'],
    ]);
    const applied = applyChange(house, atLight.change);
    if (!applied.ok) throw new Error(applied.refusal.message);
    expect(feedOptions(applied.document, control)[0]!.boxId).toBe(light);
    expect(wiringFindings(readerOf(applied.document))).toEqual([]);
    // A feed that is in the wall stays where it is.
    plan.pull(plan.file.runs[0]!.id, '14/2', 100);
    expect(feedOptions(houseOf(plan.file), control).length).toBe(1);
  });

  it('keeps nothing back: taken as it was shown, no run is short that was not, but those that are said', () => {
    const short = (house: House): string[] =>
      wiringFindings(readerOf(house)).flatMap(({ code, where }) =>
        code === 'wiring.too-few-conductors' ? where.runId! : [],
      );
    const check = (house: House, look: Outlook): void => {
      const applied = applyChange(house, look.change);
      if (!applied.ok) throw new Error(applied.refusal.message);
      const known = new Set([...short(house), ...look.findings.map(({ where }) => where.runId)]);
      expect(short(applied.document).filter((id) => !known.has(id))).toEqual([]);
      // Where one cable has enough, it is planned.
      for (const { runId, needed, pulled } of look.runs)
        if (needed && !pulled) expect(short(applied.document)).not.toContain(runId);
    };
    let feeds = 0;
    fc.assert(
      fc.property(randomSwitching(4), fc.nat(), (file, pick) => {
        const control = file.controls[pick % file.controls.length];
        if (!control) return;
        for (const { now, outlook: look } of feedOptions(houseOf(file), control.id)) {
          if (now) continue;
          check(houseOf(file), look);
          feeds++;
        }
        const without = structuredClone(file);
        without.controls = without.controls.filter(({ id }) => id !== control.id);
        if (pick % 2) for (const run of without.runs) if (run.kind === 'cable') run.plannedCable = '14/2';
        check(houseOf(without), outlook(houseOf(without), adding('controls', control), control.id));
      }),
      { numRuns: runs(100) },
    );
    expect(feeds).toBeGreaterThan(many(20));
  });
});
