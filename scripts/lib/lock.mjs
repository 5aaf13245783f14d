// @ts-check
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** When a process began, in ticks since the machine did; undefined when there is none. Tells a process from a later one of its number. @param {number} pid */
function beganAt(pid) {
  try {
    // The name in the second field may hold anything, brackets too: count from behind it.
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19];
  } catch {
    return undefined;
  }
}

/** What a process is called. @param {number} pid */
export function programOf(pid) {
  try {
    return readFileSync(`/proc/${pid}/comm`, 'utf8').trim();
  } catch {
    return undefined;
  }
}

/** One start for each data folder. */
export class StartLock {
  /** @param {string} folder */
  constructor(folder) {
    this.folder = folder;
    this.file = join(folder, 'start.pid');
  }

  /** The process that holds the folder, if it still runs. A number that has been given to another process since is nobody. */
  holder() {
    if (!existsSync(this.file)) return undefined;
    const [pid, began] = readFileSync(this.file, 'utf8').trim().split(' ');
    return pid && began && beganAt(Number(pid)) === began ? Number(pid) : undefined;
  }

  /** Takes the folder; gives the process that has it, where it is taken. */
  take() {
    const holder = this.holder();
    if (holder !== undefined && holder !== process.pid) return holder;
    mkdirSync(this.folder, { recursive: true });
    writeFileSync(this.file, `${process.pid} ${beganAt(process.pid) ?? ''}\n`);
    return undefined;
  }

  release() {
    if (this.holder() === process.pid) rmSync(this.file, { force: true });
  }
}
