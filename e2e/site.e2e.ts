import { spawn } from 'node:child_process';
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { certificates } from '../scripts/lib/certificates.mjs';
import { anyFreePort } from '../scripts/lib/system.mjs';
import { expect, test } from './stack';

/** A script as a person runs it; what it has said, and its end. */
function ran(script: string, env: Record<string, string>) {
  const child = spawn(process.execPath, [script], { env: { ...process.env, ...env } });
  let output = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (output += chunk));
  const ended = new Promise<number>((resolve) => child.on('exit', (code) => resolve(code ?? -1)));
  return {
    ended,
    said: () => output,
    ready: async () => {
      await expect.poll(() => output, { timeout: 90_000 }).toContain('Ready after');
      return output;
    },
    stop: async () => {
      if (child.exitCode === null) child.kill('SIGTERM');
      return ended;
    },
  };
}

test('npm run site: phones are served with TLS once the crew is set up, by a name that one authority vouches for', async ({
  browser,
}) => {
  test.slow();
  const folder = mkdtempSync(join(tmpdir(), 'mule-tally-site-'));
  chmodSync(folder, 0o755);
  const [port, trustPort, dbPort] = [await anyFreePort(), await anyFreePort(), await anyFreePort()];
  const env = {
    PORT: String(port),
    TRUST_PORT: String(trustPort),
    DB_PORT: String(dbPort),
    DATA_FOLDER: join(folder, 'data'),
    SITE_NAME: 'trailer.local',
  };
  const running: { stop(): Promise<number> }[] = [];
  try {
    const early = ran('scripts/site.mjs', env);
    running.push(early);
    expect(await early.ended).toBe(1);
    expect(early.said()).toContain('served once the crew is set up');

    const first = ran('scripts/start.mjs', env);
    running.push(first);
    const [, token] = /set-up#(\S+)/.exec(await first.ready())!;
    const made = await fetch(`http://127.0.0.1:${port}/api/set-up`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        token,
        crewName: 'Rafter crew',
        person: { id: randomUUID(), name: 'Odile' },
        login: 'odile',
        password: 'wet lath and plaster',
        device: { id: randomUUID(), name: 'Laptop' },
      }),
    });
    expect(made.status).toBe(201);
    expect(made.headers.getSetCookie().some((line) => line.includes('Secure'))).toBe(false);
    await first.stop();

    const site = ran('scripts/site.mjs', env);
    running.push(site);
    const said = await site.ready();
    expect(said).toContain(`https://trailer.local:${port}/`);
    const tls = join(env.DATA_FOLDER, 'tls');
    expect(statSync(join(tls, 'ca.key')).mode & 0o777).toBe(0o600);
    const page = await (await fetch(`http://127.0.0.1:${trustPort}/`)).text();
    const [fingerprint] = /(?:[0-9A-F]{2}:){31}[0-9A-F]{2}/.exec(said)!;
    expect(page).toContain(fingerprint);
    const ca = await (await fetch(`http://127.0.0.1:${trustPort}/ca.crt`)).text();
    const shown = execFileSync('openssl', ['x509', '-noout', '-fingerprint', '-sha256'], {
      input: ca,
      encoding: 'utf8',
    });
    expect(shown).toContain(fingerprint);

    // Whoever trusts the authority, and nobody else, is served; under its name only.
    const asked = (path: string, host: string, trusted?: string) =>
      new Promise<number | string>((resolve) => {
        const options = {
          host: '127.0.0.1',
          servername: 'trailer.local',
          port,
          path,
          ca: trusted,
          headers: { host },
        };
        request(options, (response) => resolve(response.resume().statusCode!))
          .on('error', (error: NodeJS.ErrnoException) => resolve(String(error.code)))
          .end();
      });
    expect(await asked('/api/health', `trailer.local:${port}`, ca)).toBe(200);
    expect(await asked('/api/health', `trailer.local:${port}`)).toMatch(/UNABLE_TO_VERIFY|SELF_SIGNED/);
    expect(await asked('/api/houses', `trailer.local:${port}`, ca)).toBe(401);
    expect(await asked('/api/health', 'elsewhere.example', ca)).toBe(403);
    await expect(fetch(`http://127.0.0.1:${port}/api/health`)).rejects.toThrow();

    const context = await browser.newContext({ ignoreHTTPSErrors: true });
    const phone = await context.newPage();
    await phone.goto(`https://127.0.0.1:${port}/`);
    await phone.getByLabel('Name you sign in with').fill('odile');
    await phone.getByLabel('Password').fill('wet lath and plaster');
    await phone.getByRole('button', { name: 'Sign in' }).click();
    await expect(phone.getByText('you are Odile')).toBeVisible();
    const cookies = (await context.cookies()).map(({ name, secure, httpOnly, sameSite }) => [
      name,
      secure,
      httpOnly,
      sameSite,
    ]);
    expect(cookies.sort()).toEqual([
      ['__Host-mule-tally', true, true, 'Lax'],
      ['__Host-mule-tally-device', true, true, 'Lax'],
    ]);
    await context.close();
  } finally {
    for (const one of running) await one.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});

