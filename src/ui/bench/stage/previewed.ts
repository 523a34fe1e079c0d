import type { Region } from '@/core/raster/region';
import type { PreviewOriginal, PreviewRequest } from '@/preview/client';
import type { Layer } from './layers';

/** An original as panes know it, whatever of it they show. */
export type PaneOriginal = Omit<PreviewOriginal, 'level' | 'size' | 'drawn'>;

/** What to ask the preview for, to see a region of a layer. */
export const previewed = (
  original: PaneOriginal,
  { recipe, level, against }: Layer,
  region: Region,
): PreviewRequest => ({
  original: {
    ...original,
    level,
    size: { width: recipe.original.width, height: recipe.original.height },
    drawn: recipe.original.drawn,
  },
  recipe,
  region,
  against,
});
