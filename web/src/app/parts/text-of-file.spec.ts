import { textOfFile } from './text-of-file';

describe('The text of a file', () => {
  it('is read whatever program wrote it', async () => {
    const said = 'Küche, “S1” – 4½';
    const utf16 = new Uint8Array([
      0xff,
      0xfe,
      ...[...'Küche'].flatMap((letter) => [letter.charCodeAt(0), 0]),
    ]);
    const western = Uint8Array.from([...'Küche'].map((letter) => letter.charCodeAt(0)));
    expect(await textOfFile(new Blob([said]))).toBe(said);
    expect(await textOfFile(new Blob(['\uFEFF', said]))).toBe(said);
    expect(await textOfFile(new Blob([utf16]))).toBe('Küche');
    expect(await textOfFile(new Blob([western]))).toBe('Küche');
    expect(await textOfFile(new Blob([]))).toBe('');
  });
});
