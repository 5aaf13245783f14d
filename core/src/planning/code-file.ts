import type { HouseReader } from '../derive/reader.js';
import { editionBy } from '../rulebook/layered.js';
import { codeProblems } from '../rulebook/code-problems.js';
import { OwnCode } from '../vocabulary/own-code.js';
import type { OwnRule } from '../vocabulary/own-code.js';
import type { Problem } from '../vocabulary/problem.js';
import { scan } from '../vocabulary/scan.js';
import { problemsOf } from '../vocabulary/schema-problems.js';

/** The rulebook of a house, its own values among the others, as a file that another house can go by. */
export function codeFileOf(reader: HouseReader): OwnCode {
  const rules = reader.rules();
  const { jurisdiction, base, code } = rules;
  return {
    format: 'mule-tally-jurisdiction',
    version: 1,
    name: jurisdiction.name,
    code: jurisdiction.code,
    edition: `${editionBy(code ? { base, code } : base).slice(0, 50)}, own`.replace(/(, own)+$/, ', own'),
    basedOn: base,
    fillMethod: jurisdiction.fillMethod,
    ...(code?.colours !== undefined && { colours: code.colours }),
    sizes: [...jurisdiction.sizes],
    rules: rules.standing.map(({ rule, value }): OwnRule => ({
      key: rule.key,
      value: typeof value === 'object' ? [...value] : value,
      ...(rule.unit !== undefined && { unit: rule.unit }),
      provenance:
        rule.section === undefined && rule.provenance !== 'school' ? 'common practice' : rule.provenance,
      ...(rule.section !== undefined && { section: rule.section }),
      ...(rule.publication !== undefined && { publication: rule.publication }),
      ...(rule.note !== undefined && { note: rule.note }),
    })),
  };
}

/** A file as a code of one's own, or everything that is wrong with it; nothing of it is taken then. */
export function readCodeFile(
  text: string,
):
  | { readonly ok: true; readonly code: OwnCode }
  | { readonly ok: false; readonly problems: readonly Problem[] } {
  const failed = (problems: readonly Problem[]): { ok: false; problems: readonly Problem[] } => ({
    ok: false,
    problems,
  });
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return failed([
      {
        code: 'jurisdiction.not-json',
        message: 'This is not JSON text, so it is no file of rules.',
        path: '$',
      },
    ]);
  }
  const unsafe = scan(json);
  if (unsafe.length) return failed(unsafe);
  const read = OwnCode.safeParse(json);
  if (!read.success) return failed(problemsOf(read.error.issues));
  const problems = codeProblems(read.data);
  return problems.length ? failed(problems) : { ok: true, code: read.data };
}
