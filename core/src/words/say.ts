import { gaugeText } from '../vocabulary/size.js';
import type { HouseReader } from '../derive/reader.js';
import { boxFacts } from '../facts/box-facts.js';
import { boxName, circuitName, farName, runName } from '../facts/naming.js';
import type { ConductorRef, JointTitle, LoadFacts, Measure, ShortFacts, Source } from '../findings/facts.js';
import { builtInBox, builtInDevice } from '../rulebook/catalogue.js';
import { connectorOf } from '../rulebook/connectors.js';
import type { Term } from '../vocabulary/glossary.js';
import { exceptionText } from '../rulebook/jurisdictions.js';
import type { NeutralException } from '../vocabulary/kinds.js';
import type { Rule } from '../vocabulary/rule.js';
import { valueText } from '../rulebook/rulebook.js';
import type { CarriedFacts } from '../vocabulary/signal.js';
import type { Landing } from '../vocabulary/terminal.js';
import { panelLanding } from '../wiring/circuit/panel-terminals.js';
import { jointTitle } from './joint-title.js';
import { listed } from './sentence.js';
import { signalText } from './signal-text.js';
import { landingText } from './landing-text.js';
import type { Units } from './units.js';
import { unitsIn } from './units.js';

/** Languages in which sentences are written. */
export type Language = 'en';

/** How things of one house are called: names of its records, words of its trade, its units. Nothing of it is kept. */
export interface Say {
  readonly term: (term: Term) => string;
  /** "240 V": of so many hots. */
  readonly volts: (hots: number) => string;
  readonly units: Units;
  readonly box: (id: string | undefined) => string;
  readonly boxes: (ids: readonly string[]) => string;
  readonly run: (id: string | undefined) => string;
  readonly circuit: (id: string | undefined) => string;
  readonly circuits: (ids: readonly string[]) => string;
  /** "“Hall lights”" */
  readonly control: (id: string | undefined) => string;
  /** "Smart switch (needs neutral)" */
  readonly device: (id: string | undefined) => string;
  readonly deviceType: (catalogueId: string) => string;
  readonly boxType: (catalogueId: string) => string;
  /** "Plastic, 1 gang, 22.5 in³" */
  readonly boxModel: (model: { readonly name: string; readonly volumeIn3?: number | undefined }) => string;
  readonly gangOf: (deviceId: string | undefined) => number;
  readonly load: (load: LoadFacts) => string;
  readonly signals: (signals: readonly CarriedFacts[]) => string;
  readonly conductor: (ref: ConductorRef) => string;
  readonly connector: (id: string) => string;
  readonly jointTitle: (title: JointTitle) => string;
  /** "WH to R1, BK to L2, leg of gang 2" */
  readonly members: (
    boxId: string | undefined,
    ends: readonly ConductorRef[],
    landings: readonly Landing[],
  ) => string;
  readonly short: (short: ShortFacts) => string;
  readonly measure: (measure: Measure) => string;
  readonly source: (source: Source) => string;
  readonly rule: (key: string) => string;
  /** Why a box may go without a neutral. */
  readonly exception: (code: NeutralException) => string;
}

const PRACTICE = {
  common: 'common practice',
  package: 'common practice; what is printed on its package decides',
  sheet: 'common practice; the device’s own sheet decides',
} as const;

/**
 * How a house speaks. The language is the person's; trade words and units are the house's. `connectors` are what the crew calls
 * them, by their ids.
 */
