import type { Region } from '@/core/raster/region';
import type { Layer } from './layers';

/** What a pane is to show: a region of a layer. `key` names it whole. */
export interface Wanted {
  key: string;
  /** names the layer, whichever region of it */
  of: string;
  layer: Layer;
  region: Region;
}

/** What a painter is answered: pixels, in whatever form. */
interface Answered {
  /** whether they are an estimate of what is wanted */
  draft: boolean;
  milliseconds: number;
}

/** What a painter does with what it asked for. */
export interface PainterPorts<Answer extends Answered> {
  /** what is wanted, with its final pixels, where it is at hand: nothing is asked for then */
  held(wanted: Wanted): Answer | null;
  ask(wanted: Wanted, mayDraft: boolean, signal: AbortSignal): Promise<Answer>;
  /** shows pixels: those that are wanted, or, while these are computed, the newest there are */
  paint(wanted: Wanted, answer: Answer): void;
  /** whether what shows is not yet what is wanted */
  busy(busy: boolean): void;
  /** what is wanted shows, with its final pixels */
  finished(wanted: Wanted, milliseconds: number): void;
  failed(error: unknown): void;
}

/**
 * Brings a pane to what is wanted of it. One request is under way at a time and each is of what was wanted
 * when it began, so that pixels never arrive out of order; whatever is wanted last shows at the end. First
 * comes what can be had at once, then the final pixels; those alone count as finished.
 */
export class Painter<Answer extends Answered> {
  private wanted: Wanted | null = null;
  /** what shows, where that is final; null before, and while a draft shows */
  private final: string | null = null;
  private running = false;
  private refining: AbortController | null = null;
  private readonly closed = new AbortController();

  constructor(private readonly ports: PainterPorts<Answer>) {}

  want(wanted: Wanted): void {
    if (wanted.key === this.wanted?.key) return;
    this.wanted = wanted;
    // A slider sketches as it goes: what is quick may end. What takes a network's time is given up.
    this.refining?.abort();
    const held = this.done ? null : this.ports.held(wanted);
    if (held) return this.show(wanted, held);
    this.ports.busy(!this.done);
    if (!this.running) void this.run();
  }

  /** The pane is gone: whatever is under way is not wanted any more. */
  close(): void {
    this.closed.abort();
    this.refining?.abort();
  }

  /** Whether what is wanted shows, and is final. */
  private get done(): boolean {
    return this.wanted === null || this.wanted.key === this.final;
  }

  private async run(): Promise<void> {
    this.running = true;
    while (!this.closed.signal.aborted && !this.done) {
      const wanted = this.wanted!;
      try {
        await this.bring(wanted);
      } catch (error) {
        // Of what is not wanted any more nobody needs to hear.
        if (this.closed.signal.aborted || this.wanted?.key !== wanted.key) continue;
        this.wanted = null;
        this.ports.busy(false);
        this.ports.failed(error);
      }
    }
    this.running = false;
  }

  private async bring(wanted: Wanted): Promise<void> {
    this.show(wanted, await this.ports.ask(wanted, true, this.closed.signal));
    if (this.done || this.wanted?.key !== wanted.key) return;
    const { signal } = (this.refining = new AbortController());
    try {
      this.show(wanted, await this.ports.ask(wanted, false, signal));
    } catch (error) {
      if (!signal.aborted) throw error;
    } finally {
      this.refining = null;
    }
  }

  private show(wanted: Wanted, answer: Answer): void {
    // Nothing is painted over what is wanted and final.
    if (this.closed.signal.aborted || this.done) return;
    this.ports.paint(wanted, answer);
    this.final = answer.draft ? null : wanted.key;
    if (!this.done) return;
    this.ports.busy(false);
    this.ports.finished(wanted, answer.milliseconds);
  }
}
