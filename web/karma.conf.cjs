const CHROMIUM_FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-dev-shm-usage',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
process.env.CHROME_BIN ??= '/usr/bin/chromium';

module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    browsers: ['DebianChromium'],
    customLaunchers: { DebianChromium: { base: 'ChromeHeadless', flags: CHROMIUM_FLAGS } },
    reporters: ['dots'],
    colors: false,
    client: { jasmine: { random: true, timeoutInterval: 60_000 } },
    // The properties of core keep the page busy for seconds at a time: it is not gone then.
    pingTimeout: 120_000,
    browserDisconnectTimeout: 60_000,
    browserNoActivityTimeout: 300_000,
    restartOnFileChange: false,
  });
