/** How a filtered layer is blended over luminance; all in 0–1, a layer of 0.5 changes nothing. */
export const BLENDS = ['overlay', 'soft light', 'linear light'] as const;
export type Blend = (typeof BLENDS)[number];

/**
 * What a blend makes of a backdrop under a layer: overlay and soft light as in W3C Compositing and Blending Level 1
 * (2015), linear light as backdrop + 2 x layer - 1.
 */
export const BLENDED: Record<Blend, (backdrop: number, layer: number) => number> = {
  overlay: (backdrop, layer) =>
    backdrop <= 0.5 ? 2 * backdrop * layer : 1 - 2 * (1 - backdrop) * (1 - layer),
  'soft light': (backdrop, layer) => {
    if (layer <= 0.5) return backdrop - (1 - 2 * layer) * backdrop * (1 - backdrop);
    const bent =
      backdrop <= 0.25 ? ((16 * backdrop - 12) * backdrop + 4) * backdrop : Math.sqrt(backdrop);
    return backdrop + (2 * layer - 1) * (bent - backdrop);
  },
  'linear light': (backdrop, layer) => backdrop + 2 * layer - 1,
};
