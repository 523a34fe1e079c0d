/** Numbers that look random and are the same for the same seed. */
export interface Random {
  /** 0 to 1 */
  share(): number;
  /** a whole number below n */
  below(n: number): number;
  pick<T>(of: readonly T[]): T;
}

/** The multiplicative generator of Park and Miller (1988). */
export function randomOf(seed: number): Random {
  let state = (seed % 2147483646) + 1;
  const next = () => (state = (state * 48271) % 2147483647);
  const below = (n: number) => next() % n;
  return { share: () => next() / 2147483647, below, pick: (of) => of[below(of.length)]! };
}
