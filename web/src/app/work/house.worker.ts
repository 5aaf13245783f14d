import { HouseHost } from './house-host';

/** Whatever has been sent is heard before this resolves: a message to ourselves stands behind it. */
const channel = new MessageChannel();
const waiting: (() => void)[] = [];
channel.port1.onmessage = () => waiting.shift()?.();
const pause = (): Promise<void> =>
  new Promise((resolve) => {
    waiting.push(resolve);
    channel.port2.postMessage(undefined);
  });

const host = new HouseHost(
  (answer) => postMessage(answer),
  () => performance.now(),
  pause,
);
addEventListener('message', ({ data }: MessageEvent<unknown>) => host.receive(data));
