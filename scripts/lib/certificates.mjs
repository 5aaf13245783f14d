// @ts-check
import { X509Certificate, createHash } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { lastLines, run } from './run.mjs';
import { Sentence } from './steps.mjs';
import { installPackages } from './system.mjs';

/** A phone takes no certificate for longer than 398 days (CA/Browser Forum baseline requirements, from memory). */
const LEAF_DAYS = 397;
const CA_DAYS = 3650;
/** Made anew when fewer days are left. */
const RENEW_DAYS = 40;

/** Addresses that the authority may speak for besides the name: those of local networks (RFC 1918, RFC 6598), and this machine. */
const LOCAL = [
  'IP:10.0.0.0/255.0.0.0',
  'IP:172.16.0.0/255.240.0.0',
  'IP:192.168.0.0/255.255.0.0',
  'IP:100.64.0.0/255.192.0.0',
  'IP:169.254.0.0/255.255.0.0',
  'IP:127.0.0.0/255.0.0.0',
];

/** Whether an IPv4 address is one of a local network: others the authority does not vouch for. */
export const isLocalAddress = (/** @type {string} */ address) =>
  /^(10\.|192\.168\.|169\.254\.|127\.|172\.(1[6-9]|2\d|3[01])\.|100\.(6[4-9]|[7-9]\d|1[01]\d|12[0-7])\.)/.test(
    address,
  );

async function openssl(/** @type {string[]} */ ...args) {
  const { code, output } = await run('openssl', args);
  if (code !== 0) throw new Sentence(`The certificate could not be made: ${lastLines(output)}`);
}

/**
 * An authority of this crew's own, which phones are told to trust, and the server's certificate by it. The authority can speak
 * for this machine's name and for local addresses only, so that trusting it opens nothing else; its key is for its owner alone.
 * @param {string} folder @param {string} name the server's name @param {string[]} addresses its addresses
 */
export async function certificates(folder, name, addresses) {
  if ((await run('openssl', ['version'])).code !== 0)
    await installPackages('Serving phones needs openssl.', ['openssl']);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const at = (/** @type {string} */ file) => join(folder, file);
  const [caKey, ca, key, leaf, wanted] = [
    at('ca.key'),
    at('ca.crt'),
    at('server.key'),
    at('server.crt'),
    at('for.txt'),
  ];
  /** @type {(certificate: string, days: number) => boolean} */
  const lasts = (certificate, days) =>
    existsSync(certificate) &&
    new Date(new X509Certificate(readFileSync(certificate)).validTo).getTime() - Date.now() >
      days * 86_400_000;
  const isFor = existsSync(at('ca-for.txt')) && readFileSync(at('ca-for.txt'), 'utf8') === name;
  if (!existsSync(caKey) || !isFor || !lasts(ca, LEAF_DAYS + 1)) {
    const config = at('ca.cnf');
    const permitted = [`DNS:${name}`, ...LOCAL].map((one) => `permitted;${one}`).join(',');
    writeFileSync(
      config,
      `[req]\ndistinguished_name=dn\nx509_extensions=ca\nprompt=no\n[dn]\nCN=Mule Tally on ${name}\n[ca]\n` +
        'basicConstraints=critical,CA:TRUE,pathlen:0\nkeyUsage=critical,keyCertSign,cRLSign\n' +
        `subjectKeyIdentifier=hash\nnameConstraints=critical,${permitted}\n`,
    );
    await openssl('ecparam', '-name', 'prime256v1', '-genkey', '-noout', '-out', caKey);
    chmodSync(caKey, 0o600);
    await openssl(
      'req',
      '-x509',
      '-new',
      '-key',
      caKey,
      '-sha256',
      '-days',
      `${CA_DAYS}`,
      '-config',
      config,
      '-out',
      ca,
    );
    writeFileSync(at('ca-for.txt'), name);
    writeFileSync(wanted, '');
  }
  const asked = [`DNS:${name}`, ...addresses.map((address) => `IP:${address}`)].join(',');
  if (!existsSync(key) || !lasts(leaf, RENEW_DAYS) || readFileSync(wanted, 'utf8') !== asked) {
    const extensions = at('server.ext');
    writeFileSync(
      extensions,
      'basicConstraints=critical,CA:FALSE\nkeyUsage=critical,digitalSignature\nextendedKeyUsage=serverAuth\n' +
        `subjectAltName=${asked}\n`,
    );
    const [newKey, newLeaf, request] = [at('server.key.new'), at('server.crt.new'), at('server.csr')];
    await openssl('ecparam', '-name', 'prime256v1', '-genkey', '-noout', '-out', newKey);
    chmodSync(newKey, 0o600);
    await openssl('req', '-new', '-key', newKey, '-subj', `/CN=${name}`, '-out', request);
    const by = ['-CA', ca, '-CAkey', caKey, '-CAcreateserial'];
    const how = ['-sha256', '-days', `${LEAF_DAYS}`, '-extfile', extensions];
    await openssl('x509', '-req', '-in', request, ...by, ...how, '-out', newLeaf);
    renameSync(newKey, key);
    renameSync(newLeaf, leaf);
    writeFileSync(wanted, asked);
  }
  const der = new X509Certificate(readFileSync(ca)).raw;
  const fingerprint =
    createHash('sha256').update(der).digest('hex').toUpperCase().match(/../g)?.join(':') ?? '';
  return { ca, key, leaf, fingerprint, until: new X509Certificate(readFileSync(leaf)).validTo };
}
