/**
 * A lever thrown on screen, in the real browser on the real stack: from the touch to the picture that is drawn and laid out,
 * on every circuit of the demo house that has levers. Fails when the median on any of them takes longer than a frame.
 */
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../scripts/lib/browser.mjs';
import { startServer } from '../scripts/lib/server.mjs';
import { anyFreePort } from '../scripts/lib/system.mjs';
import { startTestDatabase } from '../scripts/lib/test-database.mjs';

/** One frame of a screen, in milliseconds. */
const FRAME = 16.7;
const ROUNDS = 40;

const cluster = await startTestDatabase();
const port = await anyFreePort();
const server = await startServer({ urls: cluster.urls, port });
const browser = await chromium.launch(CHROMIUM);
try {
  const base = `http://127.0.0.1:${port}`;
  const [{ id }] = (await (await fetch(`${base}/api/houses`)).json()) as [{ id: string }];
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${base}/house/${id}/check?of=switching`);
  const circuits = page.getByRole('combobox', { name: 'Circuit', exact: true });
  const picture = page.getByRole('group', { name: 'The circuit from the panel outward' });
  const lever = picture.getByRole('switch').first();
  await picture.waitFor();
  let worst = 0;
  for (const name of await circuits.locator('option').allTextContents()) {
    await circuits.selectOption({ label: name.trim() });
    if ((await lever.count()) === 0) continue;
    const times = await lever.evaluate(async (first, rounds) => {
      const levers = [...first.ownerDocument.querySelectorAll<SVGElement>('[role=switch]')];
      const times: number[] = [];
      for (let round = 0; round < rounds; round++) {
        const one = levers[round % levers.length]!;
        const was = one.getAttribute('aria-checked');
        await new Promise(requestAnimationFrame);
        await new Promise((idle) => setTimeout(idle));
        const since = performance.now();
        const changed = new Promise<void>((done) => {
          const watch = new MutationObserver(() => {
            if (one.getAttribute('aria-checked') === was) return;
            watch.disconnect();
            done();
          });
          watch.observe(one, { attributes: true });
        });
        one.dispatchEvent(new MouseEvent('click', { bubbles: true }));
        await changed;
        one.getBoundingClientRect();
        times.push(performance.now() - since);
      }
      return times;
    }, ROUNDS);
    const median = times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;
    worst = Math.max(worst, median);
    console.log(
      `${name.trim()}: a lever is thrown and drawn in ${median.toFixed(1)} ms (slowest ${times.at(-1)!.toFixed(1)} ms)`,
    );
  }
  if (worst === 0) throw new Error('no lever was found');
  if (worst > FRAME) throw new Error('a lever on screen does not react within a frame');
} finally {
  await browser.close();
  await server.stop();
  await cluster.destroy();
}
