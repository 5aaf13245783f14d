import type { Page } from '@playwright/test';
import type { HouseFile } from '../core/src/house/house-file.js';
import { eachScreen, enterCrew } from './screens';
import { HousePage } from './house-page';
import { expect, test } from './stack';

/** What a person called something in the demo, and what the crew did. */
const namesIn = (file: HouseFile): string[] => [
  'Reel 3',
  'Kit 7',
  file.name,
  ...file.people.map(({ name }) => name),
  ...file.reels.map(({ name }) => name),
  ...[
    ...file.rooms,
    ...file.storeys,
    ...file.circuits,
    ...file.controls,
    ...file.catalogueBoxes,
    ...file.catalogueDevices,
  ].map(({ name }) => name),
  ...file.storeys.flatMap(({ underlay }) => underlay?.name ?? []),
  ...file.boxes.map(({ tag }) => tag),
  ...file.points.flatMap(({ name }) => name ?? []),
  ...file.runs.flatMap(({ label }) => label ?? []),
  ...file.writeUps.flatMap(({ words, inspector }) => [words, inspector ?? []].flat()),
  ...file.extras.flatMap(({ what, askedBy }) => [what, askedBy]),
];

/** Units, codes of colours and of published rules, the product itself: they are the same in every language. */
const SAME =
  /^(Mule|Tally|NEC|CEC|BS|NBC|IRC|Table|AWG|EMT|LINE|LOAD|MCA|MOCP|GFCI|AFCI|SVG|DXF|CSV|JSON|SPICE|BK|WH|RD|BU|GN|GY|BN|OG|YE|VT|PK|cu|in|ft|mm|mL|Chapter|exception|Lead|Hand|Ctrl|Shift|English|Español|Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec|by|and|U)$/;

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

/** Other tests have houses and people here too. */
async function namesOfOthers(base: string): Promise<string[]> {
  const houses = (await (await fetch(`${base}/api/houses`)).json()) as { name: string }[];
  const { file: crew } = (await (await fetch(`${base}/api/crew/book`)).json()) as {
    file: Record<'people' | 'stock' | 'kits' | 'connectorNames', { name: string }[]>;
  };
  return [houses, crew.people, crew.stock, crew.kits, crew.connectorNames].flatMap((list) =>
    list.map(({ name }) => name),
  );
}

test('no word on any screen stands outside of the languages', async ({ page, demo, stack }) => {
  test.slow();
  await page.addInitScript(() => localStorage.setItem('mule-tally.language', 'marked'));
  await enterCrew(stack.url, demo.file.people[0]!.id);
  const names = [...namesIn(demo.file), ...(await namesOfOthers(stack.url))];
  const left: Record<string, string[]> = {};
  page.on('pageerror', (error) => (left['an error'] = [error.message]));
  page.on(
    'console',
    (message) =>
      message.type() === 'error' && !message.text().includes('404') && (left['said'] = [message.text()]),
  );
  const house = await demo.open(page, 'pull', 'Hall');
  await eachScreen(page, { base: stack.url, house, file: demo.file }, async (where) => {
    const words = await unasked(page, names);
    if (words.length) left[where] = words;
  });
  expect(left).toEqual({});
});

/** Words that a crew does not say, or says of something else. */
const OLD =
  /\blevers?\b(?! connector)|gang box|\byard\b|\bjournal\b|\bmend\b|in³|\bstoreys?\b|ground floor|upper floor|\bderived?\b|\bpinned\b|\bthrow\b(?! it away)|open breaker|\bcolour|\bcentre\b|\bmetres?\b|\bgrey\b|taken for granted|\bany slot\b|let go of|\bmess\b/gi;

