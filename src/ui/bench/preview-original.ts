import type { Findings } from '@/core/inspect/findings';
import type { Recipe } from '@/core/recipe/recipe';
import type { PreviewOriginal } from '@/preview/client';

/** An original as panes know it, whatever of it they show. */
export type PaneOriginal = Omit<PreviewOriginal, 'level' | 'size' | 'drawn'>;

/** An original as the stage asks the preview for it. */
export const paneOriginal = (digest: string, findings: Findings): PaneOriginal => ({
  digest,
  page: findings.page,
  depth: findings.bitDepth,
  channels: findings.alpha ? 4 : 3,
  profiled: findings.profile !== null,
});

/** An original at its own size, for what is computed on it beside the stage. */
export const wholeOriginal = (
  digest: string,
  findings: Findings,
  recipe: Recipe,
): PreviewOriginal => ({
  ...paneOriginal(digest, findings),
  level: 0,
  size: { width: recipe.original.width, height: recipe.original.height },
  drawn: recipe.original.drawn,
});
