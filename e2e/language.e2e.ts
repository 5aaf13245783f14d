import type { Page } from '@playwright/test';
import type { HouseFile } from '../core/src/house/house-file.js';
import { expect, test } from './stack';

/** Every screen, by the path within a house or from the root. */
const CREW = ['people', 'stock', 'kits', 'habits', 'prices', 'connectors', 'journal', 'unsent'];
const IN_HOUSE: [stage: string, room: string, query: Record<string, string>][] = [
  ['pull', 'Hall', {}],
  ['make-up', 'Hall', {}],
  ['lay-out', 'Hall', {}],
  ['lay-out', 'Family room', { of: 'controls' }],
  ['lay-out', 'Hall', { of: 'circuits' }],
  ['lay-out', 'Hall', { of: 'rooms' }],
  ['check', 'Hall', {}],
  ['check', 'Family room', { of: 'switching' }],
  ...['rulebook', 'house', 'journal', 'unsent', 'crew'].map(
    (tab) => ['truck', 'Hall', { tab }] as [string, string, Record<string, string>],
  ),
];

/** What a person called something in the demo, and what the crew did. */
const namesIn = (file: HouseFile): string[] => [
  'Lot 12, two story',
  'Import',
  'Reel 3',
  'Kit 7',
  file.name,
  ...file.people.map(({ name }) => name),
  ...[
    ...file.rooms,
    ...file.storeys,
    ...file.circuits,
    ...file.controls,
    ...file.catalogueBoxes,
    ...file.catalogueDevices,
  ].map(({ name }) => name),
  ...file.boxes.map(({ tag }) => tag),
  ...file.points.flatMap(({ name }) => name ?? []),
  ...file.runs.flatMap(({ label }) => label ?? []),
];

/** Units, codes of colours and of published rules, the product itself: they are the same in every language. */
const SAME =
  /^(Mule|Tally|NEC|Table|AWG|EMT|LINE|LOAD|MCA|MOCP|GFCI|AFCI|SVG|CSV|JSON|SPICE|BK|WH|RD|BU|GN|GY|BN|OG|YE|VT|PK|cu|in|ft|mm|mL|Chapter|exception|Lead|Hand|Ctrl|Shift|English|Español|Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec|by|and|U)$/;

/** Words on the screen and in its attributes that stand in no ⟦ ⟧. */
const unasked = (page: Page, names: readonly string[]): Promise<string[]> =>
  page
    .evaluate(
      ([names]) => {
        const found: string[] = [];
        let depth = 0;
        const outside = (text: string): string => {
          let out = '';
          for (const letter of text) {
            if (letter === '⟦') depth++;
            else if (letter === '⟧') depth--;
            else if (depth === 0) out += letter;
          }
          return out;
        };
        const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
        for (let node = walker.nextNode(); node; node = walker.nextNode()) {
          const parent = node.parentElement!;
          if (/^(SCRIPT|STYLE|NOSCRIPT)$/.test(parent.tagName)) continue;
          // In a drawing a long word is cut: its ⟦ is enough.
          if (parent.closest('svg')) {
            if (!node.textContent!.includes('⟦')) found.push(node.textContent!);
            continue;
          }
          found.push(outside(node.textContent ?? ''));
        }
        depth = 0;
        for (const element of document.querySelectorAll('*'))
          for (const name of ['aria-label', 'title', 'placeholder', 'alt'])
            if (element.hasAttribute(name)) {
              found.push(outside(element.getAttribute(name)!));
              depth = 0;
            }
        const known = [...names].sort((a, b) => b.length - a.length);
        return [
          ...new Set(
            found.map((text) =>
              known
                .reduce((rest, name) => rest.split(name).join(' '), text)
                .replace(/\s+/g, ' ')
                .trim(),
            ),
          ),
        ];
      },
      [names] as const,
    )
    .then((texts) =>
      texts.filter((text) => (text.match(/\p{L}{2,}/gu) ?? []).some((word) => !SAME.test(word))),
    );

