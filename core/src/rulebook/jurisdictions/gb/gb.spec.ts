import * as fc from 'fast-check';
import { readerOf } from '../../../derive/reader.js';
import type { HouseReader } from '../../../derive/reader.js';
import { draftHouse } from '../../../furnish/draft-house.js';
import { fillBox } from '../../../fill/fill-box.js';
import { writeHouseFile, houseOf } from '../../../house/house-file.js';
import type { HouseFile } from '../../../house/house-file.js';
import { readOutline } from '../../../plan/typed-outline.js';
import { inspectHouse } from '../../../inspection/inspect-house.js';
import { applyChange } from '../../../changes/apply.js';
import { Diagnosis } from '../../../diagnosis/diagnosis.js';
import type { Evidence } from '../../../diagnosis/evidence.js';
import { bareNetsOf } from '../../../diagnosis/evidence.js';
import { readStep, readings, ringOut } from '../../../proving/ring-out.js';
import { Plan } from '../../../testing/plan.js';
import { randomBritish } from '../../../testing/random-british.js';
import { runs } from '../../../testing/seed.js';
import { wireCircuit } from '../../../wiring/conductors/wire-circuit.js';
import { boxJoints } from '../../../wiring/joints/box-joints.js';
import type { BoxJoint } from '../../../wiring/joints/box-joint.js';
import { buildNetlist } from '../../../wiring/netlist/build-netlist.js';
import { proveCircuit, proveNetlist } from '../../../wiring/proof/prove-circuit.js';
import { wordsOf } from '../../../words/words.js';
import { JURISDICTIONS } from '../../jurisdictions.js';
import { rulebookFor } from '../../rulebook.js';
import { GB } from './gb.js';
import { BACK, ROSE, WIDE, atRose, built, found, oneLight, read } from '../../../testing/british-plan.js';
import type { Build, Schools } from '../../../testing/british-plan.js';

/** A ring of so many boxes, its home runs at one breaker; `spurs` hang on a box of it, by their numbers. */
const ringed =
  (count: number, spurs: readonly number[] = [], more: Build = () => undefined): Build =>
  (plan, panel, lights) => {
    const ring = plan.circuit(2, 'Ring', panel, 32, { ring: true, protection: 'gfci' });
    const boxes: string[] = [];
    for (let at = 0; at < count; at++)
      boxes.push(plan.fed(`R${at + 1}`, boxes.at(-1) ?? panel, '2.5 T&E', ring, WIDE));
    plan.run(boxes.at(-1)!, panel, '2.5 T&E', ring);
    for (const at of spurs) boxes.push(plan.fed(`P${at + 1}`, boxes[at]!, '2.5 T&E', ring, WIDE));
    for (const box of boxes) plan.device(box, 'receptacle', 1, ring);
    more(plan, panel, lights);
  };
/** The joints of a box as they were made, with one conductor by itself. */
function recorded(reader: HouseReader, boxId: string, out: (joint: BoxJoint) => number | undefined) {
  return boxJoints(reader, boxId).joints.flatMap((joint) => {
    const { ends, landings } = joint;
    const at = out(joint);
    const taken = (own: typeof ends) =>
      own.map(({ runId, key, reidentified }) => ({
        runId,
        conductor: key,
        ...(reidentified && { marked: true }),
      }));
    const terminals = landings.length ? { terminals: [...landings] } : {};
    if (at === undefined) return [{ kind: 'splice' as const, ends: taken(ends), ...terminals }];
    return [
      { kind: 'splice' as const, ends: taken(ends.filter((_, index) => index !== at)), ...terminals },
      { kind: 'cap' as const, ends: taken([ends[at]!]) },
    ];
  });
}

