import type { Subject } from './subject';

/** How a pane's curves are drawn, and what its caption shows: told apart by their dashes as well. */
export interface Ink {
  colour: string;
  dash: number[];
  width: number;
}

const RESULT: Ink = { colour: '#1e4d3f', dash: [], width: 1.8 };
const ORIGINAL: Ink = { colour: '#5d6663', dash: [], width: 1 };
const OTHERS: readonly Ink[] = [
  { colour: '#8a5f0c', dash: [6, 2], width: 1.5 },
  { colour: '#2c4f8a', dash: [2, 2], width: 1.5 },
  { colour: '#7a3b6d', dash: [8, 2, 2, 2], width: 1.5 },
];

export const RESULT_INK = RESULT;

/** The ink of a pane beside the result, by what it shows and which of them it is. */
export const inkBeside = (subject: Subject, pane: number): Ink =>
  subject.of === 'original' ? ORIGINAL : OTHERS[pane % OTHERS.length]!;
