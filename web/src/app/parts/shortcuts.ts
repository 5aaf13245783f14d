/** Stages of the work, in its order. */
export const STAGES = [
  { path: 'lay-out', name: $localize`Lay out` },
  { path: 'pull', name: $localize`Pull` },
  { path: 'walk', name: $localize`Walk` },
  { path: 'make-up', name: $localize`Make up` },
  { path: 'check', name: $localize`Check` },
] as const;

export interface Shortcut {
  /** As it is written for people, and as it is listened for. */
  readonly keys: string;
  readonly press: readonly string[];
  /** A command, or the stage to go to. */
  readonly does:
    | 'help'
    | 'undo'
    | 'redo'
    | 'next room'
    | 'previous room'
    | 'lay-out'
    | 'pull'
    | 'walk'
    | 'make-up'
    | 'check'
    | 'truck'
    | 'next step'
    | 'previous step'
    | 'tick';
  readonly says: string;
}

const letter = (key: string, does: Shortcut['does'], says: string): Shortcut => ({
  keys: key,
  press: [key],
  does,
  says,
});

export const SHORTCUTS: readonly Shortcut[] = [
  letter('l', 'lay-out', $localize`Lay out: boxes, devices, what switches what`),
  letter('p', 'pull', $localize`Pull: runs of the room or of a circuit`),
  letter('w', 'walk', $localize`Walk: count what enters the boxes`),
  letter('m', 'make-up', $localize`Make up: the bench of a box`),
  letter('c', 'check', $localize`Check: everything found in the house`),
  letter('t', 'truck', $localize`Truck: rulebook, log, crew`),
  letter('j', 'next room', $localize`Next room on the walk`),
  letter('k', 'previous room', $localize`Room before`),
  letter('u', 'undo', $localize`Undo my last change`),
  { keys: 'Shift + u', press: ['Shift+U'], does: 'redo', says: $localize`Redo it` },
  { keys: 'Ctrl + z', press: ['$mod+z'], does: 'undo', says: $localize`Undo my last change` },
  { keys: 'Ctrl + y', press: ['$mod+y'], does: 'redo', says: $localize`Redo it` },
  letter('n', 'next step', $localize`At the bench: next step`),
  letter('b', 'previous step', $localize`At the bench: step before`),
  letter('d', 'tick', $localize`At the bench: tick the step as made`),
  { keys: '?', press: ['?', 'Shift+?'], does: 'help', says: $localize`This sheet` },
];

/** Keys belong to the field while somebody types in one. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName));
