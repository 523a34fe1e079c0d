/** The middle of an odd number of measurements. */
export const median = (values: number[]): number =>
  [...values].sort((a, b) => a - b)[(values.length - 1) >> 1]!;

let missed = 0;

/** One figure of the bench: what was measured, what is asked, and whether it holds. */
export function figure(
  what: string,
  value: number,
  unit: string,
  asked: number,
  bound: 'most' | 'least' = 'most',
): boolean {
  const holds = bound === 'most' ? value <= asked : value >= asked;
  if (!holds) missed++;
  console.log(
    `${holds ? 'holds ' : 'MISSES'}  ${what}: ${value.toFixed(2)} ${unit} (asked: at ${bound} ${asked} ${unit})`.replace(
      / {2,}\(/,
      ' (',
    ),
  );
  return holds;
}

/** What a bench needs is not here: said, and counted as missed. */
export function missing(what: string): void {
  missed++;
  console.log(`MISSES  ${what}`);
}

/** Ends a bench: with an error where a figure fell short. */
export function finished(): void {
  if (missed > 0) process.exitCode = 1;
}