/** Sections and units of the United States, on the screens of a house by another country's code. */
const FOREIGN =
  /\bNEC\b(?! 20\d\d, United)|\bIRC\b|\bcu in\b|\bsq ft\b|\d (?:ft|in)\b|\bft\b|feet by feet|socket outlet|consumer unit|strapper|\bCPCs?\b|\bMCBs?\b|\bRCDs?\b|\b\d{3}\.\d+\([A-Z]/g;

test('words of the old vocabulary stand on no screen, nor those of another country', async ({
  page,
  demo,
  stack,
}) => {
  test.slow();
  await enterCrew(stack.url, demo.file.people[0]!.id);
  const file: HouseFile = {
    ...demo.file,
    id: crypto.randomUUID(),
    name: `${demo.file.name}, elsewhere`,
    rulebook: { base: 'ca-2021', overrides: {} },
  };
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
  await house.open('pull', 'Hall');
  const names = [
    ...(await namesOfOthers(stack.url)),
    ...file.writeUps.flatMap(({ words, section }) => [words, words.slice(0, 60), section ?? []].flat()),
  ].sort((one, other) => other.length - one.length);
  const found: string[] = [];
  /** Two sentences without a space between. */
  const glued = /[a-z)\]][.;!][A-Z]\w*/g;
  await eachScreen(page, { base: stack.url, house, file }, async (where) => {
    const text = await page.evaluate(() =>
      [
        document.body.textContent,
        ...[...document.querySelectorAll('[aria-label], [title], [placeholder]')].flatMap((element) =>
          ['aria-label', 'title', 'placeholder'].map((name) => element.getAttribute(name)),
        ),
      ].join('\n'),
    );
    const own = names.reduce((rest, name) => rest.replaceAll(name, ''), text);
    const shown = await page.evaluate(() => document.body.innerText);
    found.push(...(shown.match(glued) ?? []).map((glue) => `${where}: ${glue}`));
    found.push(...(own.match(OLD) ?? []).map((word) => `${where}: ${word}`));
    // The book of the crew is in the units of the edition that is offered first.
    const read = names.reduce((rest, name) => rest.replaceAll(name, ''), shown);
    if (!where.startsWith('/')) found.push(...(read.match(FOREIGN) ?? []).map((word) => `${where}: ${word}`));
  });
  expect(found).toEqual([]);
});

test('a person reads Spanish: what they chose goes with them, and the house stays as it is', async ({
  page,
  demo,
}) => {
  test.slow();
  const house = await demo.open(page, 'truck', 'Hall', { tab: 'crew' });
  await page.getByRole('button', { name: 'Español' }).click();
  // The page comes anew in another language: after the long crawls before, that takes its time.
  await expect(page.getByRole('heading', { level: 1, name: 'Troca' })).toBeVisible({ timeout: 60_000 });
  await expect(page.locator('html')).toHaveAttribute('lang', 'es');
  await house.open('make-up', 'Hall', { box: house.boxId('S5') });
  await expect(page.getByText('APAGUE el breaker 5')).toBeVisible();
  await expect(page.getByRole('button', { name: /^1 Todas las tierras juntas/ })).toBeVisible();
  await house.open('check', 'Living room');
  await expect(page.getByText('Ponga una caja más grande en S2')).toBeVisible();
  await page.getByRole('button', { name: /^Cambiar S2 a Plástica, 1 lugar/ }).click();
  await expect(page.getByText('Ponga una caja más grande en S2')).toHaveCount(0);
  // Another person of the crew works here now, in English.
  await page.getByRole('combobox', { name: 'Quién trabaja' }).selectOption({ label: 'Hand' });
  await expect(page.getByRole('heading', { level: 1, name: 'Check' })).toBeVisible();
  await page.getByRole('combobox', { name: 'Who is working' }).selectOption({ label: 'Lead' });
  await expect(page.getByRole('heading', { level: 1, name: 'Revisar' })).toBeVisible();
  await page.reload();
  await house.open('truck', 'Hall', { tab: 'crew' });
  await page.getByRole('button', { name: 'English' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Truck' })).toBeVisible();
});
