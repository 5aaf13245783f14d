import type { Type } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import type { Finding } from '@mule-tally/core';
import type { BoxFill } from '@mule-tally/core/work';
import { emptyHouse, readerOf } from '@mule-tally/core';
import { unitsOf, wordsOf } from '@mule-tally/core/work';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { FillGauge } from './fill-gauge';
import { FindingCard } from './finding-card';
import { PickField } from './pick-field';
import { TallyMarks } from './tally-marks';

/** An empty house, as what is derived from it. */
const reader = readerOf(emptyHouse({ id: '', name: 'Lot', rulebook: { base: 'us-2020', overrides: {} } }));
const derived = {
  reader: () => reader,
  words: () => wordsOf(reader),
  units: () => unitsOf('feet-inches'),
};

async function shown<T>(part: Type<T>, inputs: Record<string, unknown>): Promise<ComponentFixture<T>> {
  const fixture = TestBed.createComponent(part);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  return fixture;
}
/** What is read, with a space wherever one element follows another. */
const textOf = (fixture: ComponentFixture<unknown>): string =>
  (fixture.nativeElement as HTMLElement).innerHTML
    .replace(/<[^>]*>/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

describe('Parts', () => {
  beforeEach(() => TestBed.overrideProvider(Derived, { useValue: derived }));

  const fill = (totalIn3: number, capacityIn3: number): BoxFill => ({
    boxId: '',
    capacity: [],
    capacityIn3,
    lines: [],
    totalIn3,
    leftIn3: capacityIn3 - totalIn3,
    fits: totalIn3 <= capacityIn3,
    wouldFit: [],
  });

  it('the gauge says in words what is left or over, for those who do not see the bar', async () => {
    const roomy = await shown(FillGauge, { fill: fill(14, 18) });
    expect(textOf(roomy)).toBe('14 of 18 cu in 4 cu in left');
    const full = await shown(FillGauge, { fill: fill(20.25, 18) });
    const bar = (full.nativeElement as HTMLElement).querySelector('[role=img]')!;
    expect(bar.getAttribute('aria-label')).toBe('20.25 of 18 cu in, 2.25 cu in over');
    expect(bar.querySelector<HTMLElement>('.limit')!.style.left).toMatch(/^88\.8/);
  });

  it('tally marks are bundled by five, a bar across four, and give way to figures when there are many', async () => {
    const few = await shown(TallyMarks, { done: 6, of: 8 });
    const host = few.nativeElement as HTMLElement;
    expect([host.querySelectorAll('g').length, host.querySelectorAll('line').length]).toEqual([2, 8]);
    expect(host.querySelectorAll('line.open').length).toBe(2);
    const many = await shown(TallyMarks, { done: 6, of: 80 });
    expect((many.nativeElement as HTMLElement).querySelector('svg')).toBeNull();
    expect(textOf(many)).toContain('6 of 80 runs in');
  });

  it('a finding makes its fix with one touch', async () => {
    const made: unknown[] = [];
    TestBed.overrideProvider(Desk, { useValue: { make: (change: unknown) => void made.push(change) } });
    const change = { kind: 'house.set', name: 'Mended' } as const;
    const finding: Finding = {
      code: 'fill.too-full',
      severity: 'stop',
      facts: { overIn3: 2 },
      where: {},
      measured: { kind: 'volume', in3: 20 },
      allowed: { kind: 'volume', in3: 18 },
      source: { section: 'fillCount', inEdition: true },
      fixes: [{ code: 'edition-value', facts: {}, change }],
    };
    const card = await shown(FindingCard, { finding });
    expect(textOf(card)).toContain('take a cable out: it is too full by 2 cu in.');
    expect(textOf(card)).toContain('20 cu in · allowed 18 cu in NEC 2020 314.16(B)');
    (card.nativeElement as HTMLElement).querySelector('button')!.click();
    expect(made).toEqual([change]);
  });

  it('a pick field gives an id for a whole name only, and takes it back when more is typed', async () => {
    const choices = [
      { id: 'a', label: 'S1 · Hall' },
      { id: 'b', label: 'S12 · Hall' },
    ];
    const field = await shown(PickField, { label: 'Box', choices });
    const given: (string | undefined)[] = [];
    field.componentInstance.chosen.subscribe((id) => given.push(id));
    const input = (field.nativeElement as HTMLElement).querySelector('input')!;
    for (const text of ['S', 's1', 's12', 's123']) {
      input.value = text;
      input.dispatchEvent(new Event('input'));
    }
    expect(given).toEqual([undefined, 'a', 'b', undefined]);
  });
});
