import type { Size } from '@/core/raster/region';
import { lineOf, type ReadRow, type SampleForm } from './samples';

/**
 * The rows of a picture on their way, brought to a smaller size: means of squares, which share the picture out evenly.
 * A row that it gives holds until the next one is asked for.
 */
export class RowMeans {
  private readonly columns: Uint32Array;
  private readonly across: Uint32Array;
  private readonly sums: Float64Array;
  private readonly line: Buffer;
  private readonly samples: Buffer | Uint16Array;
  private begun = 0;
  private count = 0;

  /** @param small no side longer than the form's */
  constructor(
    private readonly form: SampleForm,
    private readonly small: Size,
  ) {
    const { size, channels, depth } = form;
    this.columns = Uint32Array.from({ length: size.width }, (_, x) =>
      Math.floor((x * small.width) / size.width),
    );
    this.across = new Uint32Array(small.width);
    for (const column of this.columns) this.across[column]!++;
    this.sums = new Float64Array(small.width * channels);
    this.line = Buffer.alloc(lineOf({ ...form, size: small }));
    const { buffer, byteOffset, length } = this.line;
    this.samples = depth === 8 ? this.line : new Uint16Array(buffer, byteOffset, length / 2);
  }

  /** Takes the next row. @returns the small row before it, once all of that is there */
  add({ y, row }: ReadRow): ReadRow | null {
    const at = Math.floor((y * this.small.height) / this.form.size.height);
    const finished = at === this.begun ? null : this.finish();
    this.begun = at;
    this.sum(row);
    this.count++;
    return finished;
  }

  /** @returns the last small row, where there is one */
  end(): ReadRow | null {
    return this.count > 0 ? this.finish() : null;
  }

  private finish(): ReadRow {
    const { samples, sums, across, count } = this;
    const { channels } = this.form;
    for (let i = 0; i < sums.length; i++) {
      samples[i] = Math.round(sums[i]! / (count * across[Math.floor(i / channels)]!));
    }
    sums.fill(0);
    this.count = 0;
    return { y: this.begun, row: this.line };
  }

  private sum(row: Uint8Array): void {
    const { sums, columns } = this;
    const { channels, depth } = this.form;
    const aligned = depth === 8 || row.byteOffset % 2 === 0 ? row : Uint8Array.from(row);
    const values =
      depth === 8
        ? aligned
        : new Uint16Array(aligned.buffer, aligned.byteOffset, aligned.length / 2);
    for (let x = 0, i = 0; x < columns.length; x++) {
      const at = columns[x]! * channels;
      for (let c = 0; c < channels; c++, i++) sums[at + c]! += values[i]!;
    }
  }
}
