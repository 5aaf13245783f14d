import type { BoxJoint, CableEnd } from '../joints/box-joint.js';
import { shapeOf } from '../joints/box-joint.js';
import type { Landing, Terminal } from '../../vocabulary/terminal.js';
import { sameTerminal } from '../../vocabulary/terminal.js';

/** What hands did otherwise with the joints of a box. */
export type Edit = (joints: readonly BoxJoint[]) => readonly BoxJoint[];

export const reshaped = (
  joint: BoxJoint,
  part: Partial<Pick<BoxJoint, 'ends' | 'landings' | 'role'>>,
): BoxJoint => {
  const ends = part.ends ?? joint.ends;
  const landings = part.landings ?? joint.landings;
  return { ...joint, ...part, ends, landings, kind: shapeOf(ends.length, landings.length) };
};
export const lands = (joint: BoxJoint, deviceId: string, terminal: Terminal): boolean =>
  joint.landings.some((to) => to.deviceId === deviceId && sameTerminal(to.terminal, terminal));

/** Lands on other terminals of one device: from, to; nowhere where there is no other. */
export const relanded =
  (deviceId: string, ...moves: readonly (readonly [Terminal, Terminal | undefined])[]): Edit =>
  (joints) =>
    joints.map((joint) =>
      reshaped(joint, {
        landings: joint.landings.flatMap((to) => {
          const move =
            to.deviceId === deviceId && moves.find(([terminal]) => sameTerminal(terminal, to.terminal));
          if (!move) return [to];
          const [, terminal] = move;
          return terminal ? [{ ...to, terminal }] : [];
        }),
      }),
    );
/** Exchanges two terminals of one device. */
export const swapped = (deviceId: string, one: Terminal, other: Terminal): Edit =>
  relanded(deviceId, [one, other], [other, one]);
export const without = (joints: readonly BoxJoint[]): readonly BoxJoint[] =>
  joints.filter((joint) => joint.ends.length + joint.landings.length > 0);

/** Takes one end or landing out of a joint and leaves the end by itself. */
export const loosened =
  (target: BoxJoint, end: CableEnd): Edit =>
  (joints) =>
    joints.flatMap((joint) =>
      joint !== target
        ? [joint]
        : [
            reshaped(joint, { ends: joint.ends.filter((own) => own !== end) }),
            { ...reshaped(joint, { ends: [end], landings: [] }), role: 'undecided' as const },
          ],
    );
export const merged =
  (one: BoxJoint, other: BoxJoint): Edit =>
  (joints) =>
    joints.flatMap((joint) =>
      joint === other
        ? []
        : joint === one
          ? [
              reshaped(joint, {
                ends: [...one.ends, ...other.ends],
                landings: [...one.landings, ...other.landings],
              }),
            ]
          : [joint],
    );

/** Takes a landing from one joint to another. */
export const moved =
  (from: BoxJoint, to: BoxJoint, landing: Landing): Edit =>
  (joints) =>
    joints.map((joint) =>
      joint === from
        ? reshaped(joint, { landings: joint.landings.filter((own) => own !== landing) })
        : joint === to
          ? reshaped(joint, { landings: [...joint.landings, landing] })
          : joint,
    );
