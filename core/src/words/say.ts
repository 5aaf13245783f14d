import { gaugeText } from '../vocabulary/size.js';
import type { HouseReader } from '../derive/reader.js';
import { boxFacts, cableIn } from '../facts/box-facts.js';
import { boxName, farName, roomName } from '../facts/naming.js';
import { boxSoldIn, deviceSoldIn } from '../rulebook/catalogue.js';
import { connectorOf } from '../rulebook/connectors.js';
import type { Term } from '../vocabulary/glossary.js';
import { Colour as Colours } from '../vocabulary/text.js';
import { exceptionText } from '../rulebook/jurisdictions.js';
import type { Run } from '../house/model.js';
import type { Rule } from '../vocabulary/rule.js';
import { valueText } from '../rulebook/rulebook.js';
import { wallNumber } from '../plan/wall-number.js';
import { panelLanding } from '../wiring/circuit/panel-terminals.js';
import { jointTitle } from './joint-title.js';
import { ENGLISH } from './english/english.js';
import type { Language, Say, Tongue } from './language/language.js';
import { saidIn } from '../vocabulary/said-in.js';
import { marksOf } from './language/terminal-marks.js';
import { signalText } from './signal-text.js';
import { landingText } from './landing-text.js';
import type { Units } from './language/units.js';
import { unitsIn } from './language/units.js';

/** A box in a sentence is one of these; so many are named, the rest is counted. */
const NAMED = 3;

/**
 * How a house speaks. The language is the person's; trade words and units are the house's. `connectors` are what the crew calls
 * them, by their ids.
 */