/** Something in every list of the crew book. */
async function enterCrew(base: string, actorId: string): Promise<void> {
  const id = (): string => crypto.randomUUID();
  const bodies = [
    { kind: 'reel.add', record: { id: id(), name: 'Reel 3', kind: 'reel', cable: '14/2', lengthIn: 2184 } },
    { kind: 'price.add', record: { id: id(), kind: 'device', item: 'switch', amount: 2.1 } },
    { kind: 'price.add', record: { id: id(), kind: 'hour', amount: 61 } },
    { kind: 'habit.add', record: { id: id(), key: 'makeup.termination', override: { value: 'back-clamp' } } },
    {
      kind: 'kit.add',
      record: {
        id: id(),
        name: 'Kit 7',
        boxes: [{ catalogueId: 'plastic-1g-20', tag: 'S', devices: [{ catalogueId: 'switch', gang: 1 }] }],
      },
    },
  ];
  const changes = bodies.map((body) => ({ change: { id: id(), version: 2, body }, actorId }));
  const answer = await fetch(`${base}/api/crew/book/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ changes }),
  });
  expect(answer.ok).toBe(true);
}

test('no word on any screen stands outside of the languages', async ({ page, demo, stack }) => {
  test.slow();
  await page.addInitScript(() => localStorage.setItem('mule-tally.language', 'marked'));
  await enterCrew(stack.url, demo.file.people[0]!.id);
  const names = namesIn(demo.file);
  const left: Record<string, string[]> = {};
  page.on('pageerror', (error) => (left['an error'] = [error.message]));
  page.on(
    'console',
    (message) =>
      message.type() === 'error' && !message.text().includes('404') && (left['said'] = [message.text()]),
  );
  const look = async (where: string): Promise<void> => {
    await page.waitForLoadState('networkidle');
    const words = await unasked(page, names);
    if (words.length) left[where] = words;
  };
  for (const path of ['/', '/new', ...CREW.map((part) => `/crew?part=${part}`)]) {
    await page.goto(stack.url + path);
    await page.getByRole('heading', { level: 1 }).waitFor();
    await look(path);
  }
  const house = await demo.open(page, 'pull', 'Hall');
  for (const [stage, room, query] of IN_HOUSE) {
    await house.open(stage, room, query);
    await look(`${stage} ${JSON.stringify(query)}`);
  }
  for (const tag of ['S5', 'S2', 'S21', 'L4', 'PANEL']) {
    const { roomId } = demo.file.boxes.find((box) => box.tag === tag)!;
    const room = demo.file.rooms.find(({ id }) => id === roomId)!.name;
    await house.open('make-up', room, { box: house.boxId(tag) });
    await look(`bench ${tag}`);
    await house.open('lay-out', room, { box: house.boxId(tag) });
    await look(`box ${tag}`);
  }
  // What opens with a touch.
  const touched: [
    stage: string,
    room: string,
    query: Record<string, string>,
    buttons: readonly (string | RegExp)[],
  ][] = [
    ['pull', 'Hall', {}, ['Add a run', 'Log pull PANEL → S5', 'Edit run PANEL → S5']],
    ['pull', 'Garage', {}, ['Pull of PANEL → S1']],
    ['make-up', 'Hall', { box: house.boxId('S5') }, [/white.? to PANEL/, 'Next ›', 'It’s different']],
    ['lay-out', 'Family room', { of: 'controls' }, ['What it means', 'S17']],
    ['lay-out', 'Hall', { of: 'rooms' }, ['Remove Hall']],
    ['truck', 'Hall', { tab: 'rulebook' }, ['Keys']],
  ];
  for (const [stage, room, query, buttons] of touched) {
    await house.open(stage, room, query);
    for (const name of buttons) {
      await page.getByRole('button', { name }).first().press('Enter');
      await look(`${stage} ${String(name)}`);
    }
  }
  await house.open('check', 'Family room', { of: 'switching' });
  await page.getByRole('combobox', { name: 'Show' }).selectOption({ index: 1 });
  await page.getByRole('heading', { name: 'Every position' }).waitFor();
  await look('every position');
  await page.goto(`${stack.url}/house/${crypto.randomUUID()}/pull`);
  await page.getByRole('heading', { level: 1 }).waitFor();
  await look('no such house');
  expect(left).toEqual({});
});
