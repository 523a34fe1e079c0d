import type { Facts } from '@/core/output/facts';
import type { Recipe } from '@/core/recipe/recipe';
import type { Described } from './described';
import type { RowSums, SampleFile } from './samples';
import type { KeptExif } from './exif';
import type { PackedStrip, StripTask } from './strip';

/** A result that is to be written. */
export interface ToWrite {
  recipe: Recipe;
  /** profile that it carries, or null */
  profile: Uint8Array | null;
  /** how the files begin that it is written into before it is whole */
  part: string;
  /** what it says of the order that it belongs to */
  facts?: Facts | null | undefined;
  /** what it keeps of the original's EXIF */
  exif?: KeptExif | null | undefined;
  /** packs strips on other threads than this */
  packed: (task: StripTask) => Promise<PackedStrip>;
  signal?: AbortSignal | undefined;
  /** where a small copy goes, for looking at it from afar; while it is read back */
  small?: string;
}

/** What a finished file was found to be. */
export interface Verified {
  found: Described;
  /** what is wrong with it, in sentences */
  complaints: string[];
}

/** Is told what share is done, 0–1. */
export type ShareDone = (share: number) => void;

/** Writes one result in its format: begin, rows in any order from any thread, end, verify. */
export interface ResultWriter {
  /**
   * Lays the file out, and says where the rows of samples go.
   * @param goesOn whether some of them lie there already, of an attempt before
   */
  begin(goesOn?: boolean): Promise<SampleFile>;
  /** Finishes the file, once all rows lie in their places. @returns where it is */
  end(told: ShareDone): Promise<string>;
  /** Reads the finished file back and compares it with the order, and its pixels with their sums. */
  verify(computed: readonly RowSums[], told: ShareDone): Promise<Verified>;
  /** Removes what it wrote, and what was not moved away. */
  clear(): Promise<void>;
}
