import {
  LIMITS,
  LONGER_MEMORY,
  LONGER_OF_KIND,
  SHORT_AT_ONCE,
  type Kind,
  type Turn,
} from './limits';

/** Something that waits for its turn, or has it. */
export interface Entry {
  kind: Kind;
  turn: Turn;
}

const memoryOf = ({ kind, turn }: Entry): number => LIMITS[kind][turn].memory;

const isShort = ({ turn }: Entry): boolean => turn === 'short';

/**
 * What waits for a turn. Whoever came last and whoever waits longest begin by turns: so a newcomer doesn't wait
 * for all that came before it, and nobody waits for ever.
 */
export class Waiting<T extends Entry> {
  private readonly entries: T[] = [];
  private readonly newestNext = { short: true, longer: true };

  add(entry: T): void {
    this.entries.push(entry);
  }

  /** @returns whether it waited */
  remove(entry: T): boolean {
    const at = this.entries.indexOf(entry);
    if (at >= 0) this.entries.splice(at, 1);
    return at >= 0;
  }

  /** Takes all out. */
  clear(): T[] {
    return this.entries.splice(0);
  }

  /** Takes out what begins next beside what runs, or null where everything has to wait. */
  next(running: readonly Entry[]): T | null {
    return this.shortOne(running) ?? this.longerOne(running);
  }

  private shortOne(running: readonly Entry[]): T | null {
    if (running.filter(isShort).length >= SHORT_AT_ONCE) return null;
    return this.pick('short', this.entries.filter(isShort));
  }

  private longerOne(running: readonly Entry[]): T | null {
    const longer = running.filter((one) => !isShort(one));
    const used = longer.reduce((sum, one) => sum + memoryOf(one), 0);
    const waiting = this.entries.filter((one) => !isShort(one));
    const fits = (one: T) => used + memoryOf(one) <= LONGER_MEMORY;
    const fair = (one: T) => longer.filter(({ kind }) => kind === one.kind).length < LONGER_OF_KIND;
    // What needs all the room gets it when it waits longest: nothing begins meanwhile.
    if (waiting[0] && fair(waiting[0]) && !fits(waiting[0])) return null;
    return this.pick(
      'longer',
      waiting.filter((one) => fits(one) && fair(one)),
    );
  }

  private pick(lane: 'short' | 'longer', able: readonly T[]): T | null {
    const entry = this.newestNext[lane] ? able.at(-1) : able[0];
    if (!entry) return null;
    this.newestNext[lane] = !this.newestNext[lane];
    this.remove(entry);
    return entry;
  }
}
