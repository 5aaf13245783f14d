import type { Reference } from '../documents/references.js';
import { isBuiltInBox, isBuiltInDevice } from '../rulebook/catalogue.js';
import type { TableName } from './model.js';

const ON_PAPER: readonly Reference<TableName>[] = [
  { path: 'roomId', table: 'rooms', onRemove: 'unlink' },
  { path: 'boxId', table: 'boxes', onRemove: 'unlink' },
  { path: 'runId', table: 'runs', onRemove: 'unlink' },
  { path: 'circuitId', table: 'circuits', onRemove: 'unlink' },
];

/** Which records of a house name which others. */
export const REFERENCES: Readonly<Record<TableName, readonly Reference<TableName>[]>> = {
  storeys: [],
  rooms: [{ path: 'storeyId', table: 'storeys', onRemove: 'cascade' }],
  openings: [{ path: 'roomId', table: 'rooms', onRemove: 'cascade' }],
  bands: [{ path: 'roomId', table: 'rooms', onRemove: 'cascade' }],
  beams: [{ path: 'storeyId', table: 'storeys', onRemove: 'cascade' }],
  catalogueBoxes: [],
  catalogueDevices: [],
  boxes: [
    { path: 'roomId', table: 'rooms', onRemove: 'cascade' },
    { path: 'catalogueId', table: 'catalogueBoxes', onRemove: 'cascade', known: isBuiltInBox },
    { path: 'asBuilt[].ends[].runId', table: 'runs', onRemove: 'unlink-part' },
    { path: 'asBuilt[].terminals[].deviceId', table: 'devices', onRemove: 'unlink-part', holderStays: true },
    {
      path: 'asBuilt[].terminals[].terminal.circuitId',
      table: 'circuits',
      onRemove: 'unlink-part',
      holderStays: true,
    },
  ],
  circuits: [{ path: 'panelId', table: 'boxes', onRemove: 'cascade' }],
  devices: [
    { path: 'boxId', table: 'boxes', onRemove: 'cascade' },
    { path: 'catalogueId', table: 'catalogueDevices', onRemove: 'cascade', known: isBuiltInDevice },
  ],
  points: [
    { path: 'deviceId', table: 'devices', onRemove: 'cascade' },
    { path: 'circuitId', table: 'circuits', onRemove: 'unlink' },
  ],
  controls: [
    { path: 'places[]', table: 'points', onRemove: 'unlink' },
    { path: 'loads[]', table: 'points', onRemove: 'unlink' },
    { path: 'pinnedOrder[]', table: 'points', onRemove: 'unlink' },
  ],
  runs: [
    { path: 'circuitIds[]', table: 'circuits', onRemove: 'unlink' },
    { path: 'from.boxId', table: 'boxes', onRemove: 'cascade' },
    { path: 'to.boxId', table: 'boxes', onRemove: 'cascade' },
    { path: 'wires[].circuitId', table: 'circuits', onRemove: 'unlink' },
    { path: 'route[].storeyId', table: 'storeys', onRemove: 'unlink-part' },
    { path: 'shutOut[].roomId', table: 'rooms', onRemove: 'unlink-part' },
  ],
  reels: [{ path: 'parentId', table: 'reels', onRemove: 'unlink' }],
  pulls: [
    { path: 'runId', table: 'runs', onRemove: 'cascade' },
    { path: 'reelId', table: 'reels', onRemove: 'unlink' },
  ],
  records: [
    { path: 'circuitId', table: 'circuits', onRemove: 'cascade' },
    { path: 'boxId', table: 'boxes', onRemove: 'cascade' },
    { path: 'runId', table: 'runs', onRemove: 'cascade' },
    { path: 'roomId', table: 'rooms', onRemove: 'cascade' },
  ],
  asks: [
    { path: 'roomId', table: 'rooms', onRemove: 'cascade' },
    { path: 'boxId', table: 'boxes', onRemove: 'cascade' },
  ],
  // What was photographed stays, whatever becomes of what it shows.
  photos: [
    { path: 'roomId', table: 'rooms', onRemove: 'unlink' },
    { path: 'boxId', table: 'boxes', onRemove: 'unlink' },
    { path: 'runId', table: 'runs', onRemove: 'unlink' },
    { path: 'marks[].boxId', table: 'boxes', onRemove: 'unlink-part' },
    { path: 'writeUpId', table: 'writeUps', onRemove: 'unlink' },
    { path: 'extraId', table: 'extras', onRemove: 'unlink' },
  ],
  // What was written up or agreed stays on paper, whatever becomes of the place.
  writeUps: ON_PAPER,
  extras: ON_PAPER,
  drafts: [{ path: 'roomId', table: 'rooms', onRemove: 'cascade' }],
};
