import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect, test } from './stack';

test('a page of another address in the same browser plants nothing, whatever way it sends', async ({
  page,
  demo,
  stack,
}) => {
  const elsewhere = createServer((_request, response) => {
    response.setHeader('content-type', 'text/html');
    response.end('<!doctype html><title>Elsewhere</title><form method="post" enctype="text/plain"></form>');
  }).listen(0, '127.0.0.1');
  await once(elsewhere, 'listening');
  try {
    await page.goto(`http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}/`);
    const planted = { ...demo.file, id: '99999999-9999-4999-8999-999999999999', name: 'Planted' };
    const outcomes = await page.evaluate(
      async ({ url, file, replaced }) => {
        const target = `${url}/api/houses/import?onExisting=replace`;
        const tried = async (init: RequestInit): Promise<string> => {
          try {
            const answer = await fetch(target, { method: 'POST', ...init });
            return answer.type === 'opaque' ? 'opaque' : String(answer.status);
          } catch {
            return 'blocked';
          }
        };
        const text = JSON.stringify(file);
        return [
          await tried({ body: text }),
          await tried({ body: text, mode: 'no-cors' }),
          await tried({
            body: JSON.stringify(replaced),
            mode: 'no-cors',
            headers: { 'content-type': 'text/plain' },
          }),
          await tried({ body: text, headers: { 'content-type': 'application/json' } }),
          String(navigator.sendBeacon(target, text)),
        ];
      },
      { url: stack.url, file: planted as object, replaced: { ...demo.file, name: 'Replaced' } as object },
    );
    expect(outcomes.length).toBe(5);
    expect(outcomes).not.toContain('201');
    // A form can send text that happens to be JSON.
    await page.evaluate(
      ({ url, text }) => {
        const form = document.querySelector('form')!;
        form.action = `${url}/api/houses/import?onExisting=replace`;
        const field = form.appendChild(document.createElement('input'));
        field.name = `${text.slice(0, -1)},"x":"`;
        field.value = '"}';
        form.submit();
      },
      { url: stack.url, text: JSON.stringify({ ...planted, storeys: [], rooms: [] }) },
    );
    await page.waitForLoadState();
    const names = ((await (await fetch(`${stack.url}/api/houses`)).json()) as { name: string }[]).map(
      ({ name }) => name,
    );
    expect(names).not.toContain('Planted');
    expect(names).not.toContain('Replaced');
    expect((await stack.stored(demo.file.id)).name).toBe(demo.file.name);
  } finally {
    elsewhere.close();
  }
});
