import { USUAL_EDITION, jurisdictionOf, rulebookFor } from '@mule-tally/core';
import { protectionFor, readRoomLine } from '@mule-tally/core/furnish';
import { unitsIn } from '@mule-tally/core/work';
import * as z from 'zod';
import type { Circuit, HouseFile, RoomKind, RulebookBase } from '@mule-tally/core';

/** A house as it is typed in, before it is one. */
export interface HouseDraft {
  name: string;
  base: RulebookBase;
  storeys: { name: string; rooms: { name: string; kind: RoomKind; kindChosen: boolean }[] }[];
  circuits: { name: string; amps: number; protection: Circuit['protection'] }[];
  /** "storey.room" of the room that the panel hangs in; where it usually does, while nobody has said. */
  panelRoom: string;
}

type RoomDraft = HouseDraft['storeys'][number]['rooms'][number];
export const emptyRoom = (): RoomDraft => ({ name: '', kind: 'other', kindChosen: false });

/** What a floor is called where the house will stand, until somebody names it. */
export const floorName = (base: RulebookBase, at: number): string =>
  jurisdictionOf(base).floors[at] ?? $localize`Floor ${at + 1}`;

/** A circuit that nobody has said anything of: as that of a bedroom would be. */
export function usualCircuit(base: RulebookBase): HouseDraft['circuits'][number] {
  const { circuitPlans, lineVolts } = jurisdictionOf(base);
  const amps = circuitPlans.find(({ use }) => use === 'lighting')!.amps;
  const room = { id: '', storeyId: '', name: '', kind: 'bedroom' as const, order: 1 };
  const group = { room, use: 'lighting' as const, hasReceptacle: true, isCounter: false };
  const protection = protectionFor(rulebookFor({ base, overrides: {} }), [group], amps, lineVolts);
  return { name: '', amps, protection };
}

/** What nobody has named or chosen yet, as it is usual by another edition. */
export const rebased = (draft: HouseDraft, from: RulebookBase, base: RulebookBase): HouseDraft => ({
  ...draft,
  base,
  storeys: draft.storeys.map((storey, at) =>
    storey.name === floorName(from, at) ? { ...storey, name: floorName(base, at) } : storey,
  ),
  circuits: draft.circuits.map((circuit) => (circuit.name.trim() ? circuit : usualCircuit(base))),
});

export const emptyDraft = (base: RulebookBase = USUAL_EDITION): HouseDraft => ({
  name: '',
  base,
  storeys: [{ name: floorName(base, 0), rooms: [emptyRoom()] }],
  circuits: [usualCircuit(base)],
  panelRoom: '',
});

/** "Kitchen counter 20" is a circuit of 20 A: the breaker may be typed at the end of the name. */
export function readCircuitLine(
  text: string,
  now: HouseDraft['circuits'][number],
): Partial<HouseDraft['circuits'][number]> {
  const amps = /\s(6|10|15|16|20|25|30|32|40|50|60)\s?A?$/i.exec(text);
  return amps ? { name: text, amps: Number(amps[1]) } : { name: text, amps: now.amps };
}

const circuitName = (typed: string): string =>
  typed.replace(/\s(6|10|15|16|20|25|30|32|40|50|60)\s?A?$/i, '').trim();

/** The draft as its form has it: what it lacks to be a house, in sentences. */
export const houseEntry = z.custom<HouseDraft>().superRefine((draft, { addIssue }) => {
  for (const message of draftProblems(draft)) addIssue({ code: 'custom', message });
});

export function draftProblems(draft: HouseDraft): string[] {
  const rooms = draft.storeys.flatMap((storey) => storey.rooms.filter((room) => room.name.trim()));
  return [
    ...(draft.name.trim() ? [] : [$localize`Give the house a name.`]),
    ...(rooms.length ? [] : [$localize`Name at least one room.`]),
    ...(draft.circuits.every(({ amps }) => Number.isInteger(amps) && amps > 0)
      ? []
      : ['A breaker needs its amperes.']),
  ];
}

/** The unit of a bare number in a house of an edition with the habits of its crew. */
export const typedUnit = (
  base: RulebookBase,
  habits: Readonly<HouseFile['rulebook']['overrides']>,
): 'ft' | 'm' => unitsIn(rulebookFor({ base, overrides: { ...habits } })).typed;

/** Where the panel hangs when nobody has said: in the room where it usually does. */
function usualPanelRoom(base: RulebookBase, rooms: HouseFile['rooms']): string | undefined {
  const { panelRooms, noPanel } = jurisdictionOf(base);
  const usual = panelRooms.map((kind) => rooms.find((room) => room.kind === kind)).find(Boolean);
  return (usual ?? rooms.find(({ kind }) => !noPanel.includes(kind)) ?? rooms[0])?.id;
}

/** The house file of a draft; lines without a name are left out. `newId` makes UUIDs; `habits` are the crew's. */
export function fileOfDraft(
  draft: HouseDraft,
  newId: () => string,
  habits: HouseFile['rulebook']['overrides'] = {},
): HouseFile {
  const storeys = draft.storeys.map((storey, index) => ({
    id: newId(),
    name: storey.name.trim() || `Floor ${index + 1}`,
    typed: storey,
  }));
  const unit = typedUnit(draft.base, habits);
  const rooms: HouseFile['rooms'] = [];
  let panelRoomId: string | undefined;
  storeys.forEach(({ id: storeyId, typed }, s) => {
    typed.rooms.forEach(({ name, kind }, r) => {
      if (!name.trim()) return;
      const id = newId();
      const { doubt: _told, ...line } = readRoomLine(name, unit);
      rooms.push({ id, storeyId, ...line, kind, order: rooms.length + 1 });
      if (draft.panelRoom === `${s}.${r}`) panelRoomId = id;
    });
  });
  const panelId = newId();
  const circuits = draft.circuits.filter(({ name }) => name.trim());
  return {
    format: 'mule-tally-house',
    version: 3,
    id: newId(),
    name: draft.name.trim(),
    rulebook: { base: draft.base, overrides: { ...habits } },
    people: [],
    storeys: storeys.map(({ id, name }) => ({ id, name })),
    rooms,
    openings: [],
    catalogueBoxes: [],
    catalogueDevices: [],
    boxes: [
      {
        id: panelId,
        roomId: panelRoomId ?? usualPanelRoom(draft.base, rooms)!,
        tag: jurisdictionOf(draft.base).panelTag,
        catalogueId: 'panel',
      },
    ],
    circuits: circuits.map(({ name, amps, protection }, index) => ({
      id: newId(),
      number: index + 1,
      name: circuitName(name) || name.trim(),
      panelId,
      poles: 1,
      breakerAmps: amps,
      protection,
    })),
    devices: [],
    points: [],
    controls: [],
    runs: [],
    reels: [],
    pulls: [],
    records: [],
    bands: [],
    beams: [],
    asks: [],
    photos: [],
    writeUps: [],
    extras: [],
    drafts: [],
  };
}
