import { adding } from '../changes/change.js';
import type { SingleChangeBody } from '../changes/change.js';
import { rowsOf } from '../documents/document.js';
import type { House } from '../house/house.js';
import { recordOf, recordsMentioning } from '../house/house.js';
import type { Box } from '../house/model.js';
import { builtInDevice, isBuiltInBox, isBuiltInDevice } from '../rulebook/catalogue.js';
import { JURISDICTIONS, USUAL_EDITION } from '../rulebook/jurisdictions.js';
import type { RulebookBase } from '../rulebook/jurisdictions.js';
import { overrideIn } from '../rulebook/rulebook.js';
import type { RuleOverride } from '../vocabulary/rulebook-types.js';
import type { CrewBook, Kit } from './crew.js';

/** The panel among the boxes of every catalogue. */
const PANEL = 'panel';

/** The edition in whose units the book of a crew has a value: the one that is offered first, or the first that knows it. */
const habitBase = (key: string): RulebookBase =>
  JURISDICTIONS.find(({ rules }) => rules.some((rule) => rule.key === key))?.usual ?? USUAL_EDITION;

/** A habit of a crew as an edition has it; undefined where that has no such value, or does not allow it. */
export const habitIn = (base: RulebookBase, key: string, override: RuleOverride): RuleOverride | undefined =>
  overrideIn(habitBase(key), base, key, override);

/** A value of an edition as the book of a crew keeps it; undefined where it cannot. */
export const habitOf = (base: RulebookBase, key: string, override: RuleOverride): RuleOverride | undefined =>
  overrideIn(base, habitBase(key), key, override);

/** The rulebook values that a new house of this crew starts with, by key: those that its edition knows and allows, in its units. */
export const habitsFor = (crew: CrewBook, base: RulebookBase): Readonly<Record<string, RuleOverride>> =>
  Object.fromEntries(
    rowsOf(crew, 'habits').flatMap(({ record }) => {
      const own = habitIn(base, record.key, record.override);
      return own ? [[record.key, own]] : [];
    }),
  );

/** What this crew calls the connectors of the table, by their ids. */
export const connectorNamesOf = (crew: CrewBook): ReadonlyMap<string, string> =>
  new Map(rowsOf(crew, 'connectorNames').map(({ record }) => [record.connector, record.name]));

/** What a length of cable in inches costs this crew, in its own currency; undefined where it has no price for it. */
export function costOfCable(crew: CrewBook, cable: string, inches: number): number | undefined {
  const price = rowsOf(crew, 'prices').find(({ record }) => record.kind === 'cable' && record.item === cable);
  return price && (inches / 12) * price.record.amount;
}

/** A tag that no box of the house has yet: the wanted one, else with the next number behind it. */
function freeTag(taken: ReadonlySet<string>, wanted: string): string {
  for (let number = 1; ; number++) {
    const tag = number === 1 ? wanted : `${wanted.slice(0, 55)}-${number}`;
    if (!taken.has(tag)) return tag;
  }
}

/** Changes that put the boxes and devices of a kit into a room, with ids made by `newId`. */
export function kitChanges(house: House, roomId: string, kit: Kit, newId: () => string): SingleChangeBody[] {
  if (!recordOf(house, 'rooms', roomId)) return [];
  const taken = new Set(rowsOf(house, 'boxes').map(({ record }) => record.tag));
  return kit.boxes.flatMap(({ devices, tag, ...box }) => {
    const boxId = newId();
    const own = freeTag(taken, tag);
    taken.add(own);
    return [
      adding('boxes', { id: boxId, roomId, tag: own, ...box }),
      ...devices.flatMap((device) => {
        const deviceId = newId();
        const points = builtInDevice(device.catalogueId)?.points ?? [];
        return [
          adding('devices', { id: deviceId, boxId, ...device }),
          ...points.map((role) => adding('points', { id: newId(), deviceId, role })),
        ];
      }),
    ];
  });
}

/** Boxes of a room that every house knows the model of; a panel is in no kit. */
const kitBoxesOf = (house: House, roomId: string): Box[] =>
  recordsMentioning(house, 'boxes', roomId).filter(
    ({ roomId: own, catalogueId }) =>
      own === roomId && catalogueId !== undefined && isBuiltInBox(catalogueId) && catalogueId !== PANEL,
  );

/** Whether there is anything in a room that could be kept as a kit. */
export const hasKit = (house: House, roomId: string): boolean => kitBoxesOf(house, roomId).length > 0;

/** What a room holds, as a kit: boxes and devices of models that every house knows. Nothing where there are none. */
export function kitOfRoom(house: House, roomId: string, id: string, name: string): Kit | undefined {
  const boxes = kitBoxesOf(house, roomId).map((box) => ({
    catalogueId: box.catalogueId!,
    tag: box.tag,
    ...(box.heightIn !== undefined && { heightIn: box.heightIn }),
    ...(box.heightReference && { heightReference: box.heightReference }),
    devices: recordsMentioning(house, 'devices', box.id)
      .filter(({ catalogueId }) => isBuiltInDevice(catalogueId))
      .map(({ catalogueId, gang, widthGangs }) => ({
        catalogueId,
        gang,
        ...(widthGangs !== undefined && { widthGangs }),
      })),
  }));
  const roomKind = recordOf(house, 'rooms', roomId)?.kind;
  return boxes.length ? { id, name, ...(roomKind && { roomKind }), boxes: boxes.slice(0, 60) } : undefined;
}
