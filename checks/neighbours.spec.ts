import { createSocket } from 'node:dgram';
import { neighbours } from '../scripts/lib/neighbours.mjs';

describe('Two machines on one network', () => {
  it('hear of each other where they serve the same crew, once, and take nothing else for it', async () => {
    const heard: string[] = [];
    const at = (port: number) => [{ address: '127.0.0.1', port }];
    const told = new Promise<void>((resolve) => {
      void (async () => {
        const one = await neighbours({
          crew: 'oak-17',
          port: 0,
          to: [],
          heard: (address) => {
            heard.push(address);
            resolve();
          },
        });
        const stray = createSocket('udp4');
        for (const word of ['', 'null', '{"product":"mule-tally"}', 'x'.repeat(5000)])
          await new Promise((sent) => stray.send(word, one.port, '127.0.0.1', sent));
        stray.close();
        const other = await neighbours({ crew: 'elm-3', port: 0, to: at(one.port), heard: () => undefined });
        other.say();
        const same = await neighbours({ crew: 'oak-17', port: 0, to: at(one.port), heard: () => undefined });
        same.say();
        same.say();
      })();
    });
    await told;
    expect(heard).toEqual(['127.0.0.1']);
  });
});