export function sayingOf(
  reader: HouseReader,
  units: Units = unitsIn(reader.rules()),
  connectors: ReadonlyMap<string, string> = new Map(),
  language: Language = ENGLISH,
): Say {
  const { jurisdiction } = reader.rules();
  const glossary = language.glossary(jurisdiction.glossary);
  const term = (word: Term): string => glossary[word];
  const phrases = language.phrases(term);
  const tongue: Tongue = { term, phrases, titles: language.titles(term), mark: marksOf(reader.rules()) };
  const { told } = language;
  const ruleOf = (key: string): Rule | undefined => jurisdiction.rules.find((one) => one.key === key);
  const deviceType = (catalogueId: string): string => {
    const builtIn = deviceSoldIn(reader.rules(), catalogueId);
    return builtIn
      ? told(builtIn.name)
      : (reader.get('catalogueDevices', catalogueId)?.name ?? phrases.aDevice);
  };
  const boxModel: Say['boxModel'] = ({ name, volumeIn3 }) =>
    volumeIn3 === undefined ? told(name) : `${told(name)}, ${units.volume(volumeIn3)}`;
  const boxType = (catalogueId: string): string => {
    const type = boxSoldIn(reader.rules(), catalogueId) ?? reader.get('catalogueBoxes', catalogueId);
    return type ? boxModel(type) : phrases.anotherBox;
  };
  const box = (id: string | undefined): string => (id ? boxName(reader, id) : phrases.aBox);
  const circuit = (id: string | undefined): string => {
    const own = id ? reader.get('circuits', id) : undefined;
    return own ? phrases.circuit(own.number, own.name) : phrases.aCircuit;
  };
  const cableOfRun = (run: Run): string | undefined => cableIn(reader, run) ?? run.plannedCable;
  const run = (id: string | undefined): string => {
    const own = id ? reader.get('runs', id) : undefined;
    return own ? phrases.run(cableOfRun(own), box(own.from.boxId), box(own.to.boxId)) : phrases.goneRun;
  };
  const cableAt: Say['cableAt'] = (id, boxId) => {
    const own = id ? reader.get('runs', id) : undefined;
    return own && boxId && [own.from.boxId, own.to.boxId].includes(boxId)
      ? phrases.cableTo(cableOfRun(own), farName(reader, own, boxId))
      : run(id);
  };
  const rule = (key: string): string => told(ruleOf(key)?.title ?? key);
  const colour: Say['colour'] = (key) => {
    const [code, number] = key.split('#');
    const known = Colours.safeParse(code);
    const word = known.success ? phrases.colours[known.data] : key;
    return number ? `${word} ${number}` : word;
  };
  return {
    language,
    tongue,
    term,
    told,
    inTrade: (text) => (language.code === 'en' ? saidIn(jurisdiction.saidHere, text) : text),
    colour,
    units,
    box,
    boxes: (ids) =>
      ids.length > NAMED + 1
        ? phrases.some(ids.slice(0, NAMED).map(box), ids.length - NAMED)
        : phrases.and(ids.map(box)),
    room: (id) => (id && reader.get('rooms', id)?.name) || phrases.aRoom,
    run,
    ends: (id) => {
      const own = id ? reader.get('runs', id) : undefined;
      return own ? phrases.ends(box(own.from.boxId), box(own.to.boxId)) : phrases.goneRun;
    },
    circuit,
    circuits: (ids) =>
      ids.length > 1
        ? phrases.circuits(ids.map((id) => reader.get('circuits', id)?.number ?? 0))
        : circuit(ids[0]),
    control: (id) => `“${(id && reader.get('controls', id)?.name) || phrases.aControl}”`,
    device: (id) => {
      const device = id ? reader.get('devices', id) : undefined;
      return device ? deviceType(device.catalogueId) : phrases.aDevice;
    },
    deviceType,
    boxType,
    boxModel,
    place: ({ boxId, runId, roomId, circuitId }) => {
      const own = runId ? reader.get('runs', runId) : undefined;
      const at = boxId ?? own?.to.boxId;
      const room = (at && roomName(reader, at)) || (roomId && reader.get('rooms', roomId)?.name);
      const placed = boxId ? reader.get('boxes', boxId) : undefined;
      const wall =
        placed?.corner === undefined || placed.roomId === undefined
          ? undefined
          : wallNumber(reader.get('rooms', placed.roomId), placed.corner);
      const what = own ? run(runId) : boxId ? box(boxId) : circuitId ? circuit(circuitId) : '';
      return [what, room, wall === undefined ? '' : phrases.wall(wall)].filter(Boolean).join(' · ');
    },
    gangOf: (id) => (id ? reader.get('devices', id)?.gang : undefined) ?? 0,
    load: ({ pointId, boxId, role }) =>
      role === 'electronics'
        ? phrases.insideOfSwitch(box(boxId))
        : phrases.loadIn(reader.get('points', pointId)?.name ?? phrases.roles[role], box(boxId)),
    signals: (signals) => signals.map((signal) => signalText(reader, signal, tongue)).join(', '),
    cableAt,
    conductor: ({ runId, key }, boxId) => phrases.conductor(colour(key), cableAt(runId, boxId)),
    wireTo: (code, far) => phrases.wireTo(colour(code), far),
    jointTitle: (title) => jointTitle(reader, tongue, title),
    raceway: (size) => told(jurisdiction.raceways[size]),
    volts: (hots) => `${hots * jurisdiction.lineVolts} V`,
    connector: (id) => connectors.get(id) ?? told(connectorOf(id)?.name ?? id),
    members: (boxId = '', ends, landings) =>
      [
        ...ends.map(({ runId, key }) => {
          const own = reader.get('runs', runId);
          return phrases.wireTo(colour(key), own ? farName(reader, own, boxId) : phrases.goneCable);
        }),
        ...landings.map((landing) => {
          const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
          const words = landingText(reader, panelLanding(reader, boxId, landing), tongue);
          return device ? phrases.ofGang(words, device.gang) : words;
        }),
      ].join(', '),
    short: (short) =>
      short.kind === 'hot-to-ground'
        ? phrases.hotToGround
        : phrases.joined(
            short.source ? landingText(reader, short.source, tongue) : term('hot'),
            short.other === 'neutral' ? term('neutral') : phrases.anotherLeg,
          ),
    measure: (measure) => {
      switch (measure.kind) {
        case 'volume':
          return units.volume(measure.in3);
        case 'area':
          return units.area(measure.in2);
        case 'length':
          return units.long(measure.inches);
        case 'amps':
          return `${measure.amps} A`;
        case 'gauge':
          return gaugeText(measure.gauge);
        case 'cable':
          return measure.id;
        case 'number':
          return String(measure.number);
        case 'slot':
        case 'cables':
        case 'slots':
          return phrases[measure.kind](measure.number);
        case 'box': {
          const own = reader.get('boxes', measure.boxId);
          return own ? boxModel(boxFacts(reader, own)) : phrases.aBox;
        }
        case 'fan-rated-box':
          return phrases.fanRatedBox;
        case 'rule': {
          const own = ruleOf(measure.key);
          return own
            ? `${told(valueText(own, measure.value))}${own.unit ? ` ${told(own.unit)}` : ''}`
            : String(measure.value);
        }
      }
    },
    source: (source) =>
      'rule' in source
        ? told(reader.rules().cite(source.rule))
        : 'section' in source
          ? reader.rules().section(source.section, source.inEdition)
          : phrases.practice[source.practice],
    rule,
    exception: (code) => told(exceptionText(jurisdiction, code)),
  };
}
