/** Sets that are joined; `find` names the set that a member is in. Members are numbers from 0 on. */
export class Union {
  private readonly up: number[] = [];

  /** With so many members to begin with, each in a set of its own. */
  constructor(size = 0) {
    for (let member = 0; member < size; member++) this.up.push(member);
  }

  make(): number {
    return this.up.push(this.up.length) - 1;
  }

  find(at: number): number {
    const { up } = this;
    let top = at;
    while (up[top] !== top) top = up[top] = up[up[top]!]!;
    return top;
  }

  /** False when both were in one set already. */
  join(a: number, b: number): boolean {
    const [one, other] = [this.find(a), this.find(b)];
    if (one === other) return false;
    this.up[one] = other;
    return true;
  }

  /** Takes every member out again, into a set of its own. */
  reset(): void {
    for (let member = 0; member < this.up.length; member++) this.up[member] = member;
  }
}

/** The same for members with names. */
export class NamedUnion {
  private readonly union = new Union();
  private readonly numbers = new Map<string, number>();

  private number(name: string): number {
    let known = this.numbers.get(name);
    if (known === undefined) this.numbers.set(name, (known = this.union.make()));
    return known;
  }

  /** The set that a name is in, by number. */
  find(name: string): number {
    return this.union.find(this.number(name));
  }

  /** False when both were in one set already. */
  join(a: string, b: string): boolean {
    return this.union.join(this.number(a), this.number(b));
  }
}
