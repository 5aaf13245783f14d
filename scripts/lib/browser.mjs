// @ts-check
/** How Debian's Chromium is started here: quiet, and without reaching for the network. */
export const CHROMIUM = {
  executablePath: process.env['CHROME_BIN'] ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-dev-shm-usage',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};
