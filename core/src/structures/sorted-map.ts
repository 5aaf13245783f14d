import BTreeModule from 'sorted-btree';

// The package is CommonJS: in Node its default export sits one level further in.
const BTree = ((BTreeModule as unknown as { default?: typeof BTreeModule }).default ??
  BTreeModule) as typeof BTreeModule;

/** Ids are strings: nothing else has to be told apart. */
const inOrder = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/**
 * An immutable map with its keys in order: one key written costs the logarithm of the size, and structure is shared between
 * versions. Ordered and without a hash, so that no choice of ids makes it slow.
 */
export class SortedMap<V> implements Iterable<readonly [string, V]> {
  private constructor(private readonly tree: InstanceType<typeof BTreeModule<string, V>>) {}

  static empty<V>(): SortedMap<V> {
    return new SortedMap<V>(new BTree<string, V>(undefined, inOrder));
  }

  get size(): number {
    return this.tree.size;
  }

  get(key: string): V | undefined {
    return this.tree.get(key);
  }

  has(key: string): boolean {
    return this.tree.has(key);
  }

  /** The map with one key written. */
  set(key: string, value: V): SortedMap<V> {
    const next = this.tree.clone();
    next.set(key, value);
    return new SortedMap(next);
  }

  /** The map without one key. */
  delete(key: string): SortedMap<V> {
    if (!this.tree.has(key)) return this;
    const next = this.tree.clone();
    next.delete(key);
    return new SortedMap(next);
  }

  /** The map with another value under each of its keys. */
  mapped<W>(value: (before: V) => W): SortedMap<W> {
    return new SortedMap<W>(this.tree.mapValues(value));
  }

  keys(): IterableIterator<string> {
    return this.tree.keys();
  }

  values(): IterableIterator<V> {
    return this.tree.values();
  }

  [Symbol.iterator](): IterableIterator<[string, V]> {
    return this.tree.entries();
  }
}
