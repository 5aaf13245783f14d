import type { BrowserContext, BrowserContextOptions, Page } from '@playwright/test';
import { expect, Stack, test as base } from './stack';

const PASSWORD = 'wet lath and plaster';

/** A stack of its own: its crew is set up, which the other tests would notice. */
export const test = base.extend<{ own: Stack }>({
  // Playwright reads the fixture's needs off this pattern.
  // eslint-disable-next-line no-empty-pattern
  own: async ({}, use) => {
    const stack = await Stack.start();
    await use(stack);
    await stack.stop();
  },
});

export const phoneOf = async (
  browser: { newContext(options: object): Promise<BrowserContext> },
  more: BrowserContextOptions = {},
): Promise<Page> =>
  (
    await browser.newContext({
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      isMobile: true,
      ...more,
    })
  ).newPage();

export async function setUp(page: Page, stack: Stack): Promise<void> {
  await page.goto(stack.linkToSetUp);
  await page.getByLabel('Name of the crew').fill('Rafter crew');
  await page.getByLabel('Your name').fill('Odile');
  await page.getByLabel('Name you sign in with').fill('odile');
  await page.getByLabel(/^Password/).fill('password123');
  await page.getByRole('button', { name: 'Set up' }).click();
  await expect(page.getByRole('alert')).toContainText('tried first');
  await page.getByLabel(/^Password/).fill(PASSWORD);
  await page.getByRole('button', { name: 'Set up' }).click();
  await page.getByRole('button', { name: 'Let a hand in' }).waitFor();
}

/** Six figures from the lead's screen, touched on the phone. */
export async function codeFrom(lead: Page): Promise<string> {
  const code = lead.locator('mt-crew-invite .code');
  await expect(code).toHaveText(/\d{6}/);
  return (await code.innerText()).trim();
}
export async function typeCode(phone: Page, code: string): Promise<void> {
  for (const figure of code) await phone.getByRole('button', { name: figure, exact: true }).tap();
  await phone.getByRole('button', { name: 'Next' }).tap();
}

/** Somebody new joins by the lead's six figures. */
export async function join(lead: Page, phone: Page, url: string, name: string): Promise<void> {
  await lead.getByRole('button', { name: 'Let a hand in' }).click();
  await phone.goto(`${url}/join`);
  await typeCode(phone, await codeFrom(lead));
  await phone.getByLabel(/Not on the list/).fill(name);
  await phone.getByRole('button', { name: 'Start' }).tap();
  await expect(phone.getByText(`you are ${name}`)).toBeVisible();
  await expect(lead.getByText(`${name} is in.`)).toBeVisible();
}
