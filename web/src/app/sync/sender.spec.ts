import type { BatchAnswer, Envelope } from '@mule-tally/core';
import { personOfVersion1 } from '@mule-tally/core';
import { Refused, ServerAway } from './api';
import { DeviceStore } from './device-store';
import { Sender } from './sender';

let count = 0;
const change = (name: string): Envelope => ({
  change: {
    id: `60000000-0000-4000-8000-${String(++count).padStart(12, '0')}`,
    version: 3,
    body: { kind: 'house.set', name },
  },
  actorId: personOfVersion1('Lead'),
});
const houseId = (number: number): string => `70000000-0000-4000-8000-${String(number).padStart(12, '0')}`;
const refusal = (status: number, code: string): Refused =>
  new Refused({ type: '', title: '', status, code, detail: `No: ${code}.` });

/** A server that keeps what it has taken, each change once, and misbehaves as it is told. */
class FakeServer {
  readonly taken: string[] = [];
  readonly requests: number[] = [];
  misbehaves: (changes: readonly Envelope[]) => void = () => undefined;
  afterwards: () => void = () => undefined;

  change(_house: string, changes: readonly Envelope[]): Promise<BatchAnswer> {
    this.requests.push(changes.length);
    this.misbehaves(changes);
    const answers = changes.map(({ change: { id, body } }): BatchAnswer['answers'][number] => {
      const name = 'name' in body ? body.name : '';
      if (name === 'Bad') return { id, status: 'refused', code: 'change.stale-target', message: 'Gone.' };
      const known = this.taken.indexOf(id);
      if (known >= 0) return { id, status: 'already applied', seq: known + 1 };
      this.taken.push(id);
      return { id, status: 'applied', seq: this.taken.length, diff: { head: {}, rows: [] } };
    });
    this.afterwards();
    return Promise.resolve({ answers, seq: this.taken.length });
  }
}

describe('The sender', () => {
  let device: DeviceStore;
  let server: FakeServer;
  let sender: Sender;
  beforeEach(async () => {
    device = new DeviceStore();
    for (let number = 1; number <= 3; number++)
      await device.dropFromOutbox((await device.outbox(houseId(number))).map(({ key }) => key));
    server = new FakeServer();
    sender = new Sender(device, server);
  });
  const enter = async (house: number, ...names: string[]): Promise<string[]> => {
    const changes = names.map(change);
    for (const one of changes) await device.enqueue({ documentId: houseId(house), ...one });
    return changes.map(({ change: { id } }) => id);
  };
  const left = async (house: number) =>
    (await device.outbox(houseId(house))).map(({ item }) => item.refusal?.code ?? 'unsent');

  it('sends every house of the device, the open one first, each change once and in order', async () => {
    const [one, two] = [await enter(1, 'A', 'B'), await enter(2, 'C', 'D')];
    await sender.sendAll(houseId(2));
    expect(server.taken).toEqual([...two, ...one]);
    expect([...sender.taken().keys()]).toEqual([houseId(2), houseId(1)]);
    expect([await left(1), await left(2)]).toEqual([[], []]);
  });

  it('keeps a refusal on its item and goes on with the rest', async () => {
    await enter(1, 'A', 'Bad', 'B');
    await sender.sendAll();
    const { done, refused } = sender.taken().get(houseId(1))!;
    expect([done.length, refused.map(({ code }) => code)]).toEqual([2, ['change.stale-target']]);
    expect(await left(1)).toEqual(['change.stale-target']);
    // Nothing is sent of it again until a person decides.
    await sender.sendAll();
    expect(sender.taken().size).toBe(0);
  });

  for (const [status, code] of [
    [400, 'request.invalid'],
    [413, 'body.too-large'],
  ] as const)
    it(`finds the one change that spoils a request (${status}), and nothing jams`, async () => {
      const ids = await enter(1, 'A', 'B', 'Spoils', 'C', 'D');
      server.misbehaves = (changes) => {
        if (changes.some(({ change: { body } }) => 'name' in body && body.name === 'Spoils'))
          throw refusal(status, code);
      };
      await sender.sendAll();
      const { refused } = sender.taken().get(houseId(1))!;
      expect(refused).toEqual([{ id: ids[2]!, code, message: `No: ${code}.` }]);
      expect(server.taken).toEqual(ids.filter((_, at) => at !== 2));
      expect(await left(1)).toEqual([code]);
    });

  it('loses nothing and doubles nothing when the server goes away before or after it has taken a batch', async () => {
    const ids = await enter(1, ...Array.from({ length: 130 }, (_, n) => `N${n}`));
    let times = 0;
    server.misbehaves = () => {
      if (++times === 1) throw new ServerAway('hung');
    };
    await expectAsync(sender.sendAll()).toBeRejectedWithError(ServerAway);
    expect((await left(1)).length).toBe(130);
    server.afterwards = () => {
      // The answer of a batch that was taken is lost.
      if (times === 2) throw new ServerAway('cut off');
    };
    await expectAsync(sender.sendAll()).toBeRejectedWithError(ServerAway);
    await sender.sendAll();
    expect(server.taken).toEqual(ids);
    expect(await left(1)).toEqual([]);
    // What was answered before it went away is told too.
    expect(sender.taken().get(houseId(1))!.done).toEqual(ids);
    expect(Math.max(...server.requests)).toBeLessThanOrEqual(100);
  });

  it('sends from memory what a full device cannot keep, in order, and says so until it keeps one again', async () => {
    const full = spyOn(IDBObjectStore.prototype, 'add').and.throwError(
      new DOMException('', 'QuotaExceededError'),
    );
    const ids = await enter(3, 'A', 'B');
    expect(device.isFailing()).toBeTrue();
    full.and.callThrough();
    ids.push(...(await enter(3, 'C')));
    await sender.sendAll();
    expect(server.taken).toEqual(ids);
    expect([device.isFailing(), await left(3)]).toEqual([true, []]);
    await enter(3, 'D');
    expect(device.isFailing()).toBeFalse();
    expect(await new DeviceStore().unsentDocuments()).toEqual([houseId(3)]);
  });

  it('of two tabs sends each change once: one sends at a time, and the other finds nothing left', async () => {
    const ids = await enter(1, 'A', 'B', 'C');
    const tabs = [sender, new Sender(new DeviceStore(), server)];
    await Promise.all(tabs.map((tab) => navigator.locks.request('sender.spec', () => tab.sendAll())));
    expect(server.taken).toEqual(ids);
    expect(server.requests).toEqual([3]);
  });
});
