/** A map by two names, without a third made of both. */
export class PairMap<V> {
  private readonly byFirst = new Map<string, Map<string, V>>();

  get(first: string, second: string): V | undefined {
    return this.byFirst.get(first)?.get(second);
  }

  set(first: string, second: string, value: V): void {
    let bySecond = this.byFirst.get(first);
    if (!bySecond) this.byFirst.set(first, (bySecond = new Map()));
    bySecond.set(second, value);
  }
}
