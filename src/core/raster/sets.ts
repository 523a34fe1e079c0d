/** Disjoint sets of whole numbers (Tarjan 1975). */
export class Sets {
  private readonly parent: Int32Array;

  constructor(count: number) {
    this.parent = Int32Array.from({ length: count }, (_, i) => i);
  }

  /** The number that stands for the set of another: the least of it. */
  root(of: number): number {
    const { parent } = this;
    let at = of;
    while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!;
    return at;
  }

  join(a: number, b: number): void {
    const [one, other] = [this.root(a), this.root(b)];
    if (one < other) this.parent[other] = one;
    else this.parent[one] = other;
  }
}
