import type { Rulebook } from '../../rulebook/rulebook.js';
import type { TerminalMarks } from '../../vocabulary/jurisdiction.js';
import type { Terminal } from '../../vocabulary/terminal.js';

/** What stands beside a terminal on the device; undefined for one that is told by what it is for. */
export type MarkOf = (terminal: Terminal) => string | undefined;

function markIn(marks: TerminalMarks, terminal: Terminal): string | undefined {
  switch (terminal.kind) {
    case 'supply':
    case 'leg':
    case 'common':
      return marks[terminal.kind];
    case 'traveler':
      return marks.travelers[terminal.side];
    case 'pair':
      return marks.pairs[terminal.pair][terminal.side];
    default:
      return undefined;
  }
}

/** "COM", "L1"; of a plate with several gangs "COM 2" or "B COM", by the style of the house. */
export function marksOf(rules: Rulebook): MarkOf {
  const marks = rules.jurisdiction.terminalMarks;
  if (!marks) return () => undefined;
  const isLettered = rules.has('plates.labels') && rules.text('plates.labels') === 'lettered';
  return (terminal) => {
    const mark = markIn(marks, terminal);
    const gang = 'lever' in terminal ? terminal.lever : undefined;
    if (mark === undefined || !gang) return mark;
    return isLettered ? `${String.fromCharCode(64 + gang)} ${mark}` : `${mark} ${gang}`;
  };
}
