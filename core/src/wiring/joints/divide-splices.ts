import type { HouseReader } from '../../derive/reader.js';
import type { Gauge } from '../../vocabulary/size.js';
import { isThicker } from '../../vocabulary/size.js';
import type { BoxJoint, CableEnd } from './box-joint.js';
import type { Landing } from '../../vocabulary/terminal.js';
import { landingKey, linkOf } from '../../vocabulary/terminal.js';
import { endKey, shapeOf } from './box-joint.js';
import type { Tail } from './splice-tails.js';
import { fittingFor, heldInTerminal, isSpliced, tailsOf } from './splice-tails.js';

/** Every connector of the table's usual sizes takes so many of 12 AWG or thinner. */
const ALWAYS_FITS = 4;
/** More parts than this no box has. */
const MOST_PARTS = 8;

interface Part {
  readonly ends: CableEnd[];
  readonly tails: Tail[];
}

/** So many parts of about the same number of wires: the cables first, each with some of the pigtails. */
function shared(ends: readonly CableEnd[], tails: readonly Tail[], count: number): Part[] {
  const parts = Array.from({ length: count }, (): Part => ({ ends: [], tails: [] }));
  const least = (): Part =>
    parts.reduce((a, b) => (b.ends.length + b.tails.length < a.ends.length + a.tails.length ? b : a));
  const perPart = Math.ceil(ends.length / count);
  ends.forEach((end, at) => parts[Math.floor(at / perPart)]!.ends.push(end));
  for (const tail of tails.filter(({ inSplice }) => inSplice)) least().tails.push(tail);
  // A link from screw to screw belongs to where its first screw is.
  for (const tail of tails.filter(({ inSplice }) => !inSplice))
    (parts.find((part) => part.tails.some(({ kind }) => kind === 'pigtail')) ?? parts[0]!).tails.push(tail);
  return parts;
}

/**
 * Splices that no one connector takes, made as several with a link from each to the next: which conductors are in which is
 * part of the joints. What is recorded as made stays as it is.
 */
export function divideSplices(reader: HouseReader, joints: readonly BoxJoint[]): readonly BoxJoint[] {
  const baseOf = (joint: BoxJoint): string => {
    const what =
      joint.signal && joint.signal !== 'neutral' ? joint.signal : `${joint.role} ${joint.circuitId ?? ''}`;
    return what.trim();
  };
  const first = (joint: BoxJoint): string => joint.ends.map(endKey).sort()[0] ?? '';
  /** Joints of one kind that are apart (cables side by side) have links of their own. */
  const linkName = (joint: BoxJoint, at: number): string => {
    const base = baseOf(joint);
    const before = joints.filter((one) => baseOf(one) === base && first(one) < first(joint)).length;
    const number = before * MOST_PARTS + at + 1;
    return number > 1 ? `${base} ${number}` : base;
  };
  const isSmall = ({ ends, landings, gauge }: BoxJoint): boolean =>
    !isThicker(gauge, 12) && ends.length + landings.length <= ALWAYS_FITS;
  if (joints.every(isSmall)) return joints;
  return joints.flatMap((joint): BoxJoint[] => {
    if (
      isSmall(joint) ||
      joint.made ||
      joint.role === 'undecided' ||
      joint.ends.length === 0 ||
      !isSpliced(joint) ||
      heldInTerminal(reader, joint)
    )
      return [joint];
    const tails = tailsOf(reader, joint);
    const gauges = (ends: readonly CableEnd[]): Gauge[] => ends.map(({ gauge }) => gauge);
    const tailGauges = (own: readonly Tail[], links: number): Gauge[] =>
      Array<Gauge>(own.filter(({ inSplice }) => inSplice).length + links).fill(joint.gauge);
    const fits = (part: Part, links: number): boolean => {
      const inIt = [...gauges(part.ends), ...tailGauges(part.tails, links)];
      return (
        inIt.length < 2 ||
        fittingFor(reader, joint.role, gauges(part.ends), tailGauges(part.tails, links)).connector !==
          undefined
      );
    };
    if (fits({ ends: [...joint.ends], tails: [...tails] }, 0)) return [joint];
    // By slot and id, whatever the order of the lists.
    const ends = [...joint.ends].sort(
      (a, b) => (a.slot ?? 99) - (b.slot ?? 99) || (endKey(a) < endKey(b) ? -1 : 1),
    );
    const ordered = [...tails].sort((a, b) => (landingKey(a.to[0]!) < landingKey(b.to[0]!) ? -1 : 1));
    for (let count = 2; count <= MOST_PARTS; count++) {
      const parts = shared(ends, ordered, count);
      const links = (at: number): number => Number(at > 0) + Number(at < count - 1);
      if (!parts.every((part, at) => fits(part, links(at)))) continue;
      const between = parts.slice(1).map((_, at) => linkName(joint, at));
      return parts.map(({ ends, tails: own }, at): BoxJoint => {
        const landings: Landing[] = [
          ...own.flatMap(({ to }) => to),
          ...[between[at - 1], between[at]].flatMap((link) => (link ? [{ terminal: linkOf(link) }] : [])),
        ];
        return { ...joint, ends, landings, kind: shapeOf(ends.length, landings.length) };
      });
    }
    return [joint];
  });
}
