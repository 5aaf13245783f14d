/**
 * A tree on numbers, for what is asked of many trees: node 0 is its root, every other node is fed by its parent, and the run that
 * feeds a node has the number of the node.
 */
export class NumberedTree {
  readonly size: number;
  private readonly counts: Int32Array;

  /** `order` has every node once, each after the one that feeds it. */
  constructor(
    readonly parent: Int32Array,
    readonly order: Int32Array,
  ) {
    this.size = parent.length;
    this.counts = new Int32Array(parent.length);
  }

  /** In which runs a set of nodes must be joined: those with nodes of the set on both sides. In the order of the tree from its ends. */
  between(nodes: readonly number[]): number[] {
    const { parent, order, counts } = this;
    counts.fill(0);
    for (const node of nodes) counts[node]!++;
    const found: number[] = [];
    for (let at = order.length - 1; at > 0; at--) {
      const node = order[at]!;
      const count = counts[node]!;
      if (count === 0) continue;
      if (count < nodes.length) found.push(node);
      counts[parent[node]!]! += count;
    }
    return found;
  }

  /** The nodes from this one up to the root, both included. */
  wayUp(node: number): number[] {
    const way: number[] = [];
    for (let at = node; at >= 0; at = this.parent[at]!) way.push(at);
    return way;
  }

  /** 1 for each node that lies at or beyond this one. */
  beyond(node: number): Uint8Array {
    const marks = new Uint8Array(this.size);
    marks[node] = 1;
    for (const at of this.order) if (at !== 0 && marks[this.parent[at]!]) marks[at] = 1;
    return marks;
  }
}
