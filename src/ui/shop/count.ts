/** A number of things: 1 file, 2 files. */
export const count = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;
