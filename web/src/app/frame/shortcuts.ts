/** Stages of the work, in its order. Those not built yet are shown, and shown as not there. */
export const STAGES = [
  { path: 'lay-out', name: 'Lay out', built: true },
  { path: 'pull', name: 'Pull', built: true },
  { path: 'walk', name: 'Walk', built: false },
  { path: 'make-up', name: 'Make up', built: true },
  { path: 'check', name: 'Check', built: true },
] as const;

export interface Shortcut {
  readonly keys: string;
  readonly key: string;
  readonly shift?: boolean;
  readonly control?: boolean;
  /** A command, or the stage to go to. */
  readonly does:
    | 'help'
    | 'undo'
    | 'redo'
    | 'next room'
    | 'previous room'
    | 'lay-out'
    | 'pull'
    | 'make-up'
    | 'check'
    | 'gang-box'
    | 'at the bench';
  readonly says: string;
}

export const SHORTCUTS: readonly Shortcut[] = [
  { keys: 'l', key: 'l', does: 'lay-out', says: 'Lay out: boxes, devices, what switches what' },
  { keys: 'p', key: 'p', does: 'pull', says: 'Pull: runs of the room or of a circuit' },
  { keys: 'm', key: 'm', does: 'make-up', says: 'Make up: the bench of a box' },
  { keys: 'c', key: 'c', does: 'check', says: 'Check: everything found in the house' },
  { keys: 'g', key: 'g', does: 'gang-box', says: 'Gang box: rulebook, journal, crew' },
  { keys: 'j', key: 'j', does: 'next room', says: 'Next room on the walk' },
  { keys: 'k', key: 'k', does: 'previous room', says: 'Room before' },
  { keys: 'u', key: 'u', does: 'undo', says: 'Undo my last change' },
  { keys: 'Shift + u', key: 'U', shift: true, does: 'redo', says: 'Redo it' },
  { keys: 'Ctrl + z', key: 'z', control: true, does: 'undo', says: 'Undo my last change' },
  { keys: 'Ctrl + y', key: 'y', control: true, does: 'redo', says: 'Redo it' },
  { keys: 'n', key: 'n', does: 'at the bench', says: 'At the bench: next step' },
  { keys: 'b', key: 'b', does: 'at the bench', says: 'At the bench: step before' },
  { keys: 't', key: 't', does: 'at the bench', says: 'At the bench: tick the step as made' },
  { keys: '?', key: '?', does: 'help', says: 'This sheet' },
];

/** Keys belong to the field while somebody types in one. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName));

export function shortcutFor(event: KeyboardEvent): Shortcut | undefined {
  if (event.altKey || isTyping(event.target)) return undefined;
  const control = event.ctrlKey || event.metaKey;
  return SHORTCUTS.find((shortcut) => shortcut.key === event.key && (shortcut.control ?? false) === control);
}
