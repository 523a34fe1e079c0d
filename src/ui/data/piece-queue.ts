import { patchBetween } from '@/core/shop/change';
import { clashOf } from '@/core/shop/clash';
import type { Piece, PieceChange, PieceMove, RunRequest } from '@/core/shop/job';
import type { Run } from '@/core/shop/task';
import type { Work } from '@/core/recipe/work';
import { say } from '@/core/words/say';

/** The server's side of a piece. */
export interface PieceCalls {
  change(id: number, change: PieceChange): Promise<Piece>;
  move(id: number, move: PieceMove): Promise<Piece>;
  run(id: number, request: RunRequest): Promise<Run>;
}

/** What a queue tells of itself. */
export interface PieceState {
  /** the piece with all that is on its way */
  shown: Piece;
  /** changes and moves that are on their way */
  changing: number;
  /** runs that are being asked for */
  asking: number;
}

/** To an entry of the history, or by one back or on. */
export type Way = { to: number } | { by: -1 | 1 };

type Item =
  | { kind: 'change'; label: string; change: (work: Work) => void }
  | { kind: 'move'; way: Way }
  | { kind: 'run'; trialId: string; after: number | null };

/** Something that was not done, since the picture was changed elsewhere. */
export interface Dropped {
  label: string;
  /** does it once more; null where it would hit something else now */
  again: (() => void) | null;
}

interface Ears {
  /** a run was queued */
  queued(run: Run): void;
  /** something was refused */
  failed(error: Error): void;
  /** the piece was changed elsewhere; it is shown as it is now, with all of ours that goes together with it */
  met(before: Piece, now: Piece, dropped: readonly Dropped[]): void;
  /** reads what the server says of the piece in an error, if anything */
  pieceIn(error: Error): Piece | null;
  /** whether an error says that nobody answered: what was to be written is kept and offered again */
  unanswered(error: Error): boolean;
  /** nobody answers, and so many changes and moves wait */
  waits(count: number): void;
  /** somebody does again. @param kept whether the first that waited went through */
  answers(kept: boolean): void;
  /** comes back when it is time to offer again */
  pause(tries: number): Promise<void>;
}

/**
 * What is written to one picture, strictly one after the other: each names the revision that the one before
 * left. It belongs to that picture, whichever lies on the bench meanwhile. Changes are functions of the work,
 * so that they hold for whatever the work has become when their turn comes.
 */
export class PieceQueue {
  private items: Item[] = [];
  private busy = false;
  /** the newest that was read while something was on its way */
  private read: Piece | null = null;
  private state: PieceState;
  private readonly ears = new Set<() => void>();

  constructor(
    private piece: Piece,
    private readonly calls: PieceCalls,
    private readonly told: Ears,
  ) {
    this.state = { shown: piece, changing: 0, asking: 0 };
  }

  readonly subscribe = (heard: () => void): (() => void) => {
    this.ears.add(heard);
    return () => this.ears.delete(heard);
  };

  readonly snapshot = (): PieceState => this.state;

  change(label: string, change: (work: Work) => void): void {
    this.push({ kind: 'change', label, change });
  }

  move(way: Way): void {
    this.push({ kind: 'move', way });
  }

  run(trialId: string, after: number | null = null): void {
    this.push({ kind: 'run', trialId, after });
  }

  /** The piece as it was read anew; while something is on its way that answer is the newer one. */
  adopt(piece: Piece): void {
    if (this.busy || this.items.length > 0) {
      this.read = piece;
      return;
    }
    const before = this.piece;
    if (piece.revision < before.revision) return;
    this.piece = piece;
    this.tell();
    if (piece.revision > before.revision) this.told.met(before, piece, []);
  }

  private push(item: Item): void {
    this.items.push(item);
    this.tell();
    if (!this.busy) void this.send();
  }

