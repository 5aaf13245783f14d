/** Sets that are joined; `find` names the set that a member is in. */
export class Union {
  private readonly up: number[] = [];
  make(): number {
    return this.up.push(this.up.length) - 1;
  }
  find(at: number): number {
    let top = at;
    while (this.up[top] !== top) top = this.up[top]!;
    for (let next = at; next !== top;) {
      const above = this.up[next]!;
      this.up[next] = top;
      next = above;
    }
    return top;
  }
  join(a: number, b: number): void {
    this.up[this.find(a)] = this.find(b);
  }
}
