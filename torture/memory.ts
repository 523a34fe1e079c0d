import { later, type TorturedShop } from './shop';

/** How much memory each sort of process holds, hour by hour of a simulated day. */
export class MemoryLog {
  private readonly samples = new Map<string, { share: number; memory: number }[]>();

  /** Looks at the shop's processes now and then. @param share of the day that is over, 0–1 */
  async watch(shop: TorturedShop, share: () => number): Promise<void> {
    while (share() < 1) {
      const sums = new Map<string, number>();
      for (const { what, memory } of shop.processes()) {
        sums.set(what, Math.max(sums.get(what) ?? 0, memory));
      }
      for (const [what, memory] of sums) {
        const of = this.samples.get(what) ?? [];
        this.samples.set(what, [...of, { share: share(), memory }]);
      }
      await later(1000);
    }
  }

  /** Of each sort of process that lives all day: megabytes in its first hour and in its last one. */
  firstAndLast(): { what: string; first: number; last: number }[] {
    return [...this.samples].flatMap(([what, of]) => {
      const middle = (from: number, to: number) => {
        const values = of
          .filter(({ share }) => share >= from && share < to)
          .map((one) => one.memory);
        return values.sort((a, b) => a - b)[values.length >> 1];
      };
      const [first, last] = [middle(0, 1 / 24), middle(23 / 24, 1)];
      return first && last ? [{ what, first, last }] : [];
    });
  }
}