test('the authority vouches for this machine and local addresses alone, and its certificate is renewed before it is over', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'mule-tally-tls-'));
  try {
    const made = await certificates(folder, 'trailer.local', ['192.168.7.5']);
    const verified = (leaf: string): string => {
      try {
        return execFileSync('openssl', ['verify', '-x509_strict', '-CAfile', made.ca, leaf], {
          encoding: 'utf8',
          stdio: 'pipe',
        });
      } catch (error) {
        return String((error as { stderr: string }).stderr);
      }
    };
    expect(verified(made.leaf)).toContain('OK');
    const until = new Date(made.until).getTime() - Date.now();
    expect(until).toBeLessThan(398 * 86_400_000);
    // Whoever has the key cannot speak for anything else with it.
    for (const name of ['DNS:bank.example', 'IP:8.8.8.8']) {
      const file = (end: string) => join(folder, `other.${end}`);
      writeFileSync(file('ext'), `subjectAltName=${name}\nextendedKeyUsage=serverAuth\n`);
      const run = (...args: string[]) => execFileSync('openssl', args, { stdio: 'pipe' });
      run(
        'req',
        '-new',
        '-newkey',
        'rsa:2048',
        '-nodes',
        '-keyout',
        file('key'),
        '-subj',
        '/CN=other',
        '-out',
        file('csr'),
      );
      run(
        'x509',
        '-req',
        '-in',
        file('csr'),
        '-CA',
        made.ca,
        '-CAkey',
        join(folder, 'ca.key'),
        '-CAcreateserial',
        '-extfile',
        file('ext'),
        '-out',
        file('crt'),
      );
      expect(verified(file('crt'))).toContain('permitted subtree violation');
    }
    // The same again is the same; another address, or one that is nearly over, is another certificate by the same authority.
    const before = readFileSync(made.leaf, 'utf8');
    await certificates(folder, 'trailer.local', ['192.168.7.5']);
    expect(readFileSync(made.leaf, 'utf8')).toBe(before);
    const run = (...args: string[]) => execFileSync('openssl', args, { stdio: 'pipe' });
    const csr = join(folder, 'server.csr');
    const again = [
      '-in',
      csr,
      '-CA',
      made.ca,
      '-CAkey',
      join(folder, 'ca.key'),
      '-CAcreateserial',
      '-days',
      '20',
    ];
    run('x509', '-req', ...again, '-extfile', join(folder, 'server.ext'), '-out', made.leaf);
    const renewed = await certificates(folder, 'trailer.local', ['192.168.7.5']);
    expect(new Date(renewed.until).getTime() - Date.now()).toBeGreaterThan(300 * 86_400_000);
    expect(renewed.fingerprint).toBe(made.fingerprint);
    await certificates(folder, 'trailer.local', ['192.168.7.6']);
    expect(
      execFileSync('openssl', ['x509', '-in', made.leaf, '-noout', '-text'], { encoding: 'utf8' }),
    ).toContain('192.168.7.6');
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
