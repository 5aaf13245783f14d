/** A short print of a text (FNV-1a, 2 × 32 bits, in hexadecimal digits): the same for the same text, and for next to no others. */
export function printOf(text: string): string {
  let [low, high] = [0x811c9dc5, 0xcbf29ce4];
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    low = Math.imul(low ^ code, 0x01000193);
    high = Math.imul(high ^ (code + at), 0x01000193);
  }
  return [low, high].map((part) => (part >>> 0).toString(16).padStart(8, '0')).join('');
}
