import { existsSync, readFileSync, statSync } from 'node:fs';

const DOC = new URL('../docs/where-things-go.md', import.meta.url);
const text = readFileSync(DOC, 'utf8');
/** A link with the words in code before and after it, up to the next link. */
const LINK = /\[`([^`]+)`\]\(([^)#]+)\)/g;

/** The guide for whoever changes something is held to the code: it leads where it says. */
describe('Where things go', () => {
  const links = [...text.matchAll(LINK)];

  it('leads to files that are there, called as they are called', () => {
    expect(links.length).toBeGreaterThan(30);
    for (const [, name, path] of links) {
      const file = new URL(path!, DOC);
      expect(existsSync(file)).withContext(path!).toBeTrue();
      const end = name!.replace(/^\.\.\//, '').replace(/\/$/, '');
      expect(file.pathname.replace(/\/$/, '').endsWith(end)).withContext(`${name} is ${path}`).toBeTrue();
    }
  });

  it('names what stands in the files that it leads to', () => {
    const files = links.map(([, , path]) => new URL(path!, DOC)).filter((file) => statSync(file).isFile());
    const all = files.map((file) => readFileSync(file, 'utf8')).join('\n');
    const named = [...text.replaceAll(LINK, '').matchAll(/`([A-Za-z][\w.]*)`/g)].map(([, word]) => word!);
    expect(named.length).toBeGreaterThan(8);
    for (const word of named) {
      const parts = word.endsWith('.ts') ? [] : word.split('.');
      const isKey = all.includes(`'${word}'`);
      expect(isKey || parts.every((part) => new RegExp(`\\b${part}\\b`).test(all)))
        .withContext(word)
        .toBeTrue();
    }
  });
});
