/**
 * A file is worked on in turns: all begin with a short one, and what needs more is begun again in a longer one,
 * after those whose turn is short. So one file that never ends doesn't keep others waiting.
 */
export type Turn = 'short' | 'long' | 'heavy';

/** What a process may use while a file has its turn. */
export interface Limits {
  /** resident memory of the whole process, in bytes */
  memory: number;
  /** CPU time, in milliseconds */
  cpu: number;
  /** time from the moment the turn begins, in milliseconds: it ends what waits and never goes on */
  time: number;
}

/** Processes here give way to all others: a machine that is busy with runs gives them a small part of itself. */
const BUSIEST = 20;

const MB = 1e6;
const limits = (memory: number, cpu: number): Limits => ({
  memory: memory * MB,
  cpu: cpu * 1000,
  time: cpu * 1000 * BUSIEST,
});

/** Most processes that give short turns. */
export const SHORT_AT_ONCE = 2;

/** What files of pixels may use: their cost is known from their header, and they are refused by it. */
const PIXELS: Record<Turn, Limits> = {
  short: limits(320, 4),
  long: limits(320, 60),
  heavy: limits(900, 60),
};

/** What files of shapes may use: nobody knows what a drawing costs before it was drawn. */
const SHAPES: Record<Turn, Limits> = {
  short: limits(320, 2),
  long: limits(320, 8),
  heavy: limits(640, 8),
};

/** What is worked on. One kind never takes all the room for longer turns. */
export type Kind = 'pixels' | 'shapes';

export const LIMITS: Record<Kind, Record<Turn, Limits>> = { pixels: PIXELS, shapes: SHAPES };

/** Memory that longer turns of all files together may use, in bytes: the heaviest one, or three long ones. */
export const LONGER_MEMORY = 960 * MB;

/** Most longer turns of one kind at a time, so that the other one never waits for all of them. */
export const LONGER_OF_KIND = 2;

/** Memory that a process may keep when it rests; one that holds more is ended. */
export const RESTING_MEMORY = 250 * MB;

/** The first turn whose limits hold what a file needs, or null where none does. */
export const turnFor = (kind: Kind, needs: Pick<Limits, 'memory' | 'cpu'>): Turn | null =>
  (['short', 'long', 'heavy'] as const).find((turn) => {
    const { memory, cpu } = LIMITS[kind][turn];
    return needs.memory <= memory && needs.cpu <= cpu;
  }) ?? null;

/** What comes after a turn in which a limit was met, or null where nothing does. */
export function nextTurn(turn: Turn, met: 'memory' | 'time'): Turn | null {
  if (turn === 'short') return met === 'memory' ? 'heavy' : 'long';
  if (turn === 'long') return met === 'memory' ? 'heavy' : null;
  return null;
}
