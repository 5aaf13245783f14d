import { readerOf } from '../derive/reader.js';
import type { HouseFile } from '../house/house-file.js';
import { houseOf } from '../house/house-file.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import { recordOfJoint } from '../wiring/joints/made-joints.js';

/** The house with its boxes made up as derived: every joint, or those whose turn in `ticks` says so, round and round. */
export function madeUp(file: HouseFile, ticks: readonly boolean[] = [true]): HouseFile {
  const derived = readerOf(houseOf(file));
  let step = 0;
  const boxes = file.boxes.map((box) => {
    const joints = boxJoints(derived, box.id).joints.filter(
      ({ kind }) => kind !== 'undecided' && ticks[step++ % ticks.length],
    );
    return joints.length ? { ...box, asBuilt: joints.map((joint) => recordOfJoint(joint)) } : box;
  });
  return { ...file, boxes };
}
