/** How long work goes on before it looks whether something else should go first, in milliseconds. */
const SLICE_MS = 6;

/** Lets messages arrive that wait. */
const pause = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });

/**
 * Gives one piece of work at a time its turn: the one of the highest priority, of those the one that came
 * first. Work that takes long asks between its parts; whatever came meanwhile and is more urgent goes first.
 */
export class Turns {
  private readonly waiting: Turn[] = [];
  private wakers: (() => void)[] = [];

  /** @param priority greater goes first @param signal ends it at its next part */
  begin(priority: number, signal: AbortSignal): Turn {
    const turn = new Turn(this, priority, signal);
    const at = this.waiting.findIndex((other) => other.priority < priority);
    this.waiting.splice(at < 0 ? this.waiting.length : at, 0, turn);
    return turn;
  }

  end(turn: Turn): void {
    this.waiting.splice(this.waiting.indexOf(turn), 1);
    this.wakers.splice(0).forEach((wake) => wake());
  }

  async until(turn: Turn): Promise<void> {
    while (this.waiting[0] !== turn) {
      await new Promise<void>((resolve) => this.wakers.push(resolve));
      turn.signal.throwIfAborted();
    }
  }
}

/** A piece of work under way. */
export class Turn {
  private since = 0;

  constructor(
    private readonly turns: Turns,
    readonly priority: number,
    readonly signal: AbortSignal,
  ) {}

  /**
   * Asked for at the beginning and between parts: goes on once it is its turn.
   * @throws the signal's reason where it was aborted
   */
  readonly next = async (): Promise<void> => {
    this.signal.throwIfAborted();
    if (this.since > 0 && performance.now() - this.since < SLICE_MS) return;
    await pause();
    this.signal.throwIfAborted();
    await this.turns.until(this);
    this.since = performance.now();
  };

  end(): void {
    this.turns.end(this);
  }
}
