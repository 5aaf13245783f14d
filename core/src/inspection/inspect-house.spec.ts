import { said } from '../testing/said.js';
import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { wiringFindings } from '../testing/wiring-findings.js';

function start() {
  const plan = new Plan('Checks');
  plan.room('Room');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(1, 'One', panel, 15);
  const findings = () => wiringFindings(readerOf(houseOf(structuredClone(plan.file))));
  return { plan, panel, circuit, findings, codes: () => findings().map(({ code }) => code) };
}

describe('Inspection', () => {
  it('offers a box that holds it, and the offer mends the finding', () => {
    const { plan, panel, circuit, findings } = start();
    const box = plan.fed('R1', panel, '14/2', circuit);
    plan.device(box, 'receptacle');
    for (const tag of ['R2', 'R3', 'R4']) plan.device(plan.fed(tag, box, '14/2', circuit), 'receptacle');
    const [finding] = findings();
    const { fixes: _ways, ...told } = { ...finding!, ...said(readerOf(houseOf(plan.file)), finding!) };
    expect([told.code, told.message, told.measured, told.allowed, told.source]).toEqual([
      'fill.too-full',
      'Set a larger box at R1, or take a cable out: it is too full by 4 cu in.',
      '22 cu in',
      '18 cu in',
      'NEC 2020 314.16(B)',
    ]);
    const applied = applyChange(houseOf(plan.file), finding!.fixes![0]!.change);
    expect(applied.ok && wiringFindings(readerOf(applied.document))).toEqual([]);
  });

  it('finds a slot with more cables than it takes, by the house’s rule', () => {
    const { plan, panel, circuit, codes } = start();
    const box = plan.box('R1', 'plastic-1g-22.5');
    plan.device(box, 'receptacle');
    plan.run(panel, box, '14/2', circuit, { to: { boxId: box, slot: 1 } });
    for (const tag of ['R2', 'R3']) {
      const far = plan.box(tag);
      plan.device(far, 'receptacle');
      plan.run(box, far, '14/2', circuit, { from: { boxId: box, slot: tag === 'R2' ? 1 : 9 } });
    }
    expect(codes()).toEqual(['slot.none-such']);
    plan.file.rulebook.overrides['slot.onePerClamp'] = { value: true };
    expect(codes().toSorted()).toEqual(['slot.none-such', 'slot.too-many']);
  });

  it('finds two devices in one gang, and more gangs than the box has', () => {
    const { plan, panel, circuit, codes } = start();
    const box = plan.fed('R1', panel, '14/2', circuit, 'plastic-1g-22.5');
    plan.device(box, 'receptacle', 1);
    plan.device(box, 'receptacle', 1, undefined, 2);
    expect(codes().toSorted()).toEqual(['gang.none-such', 'gang.taken-twice']);
  });

  it('finds a house rule loosened without a reason, keeps one with a reason in sight, and lets a stricter one be', () => {
    const { plan, findings } = start();
    const rule = (value: number, reason?: string): [string, string][] => {
      plan.file.rulebook.overrides['fill.yoke'] = { value, ...(reason && { reason }) };
      return findings().map(({ code, severity }) => [code, severity]);
    };
    expect(rule(1)).toEqual([['rule.loosened-without-reason', 'stop']]);
    expect(rule(1, 'local amendment 7')).toEqual([['rule.loosened', 'note']]);
    expect(rule(3)).toEqual([]);
    plan.file.rulebook.overrides = { 'fill.groundsCovered': { value: 0 } };
    expect(findings().map(({ code }) => code)).toEqual(['rule.loosened-without-reason']);
  });

  it('finds a run of no circuit, a loose end, a switch that switches nothing', () => {
    const { plan, panel, circuit, codes } = start();
    const box = plan.fed('S1', panel, '14/2', circuit, 'plastic-4g-72');
    plan.device(box, 'switch');
    plan.run(box, plan.box('X'), '14/2', circuit, { circuitIds: [] });
    plan.run(box, plan.box('wall light, 66 in up', 'buried-point'), '14/2', circuit);
    for (let n = 0; n < 9; n++) plan.device(plan.fed(`R${n}`, box, '14/2', circuit), 'receptacle');
    expect(new Set(codes())).toEqual(new Set(['run.no-circuit', 'run.loose-end', 'control.switch-without']));
  });

  it('finds two circuits of one panel with one number', () => {
    const { plan, panel, findings } = start();
    const second = plan.circuit(1, 'Also one', panel, 15);
    expect(findings().map(({ code, where }) => [code, where.circuitId])).toEqual([
      ['circuit.number-twice', second],
    ]);
  });
});
