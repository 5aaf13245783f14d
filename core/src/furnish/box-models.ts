import type { HouseReader } from '../derive/reader.js';
import { fillBox } from '../fill/fill-box.js';
import type { BoxType } from '../vocabulary/catalogue-types.js';
import type { BoxShape } from './planned.js';

/** Models that a box of a shape may be of, the smallest first: plastic as it is commonly set, metal where no plastic is as large. */
export function modelsFor(boxes: readonly BoxType[], shape: BoxShape, gangs: number): readonly BoxType[] {
  const bySize = (test: (type: BoxType) => boolean): BoxType[] =>
    boxes.filter(test).toSorted((a, b) => (a.volumeIn3 ?? 0) - (b.volumeIn3 ?? 0));
  const isPlastic = ({ material }: BoxType): boolean => material === 'plastic';
  switch (shape) {
    case 'switch':
    case 'device': {
      const usual = [
        ...bySize((type) => isPlastic(type) && type.kind === 'device' && type.gangs === gangs),
        ...bySize((type) => type.kind === 'square' && type.gangs === gangs),
      ];
      // Where metal ones are usual, those; where none has so many gangs, the widest.
      const own = bySize(
        (type) => type.kind === 'device' && type.gangs >= gangs && type.insideIn !== undefined,
      );
      const widest = bySize(({ kind }) => kind === 'device').slice(-1);
      return own.length ? own : usual.length ? usual : widest;
    }
    case 'ceiling':
      return bySize((type) => isPlastic(type) && type.kind === 'ceiling' && !type.fanRated);
    case 'fan':
      return [
        ...bySize((type) => isPlastic(type) && type.kind === 'ceiling' && type.fanRated === true),
        ...bySize((type) => type.kind === 'ceiling' && type.insideIn !== undefined),
      ];
    default:
      return boxes.filter(({ kind }) => kind === shape);
  }
}

/** The largest that is commonly set: what a box is taken to be while what enters it is not known. */
export const largestModel = (models: readonly BoxType[]): BoxType =>
  models.findLast(({ material }) => material === 'plastic') ?? models.at(-1)!;

/** The smallest model that holds what enters a box, its devices and joints; undefined where none does. */
export function modelThatHolds(
  reader: HouseReader,
  boxId: string,
  models: readonly BoxType[],
): BoxType | undefined {
  const [only] = models;
  if (models.length === 1 && only?.volumeIn3 === undefined) return only;
  const fill = fillBox(reader, boxId);
  if (!fill) return only;
  return models.find(
    ({ volumeIn3, insideIn }) =>
      volumeIn3 !== undefined &&
      volumeIn3 >= fill.totalIn3 - 1e-9 &&
      (!fill.depth || (insideIn?.[2] ?? Infinity) >= fill.depth.needsIn - 1e-6),
  );
}
