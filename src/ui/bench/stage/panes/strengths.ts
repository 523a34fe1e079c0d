import type { Region, Size } from '@/core/raster/region';
import { placeOf, type Layer } from './layers';

/** How strengths are drawn over a picture: in a colour, where they are full as opaque as that, 0–1. */
export interface Tint {
  colour: readonly [number, number, number];
  alpha: number;
}

/** Draws strengths, 0–255, where they lie on a layer: in a colour over the picture, or as greys where there is none. */
export function drawStrengths(
  canvas: HTMLCanvasElement,
  strengths: Uint8Array,
  region: Region,
  layer: Layer,
  centre: { x: number; y: number },
  view: Size,
  tint: Tint | null,
): void {
  const image = new ImageData(region.width, region.height);
  for (let i = 0; i < strengths.length; i++) {
    const value = strengths[i]!;
    if (!tint) image.data.set([value, value, value, 255], 4 * i);
    else image.data.set([...tint.colour, Math.round(value * tint.alpha)], 4 * i);
  }
  const small = document.createElement('canvas');
  small.width = region.width;
  small.height = region.height;
  small.getContext('2d')!.putImageData(image, 0, 0);
  const context = canvas.getContext('2d')!;
  const { left, top } = placeOf(layer, centre, view);
  context.clearRect(0, 0, view.width, view.height);
  context.imageSmoothingEnabled = false;
  context.drawImage(
    small,
    left + region.x * layer.scale,
    top + region.y * layer.scale,
    region.width * layer.scale,
    region.height * layer.scale,
  );
}
