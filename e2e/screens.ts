import { expect } from '@playwright/test';
import type { Page } from '@playwright/test';
import type { HouseFile } from '../core/src/house/house-file.js';
import type { HousePage } from './house-page';
import { settled } from '../scripts/lib/settled.mjs';

type Query = Record<string, string>;

/** Where one comes in. */
const DOOR = ['/sign-in', '/join', '/set-up'];

/** Parts of the crew book, and the door. */
export const CREW = [
  'people',
  'stock',
  'kits',
  'room-kits',
  'habits',
  'prices',
  'connectors',
  'journal',
  'unsent',
]
  .map((part) => `/crew?part=${part}`)
  .concat(DOOR);

export const IN_HOUSE: readonly [stage: string, room: string, query: Query][] = [
  ['pull', 'Hall', {}],
  ['walk', 'Hall', {}],
  ['make-up', 'Hall', {}],
  ['lay-out', 'Hall', {}],
  ['lay-out', 'Family room', { of: 'controls' }],
  ['lay-out', 'Hall', { of: 'circuits' }],
  ['lay-out', 'Hall', { of: 'rooms' }],
  ['lay-out', 'Hall', { of: 'draft' }],
  ['lay-out', 'Hall', { of: 'panel' }],
  ['lay-out', 'Hall', { of: 'plan' }],
  ['lay-out', 'Hall', { of: 'set' }],
  ['lay-out', 'Hall', { of: 'asks' }],
  ['lay-out', 'Hall', { of: 'exchange' }],
  ['lay-out', 'Hall', { of: 'drill' }],
  ['check', 'Hall', {}],
  ['check', 'Kitchen', { of: 'ready' }],
  ['check', 'Kitchen', { of: 'ready', round: 'write-ups' }],
  ['check', 'Kitchen', { of: 'extras' }],
  ['check', 'Family room', { of: 'switching' }],
  ['check', 'Family room', { of: 'walls' }],
  ['check', 'Family room', { of: 'board' }],
  ['check', 'Family room', { of: 'test' }],
  ['check', 'Family room', { of: 'test', round: 'live' }],
  ['check', 'Family room', { of: 'test', round: 'trim' }],
  ['check', 'Long hall', { of: 'find' }],
  ...['rulebook', 'material', 'charts', 'house', 'journal', 'unsent', 'decide', 'crew'].map(
    (tab): [string, string, Query] => ['truck', 'Hall', { tab }],
  ),
];

/** What opens with a touch, on a laptop. */
const TOUCHED: readonly [stage: string, room: string, query: Query, buttons: readonly (string | RegExp)[]][] =
  [
    ['pull', 'Hall', {}, ['Add a run', 'Log pull PANEL → S5', 'Edit run PANEL → S5']],
    ['pull', 'Garage', {}, ['Pull of PANEL → S1']],
    ['walk', 'Hall', {}, ['It differs']],
    ['make-up', 'Hall', { box: 'S5' }, [/white.? to PANEL/, 'Next ›', 'It’s different']],
    ['lay-out', 'Family room', { of: 'controls' }, ['What it means', 'S17']],
    ['lay-out', 'Hall', { of: 'rooms' }, ['Remove Hall']],
    ['truck', 'Hall', { tab: 'rulebook' }, ['Keys']],
  ];

/** Goes through every screen and looks at each, once its words are there. */
export async function eachScreen(
  page: Page,
  { base, house, file }: { base: string; house: HousePage; file: HouseFile },
  look: (where: string) => Promise<void>,
): Promise<void> {
  const seen = async (where: string): Promise<void> => {
    await settled(page);
    await look(where);
  };
  for (const path of ['/', '/new', '/fault', ...CREW, `/house/${crypto.randomUUID()}/pull`]) {
    await page.goto(base + path);
    await page.getByRole('heading', { level: 1 }).waitFor();
    await seen(path);
  }
  for (const [stage, room, query] of IN_HOUSE) {
    await house.open(stage, room, query);
    await seen(`${stage} ${JSON.stringify(query)}`);
  }
  for (const tag of ['S5', 'S2', 'S21', 'L4', 'PANEL']) {
    const { roomId } = file.boxes.find((box) => box.tag === tag)!;
    const room = file.rooms.find(({ id }) => id === roomId)!.name;
    for (const stage of ['make-up', 'lay-out']) {
      await house.open(stage, room, { box: house.boxId(tag) });
      await seen(`${stage} ${tag}`);
    }
  }
  for (const [stage, room, query, buttons] of TOUCHED) {
    await house.open(stage, room, { ...query, ...(query['box'] && { box: house.boxId(query['box']) }) });
    for (const name of buttons) {
      await page.getByRole('button', { name }).first().press('Enter');
      await seen(`${stage} ${String(name)}`);
    }
  }
  await house.open('check', 'Family room', { of: 'switching' });
  await page.getByRole('combobox', { name: 'Show' }).selectOption({ index: 1 });
  await page.getByRole('heading', { name: 'Every position' }).waitFor();
  await seen('every position');
}

/** Something in every list of the crew book, by whoever it is. */
export async function enterCrew(base: string, actorId: string): Promise<void> {
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
  const changes = bodies.map((body) => ({ change: { id: id(), version: 3, body }, actorId }));
  const answer = await fetch(`${base}/api/crew/book/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ changes }),
  });
  expect(answer.ok).toBe(true);
}
