/**
 * Ringing out, against Debian's ngspice: every conductor and every splice a resistor of a hundredth of an ohm, the meter a source of
 * one volt behind a kilohm. What it reads low rings. It knows joints and conductors, and none of our nets.
 */
import '../core/src/testing/seed.js';
import * as fc from 'fast-check';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join as inFolder } from 'node:path';
import { readerOf } from '../core/src/derive/reader.js';
import { houseOf } from '../core/src/house/house-file.js';
import type { HouseFile } from '../core/src/house/house-file.js';
import type { WireEnd } from '../core/src/proving/bare-nets.js';
import type { RingStep } from '../core/src/proving/ring-out.js';
import { readings, ringOut } from '../core/src/proving/ring-out.js';
import { randomSwitching } from '../core/src/testing/random-switching.js';
import { faultsIn } from '../core/src/wiring/faults/faults.js';
import { boxJoints } from '../core/src/wiring/joints/box-joints.js';
import type { JointsByBox } from '../core/src/wiring/netlist/netlist.js';

const OHMS = 0.01;

/** One meter reading of each line: whether ngspice finds it low. Joins are resistors that are there for one reading only. */
function meter(
  file: HouseFile,
  joints: JointsByBox,
  asked: readonly {
    readonly pair: readonly [WireEnd, WireEnd];
    readonly joined?: readonly [WireEnd, WireEnd];
  }[],
): boolean[] {
  const nodes = new Map<string, number>();
  const node = (boxId: string, { runId, key }: { runId: string; key: string }): number => {
    const name = `${boxId} ${runId} ${key}`;
    return nodes.get(name) ?? (nodes.set(name, nodes.size + 1), nodes.size);
  };
  const lines: string[] = [];
  const resistor = (a: number, b: number): void => void lines.push(`Rw${lines.length} n${a} n${b} ${OHMS}`);
  const seen = new Map<string, number>();
  const links = new Map<string, number>();
  for (const [boxId, own] of joints) {
    const isPanel = file.boxes.find(({ id }) => id === boxId)!.catalogueId === 'panel';
    for (const { ends, landings, kind } of own) {
      const at = ends.map((end) => node(boxId, end));
      ends.forEach((end, index) => {
        const name = `${end.runId} ${end.key}`;
        const other = seen.get(name);
        if (other === undefined) seen.set(name, at[index]!);
        else resistor(other, at[index]!);
      });
      if (isPanel || kind === 'undecided') continue;
      at.slice(1).forEach((one) => resistor(at[0]!, one));
      for (const { terminal } of landings) {
        if (terminal.kind !== 'link' || at[0] === undefined) continue;
        const name = `${boxId} ${terminal.link}`;
        const other = links.get(name);
        if (other === undefined) links.set(name, at[0]);
        else resistor(other, at[0]);
      }
    }
  }
  // The leads of the meter lie at every end that is asked for, through next to nothing or through far too much.
  const [near, far] = ['1e-3', '1e15'];
  const leads = new Map<string, string>();
  const lead = (side: 'p' | 'n', end: WireEnd): string => {
    const name = `Rl${side}${node(end.boxId, end)}`;
    leads.set(name, `${name} ${side === 'p' ? 'mp' : '0'} n${node(end.boxId, end)} ${far}`);
    return name;
  };
  const joins = new Map<string, string>();
  const join = ([a, b]: readonly [WireEnd, WireEnd]): string => {
    const [at, to] = [node(a.boxId, a), node(b.boxId, b)];
    const name = `Rj${at}x${to}`;
    joins.set(name, `${name} n${at} n${to} ${far}`);
    return name;
  };
  const control = asked.flatMap(({ pair, joined }) => {
    const own = [lead('p', pair[0]), lead('n', pair[1]), ...(joined ? [join(joined)] : [])];
    return [
      ...own.map((name) => `alter ${name} = ${near}`),
      'op',
      'print i(vm)',
      ...own.map((name) => `alter ${name} = ${far}`),
    ];
  });
  const deck = [
    'ring out',
    ...lines,
    ...leads.values(),
    ...joins.values(),
    'Vm m0 0 1',
    'Rm m0 mp 1000',
    '.options rshunt=1e12',
    '.control',
    ...control,
    'quit 0',
    '.endc',
    '.end',
  ];
  const folder = mkdtempSync(inFolder(tmpdir(), 'mt-ring-'));
  try {
    const path = inFolder(folder, 'ring.cir');
    writeFileSync(path, deck.join('\n'));
    const out = execFileSync('ngspice', ['-b', path], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
      maxBuffer: 1 << 27,
    });
    // A milliampere flows where the pair rings.
    const told = [...out.matchAll(/i\(vm\) = (\S+)/g)].map(([, amps]) => Math.abs(Number(amps)) > 5e-4);
    if (told.length !== asked.length)
      throw new Error(`ngspice gave ${told.length} of ${asked.length} readings`);
    return told;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** The readings that a step asks for, and what each is to be. */
function asks({ kind, ends, join, strangers = [] }: RingStep) {
  if (kind === 'joined') {
    const pair = [ends[0]!, ends[1]!] as const;
    return [
      { pair, isToRing: false },
      { pair, joined: join!.ends, isToRing: true },
    ];
  }
  return ends.flatMap((a, at) =>
    [...ends.slice(at + 1), ...strangers].map((b) => ({ pair: [a, b] as const, isToRing: false })),
  );
}

describe('Ringing out and ngspice', () => {
  it('read the same, in sound houses and with every fault of a few', () => {
    let read = 0;
    let bad = 0;
    fc.assert(
      fc.property(randomSwitching(3), fc.nat(), (file, pick) => {
        const reader = readerOf(houseOf(file));
        const all: JointsByBox = new Map(file.boxes.map(({ id }) => [id, boxJoints(reader, id).joints]));
        const faults = faultsIn(reader, all);
        const made = faults.length ? [all, faults[pick % faults.length]!.into(all)] : [all];
        for (const joints of made) {
          for (const { id } of file.circuits.slice(0, 2)) {
            const steps = ringOut(reader, id).steps;
            const asked = steps.map(asks);
            const flat = asked.flat();
            if (!flat.length) continue;
            const answers = meter(file, joints, flat);
            const ours = readings(reader, id, joints);
            let at = 0;
            asked.forEach((own, step) => {
              const told = answers.slice(at, (at += own.length));
              const isGood = own.every(({ isToRing }, index) => told[index] === isToRing);
              expect(ours[step]!.isGood).withContext(`step ${step} of ${id}`).toBe(isGood);
              read += own.length;
              bad += Number(!isGood);
            });
          }
        }
      }),
      { numRuns: 25 },
    );
    expect(read).toBeGreaterThan(500);
    expect(bad).toBeGreaterThan(5);
  });
});
