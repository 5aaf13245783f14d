/** What a file says as text: UTF-8, or UTF-16 by its mark; what is neither as older programs of the West write it. */
export async function textOfFile(file: Blob): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const [first, second] = bytes;
  if (first === 0xff && second === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (first === 0xfe && second === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
