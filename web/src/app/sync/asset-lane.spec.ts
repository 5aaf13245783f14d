import { Refused, ServerAway } from './api';
import { AssetLane } from './asset-lane';
import type { ShelvedAsset } from './asset-shelf';
import { AssetShelf } from './asset-shelf';

const hash = (letter: string): string => letter.repeat(64);
const picture = (letter: string): ShelvedAsset => ({
  sha256: hash(letter),
  type: 'image/png',
  bytes: new TextEncoder().encode(letter).buffer,
  waits: 'to-send',
});
const no = new Refused({ type: '', title: '', status: 422, code: 'asset.type', detail: 'No picture.' });

describe('Pictures on their way', () => {
  let shelf: AssetShelf;
  let taken: string[];
  /** What happens to the next upload of a picture, in turn. */
  let mishaps: Map<string, Error[]>;
  const server = {
    putAsset: ({ sha256 }: ShelvedAsset): Promise<void> => {
      const mishap = mishaps.get(sha256[0]!)?.shift();
      if (mishap) return Promise.reject(mishap);
      taken.push(sha256[0]!);
      return Promise.resolve();
    },
  };
  const lane = (): AssetLane => new AssetLane(shelf, server, (work) => work());

  beforeEach(async () => {
    shelf = new AssetShelf();
    taken = [];
    mishaps = new Map();
    for (const { sha256 } of await shelf.waiting()) await shelf.drop(sha256);
  });

  it('go out once each, whatever fails between; one that is refused holds up no other, and goes when somebody says so', async () => {
    for (const letter of 'abc') await shelf.keep(picture(letter));
    mishaps.set('a', [new ServerAway('away')]);
    mishaps.set('b', [no]);
    expect(await lane().run()).toBe('away');
    expect(taken).toEqual([]);
    // A page that was loaded anew goes on where the other one ended.
    shelf = new AssetShelf();
    expect(await lane().run()).toBe('done');
    expect(taken).toEqual(['a', 'c']);
    expect((await shelf.waiting()).map(({ sha256, refusal }) => [sha256[0], refusal?.code])).toEqual([
      ['b', 'asset.type'],
    ]);
    expect(await lane().run()).toBe('done');
    expect(taken).toEqual(['a', 'c']);
    await shelf.refuse(hash('b'), undefined);
    await lane().run();
    expect(taken).toEqual(['a', 'c', 'b']);
    expect(await shelf.waiting()).toEqual([]);
    // What was sent is still here.
    expect(new TextDecoder().decode((await shelf.get(hash('b')))!.bytes)).toBe('b');
  });

  it('wait on when the same picture comes from the server meanwhile', async () => {
    await shelf.keep(picture('d'));
    const { waits: _, ...fetched } = picture('d');
    await shelf.keep(fetched);
    expect((await shelf.waiting()).map(({ sha256 }) => sha256)).toEqual([hash('d')]);
    await shelf.drop(hash('d'));
    expect(await shelf.get(hash('d'))).toBeUndefined();
  });
});
