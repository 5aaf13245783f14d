import type { Terminal } from '../vocabulary/terminal.js';
import { terminalOfVersion1 } from '../house/upgrade/terminals-of-version-1.js';

/** A terminal of a device by what a hand calls it: "traveler A 2", "line hot". */
export const onDevice = (name: string): Terminal => terminalOfVersion1(name, true);