describe('Britain (BS 7671, from memory)', () => {
  it('closes a ring through its boxes; a core out anywhere on it is found by proof and by its first dead test, by nothing else', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 6 }),
        fc.nat(),
        fc.constantFrom('hot', 'neutral', 'ground'),
        (count, where, core) => {
          const file = built(ringed(count, [where % count]));
          const sound = readerOf(houseOf(file));
          const ring = file.circuits[1]!.id;
          expect(found(sound)).toEqual([]);
          expect(readings(sound, ring).every(({ isGood }) => isGood)).toBeTrue();
          const ends = ringOut(sound, ring).steps.filter(({ kind }) => kind === 'ends');
          expect(ends.map(({ ends: [a] }) => a!.role)).toEqual(['hot', 'neutral', 'ground']);
          const box = file.boxes.find(({ tag }) => tag === `R${(where % count) + 1}`)!;
          const onRing = new Set(ends[0]!.wires);
          const asBuilt = recorded(sound, box.id, ({ role, ends: own }) => {
            const at = own.findIndex(
              ({ runId, key }) => [...onRing].some((wire) => wire.startsWith(runId)) && key,
            );
            return role === core ? at : undefined;
          });
          const made = structuredClone(file);
          made.boxes.find(({ id }) => id === box.id)!.asBuilt = asBuilt as never;
          const open = readerOf(houseOf(made));
          const failures = proveCircuit(open, ring).failures.filter(({ code }) => code === 'proof.ring-open');
          expect(failures.map(({ facts }) => facts)).toEqual([{ core: core as 'hot' }]);
          const wrong = readings(open, ring).flatMap(({ isGood }, at) =>
            isGood ? [] : [ringOut(open, ring).steps[at]!],
          );
          expect(wrong[0]!.kind).toBe('ends');
          expect(wrong[0]!.ends[0]!.role).toBe(core as 'hot');
          // Everything still works: no lever and no load tells.
          expect(proveCircuit(open, ring).failures.map(({ code }) => code)).not.toContain(
            'proof.always-on-is-not',
          );
        },
      ),
      { numRuns: runs(40) },
    );
  });

  it('tests dead in its order, and finds from r1, rn and r2 what is out of a ring: every answer as a meter gives it, one box after another', () => {
    const file = built(ringed(5, [2]));
    const sound = readerOf(houseOf(file));
    const ring = file.circuits[1]!.id;
    const { steps } = ringOut(sound, ring);
    const order = ['ends', 'polarity', 'joined', 'apart'];
    expect(steps.map(({ kind }) => order.indexOf(kind))).toEqual(
      steps.map(({ kind }) => order.indexOf(kind)).sort(),
    );
    expect(steps.filter(({ kind }) => kind === 'polarity').length).toBe(6);
    const diagnosis = new Diagnosis(sound, ring);
    const faults = diagnosis.hypotheses.filter(({ kind }) => kind === 'ring open');
    // Line, neutral and CPC, at both cables of each of five boxes.
    expect(faults.length).toBe(30);
    for (const truth of faults) {
      const nets = bareNetsOf(sound, diagnosis.sound, truth.joints);
      const evidence: Evidence[] = steps.map((step) => ({
        kind: 'ring',
        step,
        isGood: readStep(nets, step).isGood,
      }));
      const bad = evidence.filter((one) => one.kind === 'ring' && !one.isGood);
      expect(bad.length).toBeGreaterThan(0);
      const netlist = buildNetlist(sound, diagnosis.wirings, truth.joints);
      expect(proveNetlist(sound, netlist).failures.map(({ code }) => code)).toContain('proof.ring-open');
      // Out of a terminal or cut in the wall before all else; the box where it is, among the first that are gone to.
      const causes = diagnosis.causes(evidence);
      expect(['ring open', 'conductor cut in the wall']).toContain(causes[0]!.hypotheses[0]!.kind);
      const places = [...new Set(causes.map(({ place }) => place.key))];
      expect(places.indexOf(truth.place.key)).toBeLessThan(11);
      // Looked at and not there, one after another, until it is: never named away.
      const others = places.slice(0, places.indexOf(truth.place.key));
      const looked = others.map((key): Evidence => {
        const { kind, id } = causes.find(({ place }) => place.key === key)!.place;
        return { kind: 'looked', place: { kind, id }, isThere: false };
      });
      expect(diagnosis.causes([...evidence, ...looked])[0]!.place.key).toBe(truth.place.key);
    }
  });

  it('finds a leg that is missing, a ring that is bridged, a spur on a spur, and a loop that is a ring', () => {
    const file = built(ringed(4));
    const home = file.runs.at(-1)!;
    const change = (edit: (copy: HouseFile) => void): HouseReader => {
      const copy = structuredClone(file);
      edit(copy);
      return readerOf(houseOf(copy));
    };
    const box = (tag: string): string => file.boxes.find((one) => one.tag === tag)!.id;
    const extra = (from: string, to: string, id: string) => ({
      ...{ ...home, id: `00000000-0000-4000-8000-0000000000${id}` },
      from: { boxId: from },
      to: { boxId: to },
    });
    const missingHouse = houseOf({ ...file, runs: file.runs.filter(({ id }) => id !== home.id) });
    const missing = readerOf(missingHouse);
    const [leg] = inspectHouse(missing).filter(({ code }) => code === 'ring.leg-missing');
    // With one end 32 A would be too much for the cable: it is not offered to be no ring.
    expect(leg!.fixes!.map(({ code }) => code)).toEqual(['ring-home']);
    const led = applyChange(missingHouse, leg!.fixes![0]!.change);
    expect(led.ok && found(readerOf(led.document))).toEqual([]);
    expect(found(change(({ runs: all }) => all.push(extra(box('R1'), box('R3'), 'f1'))))).toContain(
      'ring.bridged',
    );
    expect(found(read(ringed(4, [1, 4])))).toContain('ring.spur');
    expect(found(read(ringed(4, [1, 2])))).toEqual([]);
    // Nobody has said that it is a ring: it is offered, taken, and looked at again.
    const unsaidFile = structuredClone(file);
    delete unsaidFile.circuits[1]!.ring;
    const unsaidHouse = houseOf(unsaidFile);
    const unsaid = readerOf(unsaidHouse);
    const loop = inspectHouse(unsaid).find(({ code }) => code === 'wiring.loop')!;
    const taken = applyChange(unsaidHouse, loop.fixes![0]!.change);
    expect(loop.fixes![0]!.code).toBe('make-ring');
    expect(taken.ok && found(readerOf(taken.document))).toEqual([]);
    // Without its ring 32 A is too much for the cable.
    expect(found(unsaid)).toContain('wire.too-thin');
  });

  it('finds a core that is recorded as line without its sleeve, and the touch that sets it right', () => {
    const file = built(atRose(['1.0 T&E']));
    const sound = readerOf(houseOf(file));
    const box = file.boxes.find(({ tag }) => tag === 'S1')!;
    const asBuilt = recorded(sound, box.id, () => undefined).map((joint) => ({
      ...joint,
      ends: joint.ends.map(({ marked: _marked, ...end }) => end),
    }));
    box.asBuilt = asBuilt as never;
    const house = houseOf(file);
    const [bare] = inspectHouse(readerOf(house)).filter(({ code }) => code === 'made.white-unmarked');
    expect(wordsOf(readerOf(house)).finding(bare!)).toBe(
      'Mark the blue in S1 all round with brown sleeve: it is a switched line, and the next hand takes it for something else.',
    );
    const taken = applyChange(house, bare!.fixes![0]!.change);
    expect(taken.ok && found(readerOf(taken.document))).toEqual([]);
  });

  it('counts no conductors: a box is chosen by its depth, and says that no rule is claimed', () => {
    const depthOf = (model: string, device: string) => {
      const file = built((plan, panel, lights) => {
        const rose = plan.fed('L1', panel, '1.5 T&E', lights, ROSE);
        const box = plan.fed('S1', rose, '1.0 T&E', lights, model);
        plan.control('Light', plan.device(box, device, 1, lights), oneLight(plan, rose, lights));
      });
      const reader = readerOf(houseOf(file));
      const fill = fillBox(reader, file.boxes.find(({ tag }) => tag === 'S1')!.id)!;
      return {
        fits: fill.fits,
        codes: found(reader),
        sources: new Set(fill.lines.map(({ source }) => source)),
      };
    };
    // 12 mm of plate and 10 mm behind it: 25 mm hold it, 16 mm do not. A dimmer of 22 mm wants 35 mm.
    expect(depthOf('gb-back-1g-25', 'gb-plate-1').fits).toBeTrue();
    expect(depthOf('gb-back-1g-16', 'gb-plate-1').codes).toEqual(['fill.too-shallow']);
    expect(depthOf('gb-back-1g-25', 'dimmer').codes).toEqual(['fill.too-shallow']);
    expect(depthOf(BACK, 'dimmer')).toEqual({ fits: true, codes: [], sources: new Set(['common practice']) });
    expect(rulebookFor({ base: 'gb-2018', overrides: {} }).section('fillCount')).toBe('common practice');
  });

  it('asks for a safe zone and an RCD together where cable lies shallow: 50 mm, 150 mm bands, straight from what is seen (522.6.202)', () => {
    const inWall = (
      heightMm: number,
      more: Schools | Readonly<Record<string, number | boolean>> = {},
      protection: 'none' | 'gfci' = 'gfci',
    ) => {
      const plan = new Plan('Zone', 'gb-2018');
      plan.file.rulebook.overrides = Object.fromEntries(
        Object.entries({
          ...{
            'route.prefer': 'stay',
            'route.chain': 'low',
            'route.height': heightMm,
            'route.price.stay': 100,
          },
          ...more,
        }).map(([key, value]) => [key, { value }]),
      );
      plan.room('Room', 'living');
      plan.file.rooms.at(-1)!.outline = readOutline('5 x 4', 0, 'm')!.map(({ id, ...at }) => ({
        id: id!,
        ...at,
      }));
      const corner = plan.file.rooms.at(-1)!.outline![0]!.id;
      const panel = plan.box('CU', 'panel', { corner, alongIn: 20, heightIn: 60 });
      const circuit = plan.circuit(1, 'Sockets', panel, 20, { protection });
      const at = { corner, heightIn: 450 / 25.4, heightReference: 'centre' as const };
      const one = plan.fed('R1', panel, '2.5 T&E', circuit, WIDE, { ...at, alongIn: 70 });
      const two = plan.fed('R2', one, '2.5 T&E', circuit, WIDE, { ...at, alongIn: 160 });
      for (const box of [one, two]) plan.device(box, 'receptacle', 1, circuit);
      return houseOf(plan.file);
    };
    const zones = (house: ReturnType<typeof inWall>) =>
      inspectHouse(readerOf(house)).filter(({ code }) => code.startsWith('zone'));
    const codes = (house: ReturnType<typeof inWall>): string[] => zones(house).map(({ code }) => code);
    // Level at the height of the sockets, and 900 mm up where nobody looks; an outer wall of 140 mm is deep enough, at 70 mm.
    const thin = { 'wall.exterior': 89 };
    expect(codes(inWall(450, thin))).not.toContain('zone.outside');
    expect(codes(inWall(900, thin))).toContain('zone.outside');
    expect(codes(inWall(900))).toEqual([]);
    expect(codes(inWall(900, { 'wall.exterior': 89 }))).not.toContain('zone.no-rcd');
    // The RCD never stands for the zone, nor the zone for the RCD; metal asks for it at any depth.
    expect(codes(inWall(450, thin, 'none'))).toContain('zone.no-rcd');
    expect(codes(inWall(900, { 'zone.metal': true }, 'none'))).toEqual(['zone.no-rcd']);
    const bare = inWall(450, thin, 'none');
    const taken = applyChange(
      bare,
      zones(bare).find(({ code }) => code === 'zone.no-rcd')!.fixes![0]!.change,
    );
    expect(taken.ok && codes(taken.document)).not.toContain('zone.no-rcd');
    // Round by the walls and zones that are safe: taken, nothing of it lies outside any more. What is in the wall already stays there.
    let around = inWall(900, { ...thin, 'route.price.stay': 5 });
    const outside = () => zones(around).filter(({ code }) => code === 'zone.outside');
    expect(outside().length).toBeGreaterThan(0);
    const [first] = outside();
    const pulled = writeHouseFile(around);
    pulled.pulls.push({
      ...{ id: '00000000-0000-4000-8000-00000000beef', runId: first!.where.runId!, cable: '2.5 T&E' },
      ...{ state: 'in', at: '2026-01-01T00:00:00.000Z', by: '00000000-0000-4000-8000-00000000000a' },
    });
    const isIn = inspectHouse(readerOf(houseOf(pulled))).find(
      ({ code, where }) => code === 'zone.outside' && where.runId === first!.where.runId,
    );
    expect(isIn?.fixes ?? []).toEqual([]);
    for (const { fixes = [] } of outside()) {
      const next = applyChange(around, fixes[0]!.change);
      if (!next.ok) throw new Error(next.refusal.message);
      around = next.document;
    }
    expect(inspectHouse(readerOf(around)).filter(({ code }) => /^(zone|way)/.test(code))).toEqual([]);
  });

  it('drafts houses by its own circuits, rings and plates that its own inspection finds nothing to mend in', () => {
    const kinds = [
      'kitchen',
      'living',
      'bedroom',
      'bath',
      'hall',
      'stairs',
      'utility',
      'dining',
      'office',
    ] as const;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...kinds), fc.integer({ min: 20, max: 55 })), {
          minLength: 1,
          maxLength: 6,
        }),
        fc.constantFrom('light', 'switch'),
        (rooms, feed) => {
          const plan = new Plan('Draft', 'gb-2018');
          plan.file.rulebook.overrides = { 'draft.feed': { value: feed } };
          rooms.forEach(([kind, width], at) => {
            plan.room(`${kind} ${at}`, kind);
            plan.file.rooms.at(-1)!.outline = readOutline(`${width / 10} x 3.6`, 0, 'm')!.map(
              ({ id, xIn, yIn }) => ({
                id: id!,
                xIn: xIn + 250 * at,
                yIn,
              }),
            );
          });
          const house = houseOf(plan.file);
          const applied = applyChange(house, { kind: 'group', changes: [...draftHouse(house).changes] });
          if (!applied.ok) throw new Error(applied.refusal.message);
          const reader = readerOf(applied.document);
          const left = inspectHouse(reader).filter(({ severity }) => severity !== 'note');
          expect(left.map(({ code }) => code)).toEqual([]);
          for (const { id, ring, breakerAmps } of reader.all('circuits')) {
            const { tree } = wireCircuit(reader, id);
            expect(tree.ring !== undefined).toBe(ring === true);
            if (breakerAmps === 32 && tree.nodes.length > 2) expect(ring).toBeTrue();
          }
        },
      ),
      { numRuns: runs(25) },
    );
  });

  it('says where every value is from, and nothing of another country', () => {
    const US_ONLY =
      /receptacle|\bgrounds?\b|traveler|three-way|four-way|\bpanels?\b|pigtail|raceway|AWG|\bNEC\b|\bhots?\b|breaker|GFCI|AFCI|\d (in|ft)\b|staple|attic|twist-on|switch leg|home run|drywall|cu in|common disconnect/i;
    for (const { key, title, note, unit, options, provenance, section } of GB.rules) {
      expect(provenance === 'published, from memory')
        .withContext(key)
        .toBe(section !== undefined);
      for (const text of [title, note, unit, ...(options ?? []).map((one) => one.text)])
        if (text) expect(text).withContext(key).not.toMatch(US_ONLY);
    }
    for (const { says } of Object.values(GB.sections)) expect(says).not.toMatch(US_ONLY);
    for (const { name } of [...GB.devices, ...GB.boxes, ...GB.connectors]) expect(name).not.toMatch(US_ONLY);
    for (const { title } of GB.chapters) expect(title).not.toMatch(US_ONLY);
    // And the other way round.
    const GB_ONLY =
      /socket|\bCPCs?\b|strapper|consumer unit|\bMCBs?\b|\bRC(D|BO)\b|back box|two-way|intermediate|oversleeve|spur/i;
    for (const { id, rules, devices, boxes } of JURISDICTIONS.filter(({ id }) => id !== 'gb'))
      for (const text of [
        ...rules.flatMap(({ title, note = '' }) => [title, note]),
        ...[...devices, ...boxes].map(({ name }) => name),
      ])
        expect(text).withContext(id).not.toMatch(GB_ONLY);
  });

  it('proves random houses of loops, drops, two-way switching and rings, says nothing of another country, and holds what it offers', () => {
    const US_ONLY =
      /receptacle|\bground|traveler|three-way|\bpanel\b|pigtail|\bNEC\b|cu in|\d (ft|in)\b|white|breaker/;
    fc.assert(
      fc.property(randomBritish, (file) => {
        const reader = readerOf(houseOf(file));
        const words = wordsOf(reader);
        const findings = inspectHouse(reader);
        // By conversion, a light beyond the last switch asks for more cores than there are: that is said, nothing else is wrong.
        const wrong = findings
          .filter(({ code }) => /^(proof|wiring|made|ring|control)/.test(code))
          .map(({ code }) => code);
        const isConverted = file.rulebook.overrides['wiring.twoWay']?.value === 'conversion';
        expect(wrong.filter((one) => !isConverted || one !== 'wiring.too-few-conductors')).toEqual([]);
        for (const finding of findings) {
          expect(`${words.finding(finding)} ${words.more(finding) ?? ''}`).not.toMatch(US_ONLY);
          for (const fix of finding.fixes ?? []) expect(words.fix(fix)).not.toMatch(US_ONLY);
        }
      }),
      { numRuns: runs(60) },
    );
  });
});
