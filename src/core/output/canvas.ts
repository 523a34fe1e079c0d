import { COLOURS, type DeviceSpace } from '../colour/space';
import type { Region, Size } from '../raster/region';

/** A colour in the samples of a file: as many as its space has, 0–255. */
export type SampleColour = readonly number[];

/** What nothing is printed of, and what is printed in full, in each space. */
export const BARE: Record<DeviceSpace, SampleColour> = {
  ...{ rgb: [255, 255, 255], grey: [255], cmyk: [0, 0, 0, 0] },
};
export const BLACK: Record<DeviceSpace, SampleColour> = {
  ...{ rgb: [0, 0, 0], grey: [0], cmyk: [0, 0, 0, 255] },
};

/** A sheet of interleaved 8-bit samples that pictures, patches and letters are laid on. What lies beyond it is left out. */
export class Canvas {
  readonly samples: Uint8Array;
  readonly channels: number;

  constructor(
    readonly size: Size,
    readonly space: DeviceSpace,
  ) {
    this.channels = COLOURS[space];
    this.samples = new Uint8Array(size.width * size.height * this.channels);
    this.fill({ x: 0, y: 0, ...size }, BARE[space]);
  }

  fill({ x, y, width, height }: Region, colour: SampleColour): void {
    const [left, right] = [Math.max(0, x), Math.min(this.size.width, x + width)];
    for (let v = Math.max(0, y); v < Math.min(this.size.height, y + height); v++) {
      for (let u = left, at = this.at(left, v); u < right; u++) {
        for (const one of colour) this.samples[at++] = one;
      }
    }
  }

  /** Lays a picture of the same colours with its upper left corner at a place. */
  put(picture: Uint8Array, size: Size, x: number, y: number): void {
    const line = size.width * this.channels;
    const from = Math.max(0, -x);
    const count = Math.min(size.width, this.size.width - x) - from;
    if (count <= 0) return;
    for (let v = Math.max(0, -y); v < size.height && y + v < this.size.height; v++) {
      const start = v * line + from * this.channels;
      const row = picture.subarray(start, start + count * this.channels);
      this.samples.set(row, this.at(x + from, y + v));
    }
  }

  /** Covers it with a colour as far as a mask says, 0–255. */
  cover(mask: Uint8Array, size: Size, x: number, y: number, colour: SampleColour): void {
    for (let v = Math.max(0, -y); v < size.height && y + v < this.size.height; v++) {
      for (let u = Math.max(0, -x); u < size.width && x + u < this.size.width; u++) {
        const share = mask[v * size.width + u]! / 255;
        if (share === 0) continue;
        const at = this.at(x + u, y + v);
        for (let c = 0; c < this.channels; c++) {
          const was = this.samples[at + c]!;
          this.samples[at + c] = Math.round(was + (colour[c]! - was) * share);
        }
      }
    }
  }

  private at(x: number, y: number): number {
    return (y * this.size.width + x) * this.channels;
  }
}