export function sayingOf(
  reader: HouseReader,
  units: Units = unitsIn(reader.rules()),
  connectors: ReadonlyMap<string, string> = new Map(),
): Say {
  const { jurisdiction } = reader.rules();
  const term = (word: Term): string => jurisdiction.glossary[word];
  const ruleOf = (key: string): Rule | undefined => jurisdiction.rules.find((one) => one.key === key);
  const deviceType = (catalogueId: string): string =>
    (builtInDevice(catalogueId) ?? reader.get('catalogueDevices', catalogueId))?.name ?? 'a device';
  const boxModel: Say['boxModel'] = ({ name, volumeIn3 }) =>
    volumeIn3 === undefined ? name : `${name}, ${units.volume(volumeIn3)}`;
  const boxType = (catalogueId: string): string => {
    const type = builtInBox(catalogueId) ?? reader.get('catalogueBoxes', catalogueId);
    return type ? boxModel(type) : 'another box';
  };
  const box = (id: string | undefined): string => boxName(reader, id ?? '');
  const circuit = (id: string | undefined): string => circuitName(reader, id ?? '');
  const run = (id: string | undefined): string => {
    const own = id ? reader.get('runs', id) : undefined;
    return own ? runName(reader, own) : 'a run that is gone';
  };
  const rule = (key: string): string => ruleOf(key)?.title ?? key;
  return {
    term,
    units,
    box,
    boxes: (ids) => ids.map(box).join(', '),
    run,
    circuit,
    circuits: (ids) => listed(ids.map(circuit)),
    control: (id) => `“${(id && reader.get('controls', id)?.name) || 'a control'}”`,
    device: (id) => {
      const device = id ? reader.get('devices', id) : undefined;
      return device ? deviceType(device.catalogueId) : 'a device';
    },
    deviceType,
    boxType,
    boxModel,
    gangOf: (id) => (id ? reader.get('devices', id)?.gang : undefined) ?? 0,
    load: ({ pointId, boxId, role }) =>
      role === 'electronics'
        ? `the inside of the switch in ${box(boxId)}`
        : `${reader.get('points', pointId)?.name ?? role} in ${box(boxId)}`,
    signals: (signals) => signals.map((signal) => signalText(reader, signal, term)).join(', '),
    conductor: ({ runId, key }) => `${key} of ${run(runId)}`,
    jointTitle: (title) => jointTitle(reader, term, title),
    volts: (hots) => `${hots * jurisdiction.lineVolts} V`,
    connector: (id) => connectors.get(id) ?? connectorOf(id)?.name ?? id,
    members: (boxId = '', ends, landings) =>
      [
        ...ends.map(({ runId, key }) => {
          const own = reader.get('runs', runId);
          return `${key} to ${own ? farName(reader, own, boxId) : 'a cable that is gone'}`;
        }),
        ...landings.map((landing) => {
          const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
          const words = landingText(reader, panelLanding(reader, boxId, landing));
          return device ? `${words} of gang ${device.gang}` : words;
        }),
      ].join(', '),
    short: (short) =>
      short.kind === 'hot-to-ground'
        ? `${term('hot')} is joined to ${term('ground')}`
        : `${short.source ? landingText(reader, short.source) : term('hot')} is joined to ${
            short.other === 'neutral' ? term('neutral') : 'another leg'
          } without a load between`,
    measure: (measure) => {
      switch (measure.kind) {
        case 'volume':
          return units.volume(measure.in3);
        case 'area':
          return units.area(measure.in2);
        case 'amps':
          return `${measure.amps} A`;
        case 'gauge':
          return gaugeText(measure.gauge);
        case 'cable':
          return measure.id;
        case 'number':
          return String(measure.number);
        case 'slot':
          return `slot ${measure.number}`;
        case 'cables':
        case 'slots':
          return `${measure.number} ${measure.kind}`;
        case 'box': {
          const own = reader.get('boxes', measure.boxId);
          return own ? boxModel(boxFacts(reader, own)) : 'a box';
        }
        case 'fan-rated-box':
          return 'fan-rated box';
        case 'rule': {
          const own = ruleOf(measure.key);
          return own
            ? `${valueText(own, measure.value)}${own.unit ? ` ${own.unit}` : ''}`
            : String(measure.value);
        }
      }
    },
    source: (source) =>
      'rule' in source
        ? reader.rules().cite(source.rule)
        : 'section' in source
          ? reader.rules().section(source.section, source.inEdition)
          : PRACTICE[source.practice],
    rule,
    exception: (code) => exceptionText(jurisdiction, code),
  };
}
