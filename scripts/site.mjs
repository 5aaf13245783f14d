// @ts-check
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { hostname, networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { certificates, isLocalAddress } from './lib/certificates.mjs';
import { neighbours } from './lib/neighbours.mjs';
import { dataFolder, serve } from './lib/serve.mjs';
import { Sentence, main } from './lib/steps.mjs';
import { ensureNodePackages } from './lib/system.mjs';

/** IPv4 addresses by which phones on the local network reach this machine. */
const ownAddresses = () =>
  Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    .filter(({ family, internal }) => family === 'IPv4' && !internal)
    .map(({ address }) => address)
    .filter(isLocalAddress);

const PLAIN = (/** @type {string} */ text) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** How a phone comes to trust this machine: in plain HTTP, because it does not yet; the fingerprint tells whether it is the right one. */
const trustPage = (/** @type {string} */ address, /** @type {string} */ fingerprint) => `<!doctype html>
<html lang="en"><meta charset="utf-8" /><meta name="viewport" content="width=device-width, initial-scale=1" />
<title>Trust this Mule Tally</title>
<style>body{font:18px/1.5 sans-serif;background:#f5efdf;color:#2b2a28;max-width:34rem;margin:1.5rem auto;padding:0 1rem}
a.main{display:block;background:#1c4f8a;color:#fff;text-align:center;padding:1.2rem;font-size:1.3rem;text-decoration:none}
code{overflow-wrap:anywhere;font-weight:700}</style>
<h1>Trust this Mule Tally</h1>
<p>Once on each phone, so that the app works without a network too. It vouches for this machine on local networks and for nothing else.</p>
<p><a class="main" href="/ca.crt">1. Fetch the certificate</a></p>
<p>2. Compare its fingerprint (SHA-256) with the one on the screen where the server was started, and leave it where they differ:</p>
<p><code>${PLAIN(fingerprint)}</code></p>
<p>3. Take it as one to trust. Android: Settings, Security, Encryption and credentials, Install a certificate, CA certificate.
iPhone: install the profile, then Settings, General, About, Certificate trust settings, switch it on.</p>
<p><a class="main" href="${PLAIN(address)}">4. Open Mule Tally</a></p></html>
`;

/** What tells this crew from others; nothing before it is set up. @param {string} databaseUrl */
async function crewCode(databaseUrl) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    const { rows } = await client.query('select code from crew where code is not null limit 1');
    return /** @type {string | undefined} */ (rows[0]?.code);
  } finally {
    await client.end();
  }
}

await main(async () => {
  await ensureNodePackages();
  const { default: qr } = await import('qrcode');
  const port = Number(process.env['PORT'] ?? 4310);
  const trustPort = Number(process.env['TRUST_PORT'] ?? port + 1);
  const host = process.env['HOST'] ?? '0.0.0.0';
  const folder = dataFolder();
  const name = (process.env['SITE_NAME'] ?? `${hostname().split('.')[0]}.local`).toLowerCase();
  if (!/^[a-z0-9-]+(\.[a-z0-9-]+)*$/.test(name))
    throw new Sentence(`SITE_NAME must be a name like trailer.local, not "${name}".`);
  const make = () => certificates(join(folder, 'tls'), name, [...ownAddresses(), '127.0.0.1']);
  let made = await make();
  const [address = '127.0.0.1'] = ownAddresses();
  const at = process.env['SITE_NAME'] ? name : address;
  const url = `https://${at}:${port}/`;
  const kept = join(folder, 'site-address.txt');
  const before = existsSync(kept) ? readFileSync(kept, 'utf8') : url;
  const page = createServer((request, response) => {
    if (request.url === '/ca.crt') {
      response.setHeader('Content-Type', 'application/x-x509-ca-cert');
      response.end(readFileSync(made.ca));
      return;
    }
    response.setHeader('Content-Type', 'text/html; charset=utf-8');
    response.setHeader('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'");
    response.end(trustPage(url, made.fingerprint));
  });
  await serve({
    host,
    env: {
      HOST: host,
      TLS_KEY: made.key,
      TLS_CERT: made.leaf,
      HOST_NAMES: [name, ...ownAddresses()].join(','),
    },
    told: async (urls) => {
      await new Promise((resolve, reject) => {
        page.once('error', () =>
          reject(new Sentence(`Port ${trustPort} is in use. Choose another: TRUST_PORT=4321 npm run site`)),
        );
        page.listen(trustPort, host, () => resolve(undefined));
      });
      page.unref();
      writeFileSync(kept, url);
      const trust = `http://${at}:${trustPort}/`;
      console.log(`\n  For phones on this network: ${url}`);
      console.log(await qr.toString(url, { type: 'terminal', small: true }));
      console.log(`  Each phone first trusts this machine, once: ${trust}`);
      console.log(`  Fingerprint (SHA-256) of what it is asked to trust:\n    ${made.fingerprint}`);
      console.log(`  The server's certificate is good until ${made.until}.`);
      const crew = await crewCode(urls.owner);
      if (crew)
        await neighbours({
          crew,
          heard: (other) =>
            console.log(
              `\n  Another machine on this network, ${other}, serves the same crew. What phones send to one of them the other does\n  not have: stop one, and let its phones send what is unsent to the one that stays.`,
            ),
        });
      if (before !== url)
        console.log(
          `\n  The address was ${before} before. Phones keep what is unsent by address: let them send it at the old one first,\n  hand it over as a file (Truck, Unsent), or give this machine that address again. SITE_NAME=trailer.local keeps a name where the network knows it.`,
        );
    },
    daily: async () => {
      made = await make();
    },
  });
  page.close();
});
