import { parseTemplate } from '@angular/compiler';
import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import ts from 'typescript';
import { keyOf } from '../web/src/app/language/messages.js';

/** The sources of the screens. */
export const SCREENS = new URL('../web/src/app/', import.meta.url).pathname;

/** A node of a parsed template, as far as it is walked: whatever of it may hold a message or other nodes. */
type Node = Readonly<Record<string, unknown>>;

/** A placeholder as the compiler writes it into a message. */
const PLACEHOLDER = /\{\$(\w+)\}/;

function ofTemplate(text: string, from: string): string[] {
  const { nodes, errors } = parseTemplate(text, from, { preserveWhitespaces: false });
  if (errors?.length) throw new Error(`${from}: ${errors[0]!.msg}`);
  const found: string[] = [];
  const seen = new Set<unknown>();
  const walk = (node: unknown): void => {
    if (typeof node !== 'object' || node === null || seen.has(node)) return;
    seen.add(node);
    if (Array.isArray(node)) return node.forEach(walk);
    const message = (node as Node)['messageString'];
    if (typeof message === 'string') {
      const pieces = message.split(PLACEHOLDER);
      found.push(
        keyOf(
          pieces.filter((_, at) => at % 2 === 0),
          pieces.filter((_, at) => at % 2 === 1),
        ),
      );
      return;
    }
    for (const [name, value] of Object.entries(node)) if (!/span/i.test(name)) walk(value);
  };
  walk(nodes);
  // What is put together in an expression: 'Undo entry {}' | words, and both ends of (a ? 'one' : 'other') | words.
  for (const [, expression] of text.matchAll(
    /((?:'[^'\n]*'|\((?:[^()]|\([^()]*\))*\)))\s*\|\s*words\b(?!\()/g,
  )) {
    const said = expression!.startsWith("'") ? [expression!] : (expression!.match(/[?:]\s*'[^']*'/g) ?? []);
    found.push(...said.map((one) => one.replace(/^[?:]\s*/, '').slice(1, -1)));
  }
  return found;
}

function ofSource(path: string): string[] {
  const text = readFileSync(path, 'utf8');
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true);
  const found: string[] = [];
  const walk = (node: ts.Node): void => {
    if (ts.isPropertyAssignment(node) && ts.isStringLiteralLike(node.initializer)) {
      const name = node.name.getText(source);
      if (name === 'template') found.push(...ofTemplate(node.initializer.text, path));
      if (name === 'templateUrl') {
        const file = join(dirname(path), node.initializer.text);
        found.push(...ofTemplate(readFileSync(file, 'utf8'), file));
      }
    }
    if (ts.isTaggedTemplateExpression(node) && node.tag.getText(source) === '$localize') {
      const { template } = node;
      const parts = ts.isNoSubstitutionTemplateLiteral(template)
        ? [template.text]
        : [template.head.text, ...template.templateSpans.map(({ literal }) => literal.text)];
      found.push(
        keyOf(
          parts,
          parts.slice(1).map((_, at) => (at ? `PH_${at}` : 'PH')),
        ),
      );
    }
    ts.forEachChild(node, walk);
  };
  walk(source);
  return found;
}

const screenFiles = (): readonly string[] =>
  readdirSync(SCREENS, { recursive: true, encoding: 'utf8' })
    .filter(
      (file) => file.endsWith('.ts') && !file.endsWith('.spec.ts') && !/^(language|testing)\//.test(file),
    )
    .sort();

/** The text of every source of the screens, by its file. */
export const screenSources = (): ReadonlyMap<string, string> =>
  new Map(screenFiles().map((file) => [file, readFileSync(join(SCREENS, file), 'utf8')]));

/** Every message of the screens, by the file that it is in (from `web/src/app/`). */
export const screenMessages = (): ReadonlyMap<string, readonly string[]> =>
  new Map(screenFiles().map((file) => [file, [...new Set(ofSource(join(SCREENS, file)))]]));
