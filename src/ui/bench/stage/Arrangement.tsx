import type { Size } from '@/core/raster/region';
import type { Resolved } from '@/core/recipe/resolve';
import type { WorkBench } from '../use-work';
import { useView } from '../view-store';
import { CropOnPicture } from './CropOnPicture';
import { PaperOnPicture } from './PaperOnPicture';
import type { PaneOriginal } from '../preview-original';

/** Whether the stage is for laying something on the whole picture, rather than for comparing. */
export const arranges = ({
  section,
  arranging,
  cropping,
}: ReturnType<typeof useView.getState>): boolean =>
  (section === 'size' && arranging) || (section === 'original' && cropping);

interface ArrangementProps {
  bench: WorkBench;
  resolved: Extract<Resolved, { ok: true }>;
  original: PaneOriginal;
  view: Size;
  onTrouble(words: string | null): void;
}

/** The paper, or a part, on the whole picture. */
export function Arrangement({ bench, resolved, original, view, onTrouble }: ArrangementProps) {
  const section = useView((state) => state.section);
  const shared = { bench, recipe: resolved.recipe, original, view, onTrouble };
  return section === 'original' ? (
    <CropOnPicture {...shared} />
  ) : (
    <PaperOnPicture {...shared} plan={resolved.plan} />
  );
}
