import { readerOf } from './derive/reader.js';
import { readHouseFile } from './house/house-file.js';
import { inspectHouse } from './inspection/inspect-house.js';
import { Plan } from './testing/plan.js';
import { wordsOf } from './words/words.js';
import { wireCircuit } from './wiring/conductors/wire-circuit.js';
import { signalText } from './words/signal-text.js';
import { carriedFacts } from './vocabulary/signal.js';
import { boxJoints } from './wiring/joints/box-joints.js';
import { sayingOf } from './words/say.js';
import { terminalText } from './words/terminal-text.js';
import { fillBox } from './fill/fill-box.js';

const BACK = 'gb-back-1g-35', ROSE = 'gb-rose';
function show(name: string, build: (plan: Plan, panel: string, lights: string) => void, overrides = {}) {
  const plan = new Plan(name, 'gb-2018');
  plan.file.rulebook = { base: 'gb-2018', overrides } as never;
  plan.room('Room', 'living');
  const panel = plan.box('CU', 'panel');
  const lights = plan.circuit(1, 'Lights', panel, 6, { protection: 'gfci' });
  build(plan, panel, lights);
  const read = readHouseFile(JSON.stringify(plan.file));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const reader = readerOf(read.house);
  const say = sayingOf(reader);
  console.log(`\n=== ${name}`);
  for (const c of plan.file.circuits) {
    const w = wireCircuit(reader, c.id);
    for (const [id, run] of w.runs) {
      console.log(say.run(id), [...run.carries].map(([k, v]) => `${k}=${signalText(reader, carriedFacts(v), say.tongue)}`).join(' | '), run.missing.length ? 'MISSING' : '');
    }
  }
  for (const box of plan.file.boxes) {
    const { joints, unfed } = boxJoints(reader, box.id);
    if (box.tag === 'CU') continue;
    console.log(' ', box.tag, joints.filter(j => j.role !== 'ground').map((j) => `[${j.role}: ${[...j.ends.map((e) => `${e.colour}${e.reidentified ? '*' : ''}→${say.ends(e.runId)}`), ...j.landings.map((l) => terminalText(l.terminal, undefined, say.tongue))].join(' + ')}]`).join('\n     '), unfed.length ? 'UNFED' : '');
    const fill = fillBox(reader, box.id); if (fill) console.log('   fill', say.units.volume(fill.totalIn3), say.units.volume(fill.capacityIn3), fill.fits);
  }
  const words = wordsOf(reader);
  for (const f of inspectHouse(reader)) if (!f.code.startsWith('layout')) console.log('  !', f.severity, f.code, words.finding(f));
}
const three = (plan: Plan, panel: string, lights: string) => {
  const l1 = plan.fed('L1', panel, '1.5 T&E', lights, ROSE);
  const l2 = plan.fed('L2', l1, '1.5 T&E', lights, ROSE);
  const s1 = plan.fed('S1', l1, '1.0 T&E', lights, BACK);
  const s2 = plan.fed('S2', l2, '1.0 T&E', lights, BACK);
  plan.control('One', plan.device(s1, 'gb-plate-1'), plan.device(l1, 'luminaire'));
  plan.control('Two', plan.device(s2, 'gb-plate-1'), plan.device(l2, 'luminaire'));
};
show('three-plate', three);
const twoway = (plan: Plan, panel: string, lights: string) => {
  const l1 = plan.fed('L1', panel, '1.5 T&E', lights, ROSE);
  const s1 = plan.fed('S1', l1, '1.0 T&E', lights, BACK);
  const s2 = plan.fed('S2', s1, '1.0 3C&E', lights, BACK);
  plan.control('Stairs', [...plan.device(s1, 'gb-plate-1'), ...plan.device(s2, 'gb-plate-1')], plan.device(l1, 'luminaire'));
};
show('two-way drop, conversion', twoway, { 'wiring.twoWay': { value: 'conversion' } });
show('two-way drop, strappers', twoway);
const looped = (plan: Plan, panel: string, lights: string) => {
  const s1 = plan.fed('S1', panel, '1.5 T&E', lights, 'gb-back-1g-35');
  const l1 = plan.fed('L1', s1, '1.0 T&E', lights, ROSE);
  const l2 = plan.fed('L2', s1, '1.0 T&E', lights, ROSE);
  const s2 = plan.fed('S2', s1, '1.5 T&E', lights, BACK);
  const l3 = plan.fed('L3', s2, '1.0 T&E', lights, ROSE);
  const [a, b] = plan.device(s1, 'gb-plate-2');
  plan.control('A', [a!], plan.device(l1, 'luminaire'));
  plan.control('B', [b!], plan.device(l2, 'luminaire'));
  plan.control('C', plan.device(s2, 'gb-plate-1'), plan.device(l3, 'luminaire'));
};
show('two-plate, 2 gang', looped);
const inter = (plan: Plan, panel: string, lights: string) => {
  const s1 = plan.fed('S1', panel, '1.5 T&E', lights, BACK);
  const s2 = plan.fed('S2', s1, '1.0 3C&E', lights, BACK);
  const s3 = plan.fed('S3', s2, '1.0 3C&E', lights, BACK);
  const l1 = plan.fed('L1', s3, '1.0 T&E', lights, ROSE);
  plan.control('Land', [...plan.device(s1, 'gb-plate-1'), ...plan.device(s2, 'gb-plate-1'), ...plan.device(s3, 'gb-plate-1')], plan.device(l1, 'luminaire'));
};
show('intermediate, strappers', inter);
const inter2 = (plan: Plan, panel: string, lights: string) => {
  const l1 = plan.fed('L1', panel, '1.5 T&E', lights, ROSE);
  const s1 = plan.fed('S1', l1, '1.0 T&E', lights, BACK);
  const s2 = plan.fed('S2', s1, '1.0 3C&E', lights, BACK);
  const s3 = plan.fed('S3', s2, '1.0 3C&E', lights, BACK);
  plan.control('Land', [...plan.device(s1, 'gb-plate-1'), ...plan.device(s2, 'gb-plate-1'), ...plan.device(s3, 'gb-plate-1')], plan.device(l1, 'luminaire'));
};
show('intermediate, conversion', inter2, { 'wiring.twoWay': { value: 'conversion' } });
show('ring', (plan, panel) => {
  const ring = plan.circuit(2, 'Ring', panel, 32, { ring: true, protection: 'gfci' });
  const boxes = [1, 2, 3].map((n) => plan.box(`R${n}`, 'gb-back-2g-35'));
  let at = panel;
  for (const b of boxes) { plan.run(at, b, '2.5 T&E', ring); at = b; plan.device(b, 'receptacle', 1, ring); }
  plan.run(at, panel, '2.5 T&E', ring);
  const sp = plan.fed('R4', boxes[1]!, '2.5 T&E', ring, 'gb-back-2g-35'); plan.device(sp, 'receptacle', 1, ring);
});
