/** All that is said in the source below a folder, each by itself. */
export function wordsIn(root: string): Record<string, string>;