  private async send(): Promise<void> {
    this.busy = true;
    let tries = 0;
    for (let item = this.items[0]; item; item = this.items[0]) {
      try {
        await this.sendOne(item);
        this.items.shift();
        if (tries > 0) this.told.answers(true);
        tries = 0;
      } catch (error) {
        // A run is not asked for twice: the one that was not answered may have been queued.
        if (item.kind !== 'run' && this.told.unanswered(error as Error)) {
          this.tell();
          this.told.waits(this.state.changing);
          await this.told.pause(tries++);
          continue;
        }
        const waited = tries > 0;
        tries = 0;
        const now = this.told.pieceIn(error as Error);
        const kept = now !== null && waited && this.wentThrough(item, now);
        if (waited) this.told.answers(kept);
        if (kept) {
          this.piece = now;
          this.items.shift();
        } else if (now) this.meet(now);
        else {
          this.items.shift();
          this.told.failed(error as Error);
        }
      }
      this.tell();
    }
    this.busy = false;
    const { read } = this;
    this.read = null;
    if (read) this.adopt(read);
  }

  /**
   * Takes the piece over as it became elsewhere. Changes that touch nothing of it still wait; from the first on that
   * doesn't go together with it, nothing is done: what follows was meant for what would have been, and a run would make
   * something that nobody saw.
   */
  private meet(now: Piece): void {
    const before = this.piece;
    const theirs = patchBetween(before.work, now.work);
    const kept: Item[] = [];
    const dropped: Dropped[] = [];
    let work = before.work;
    for (const item of this.items) {
      if (item.kind !== 'change') {
        dropped.push({
          label: item.kind === 'run' ? say`The run` : say`Undo or redo`,
          again: null,
        });
        continue;
      }
      const { label, change } = item;
      const next = changed(work, change);
      const clash = clashOf(patchBetween(work, next), theirs);
      work = next;
      if (clash === 'none' && dropped.length === 0) kept.push(item);
      else {
        const again = () => this.change(label, change);
        dropped.push({ label, again: clash === 'place' ? null : again });
      }
    }
    this.items = kept;
    this.piece = now;
    this.told.met(before, now, dropped);
  }

  /** Whether a piece is what an item would have made of it: only the answer to it was lost. */
  private wentThrough(item: Item, now: Piece): boolean {
    if (now.revision !== this.piece.revision + 1) return false;
    if (item.kind === 'move') return now.current === this.targetOf(item.way);
    const wanted = item.kind === 'change' && changed(this.piece.work, item.change);
    return wanted !== false && patchBetween(wanted, now.work).length === 0;
  }

  /** The entry of the history that a way leads to; none beyond its ends. */
  private targetOf(way: Way): number | undefined {
    const { history, current } = this.piece;
    const at = history.findIndex((entry) => entry.id === current);
    return 'to' in way ? way.to : history[at + way.by]?.id;
  }

  private async sendOne(item: Item): Promise<void> {
    const { id, revision, work } = this.piece;
    if (item.kind === 'run') {
      this.told.queued(
        await this.calls.run(id, { revision, trialId: item.trialId, after: item.after }),
      );
    } else if (item.kind === 'move') {
      const to = this.targetOf(item.way);
      if (to !== undefined) this.piece = await this.calls.move(id, { revision, to });
    } else {
      const patch = patchBetween(work, changed(work, item.change));
      const { label } = item;
      if (patch.length > 0) this.piece = await this.calls.change(id, { revision, label, patch });
    }
  }

  private tell(): void {
    const changes = this.items.filter((item) => item.kind === 'change');
    const work = changes.reduce((at, { change }) => changed(at, change), this.piece.work);
    const asking = this.items.filter((item) => item.kind === 'run').length;
    this.state = {
      shown: { ...this.piece, work },
      changing: this.items.length - asking,
      asking,
    };
    this.ears.forEach((heard) => heard());
  }
}

function changed(work: Work, change: (work: Work) => void): Work {
  const copy = structuredClone(work);
  change(copy);
  return copy;
}
