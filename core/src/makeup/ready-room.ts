import type { HouseReader } from '../derive/reader.js';
import { boxesInRoom, circuitsAt } from '../facts/box-facts.js';
import { supplyOf } from '../facts/circuit-facts.js';
import { fillBox } from '../fill/fill-box.js';
import type { Steps } from '../structures/steps.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { makeUpBox } from './make-up-box.js';

/**
 * Derives what a sheet about a room will ask for, a circuit and a box at a time: shown after that, it costs only its drawing.
 */
export function* readyRoom(reader: HouseReader, roomId: string): Steps<void> {
  const boxes = boxesInRoom(reader, roomId);
  const circuits = new Set(boxes.flatMap(({ id }) => circuitsAt(reader, id)));
  for (const id of circuits) {
    if (supplyOf(reader, id)) wireCircuit(reader, id);
    yield;
  }
  for (const { id } of boxes) {
    makeUpBox(reader, id);
    fillBox(reader, id);
    yield;
  }
}
