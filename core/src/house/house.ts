import type { Document, DocumentKind, Placed } from '../documents/document.js';
import { emptyDocument } from '../documents/document.js';
import { Elsewhere, RulebookBase } from '../rulebook/jurisdictions.js';
import { OwnCode } from '../vocabulary/own-code.js';
import { PowerState } from '../vocabulary/kinds.js';
import { RuleOverride } from '../vocabulary/rulebook-types.js';
import type { HouseHead, RecordOf, TableName } from './model.js';
import { TABLE_NAMES, TABLES } from './model.js';
import { REFERENCES } from './references.js';

export {
  mentionersOf,
  recordOf,
  recordsMentioning,
  rowOf,
  rowsOf,
  tableHolding,
  withHead,
  withRow,
} from '../documents/document.js';

/** A record and its place in its list; lists of the house file are in rising `at`. */
export type Row<T extends TableName = TableName> = Placed<RecordOf<T>>;

/** A house in memory. */
export type House = Document<typeof TABLES, HouseHead>;

const OVERRIDE = 'override:';
/** The field of the head that is a house value of the rulebook. */
export const overrideField = (key: string): string => OVERRIDE + key;

/** What a house holds. Fields of its head: `name`, `base`, `code`, `power` and one `override:<key>` for each house value of the rulebook. */
export const HOUSE: DocumentKind<typeof TABLES, HouseHead> = {
  noun: 'house',
  lists: TABLES,
  names: TABLE_NAMES,
  references: REFERENCES,
  fieldsOf: ({ name, rulebook, power }) => ({
    name,
    power,
    base: rulebook.base,
    code: rulebook.code,
    elsewhere: rulebook.elsewhere,
    ...Object.fromEntries(
      Object.entries(rulebook.overrides).map(([key, value]) => [overrideField(key), value]),
    ),
  }),
  headOf: (id, fields) => {
    const overrides = Object.entries(fields)
      .filter(([field, value]) => field.startsWith(OVERRIDE) && value !== undefined)
      .map(([field, value]) => [field.slice(OVERRIDE.length), RuleOverride.parse(value)] as const);
    return {
      id,
      name: String(fields['name']),
      rulebook: {
        base: RulebookBase.parse(fields['base']),
        ...(fields['code'] !== undefined && { code: OwnCode.parse(fields['code']) }),
        ...(fields['elsewhere'] !== undefined && { elsewhere: Elsewhere.parse(fields['elsewhere']) }),
        overrides: Object.fromEntries(overrides),
      },
      ...(fields['power'] !== undefined && { power: PowerState.parse(fields['power']) }),
    };
  },
};

export const emptyHouse = (head: HouseHead): House => emptyDocument(HOUSE, head);
