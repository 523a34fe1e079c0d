import type { Size } from '@/core/raster/region';
import type { Settled } from '@/core/treatment/settle';
import type { WorkBench } from '../use-work';
import { useView } from '../view-store';
import { CropOnPicture } from './CropOnPicture';
import { PaperOnPicture } from './PaperOnPicture';
import type { PaneOriginal } from './previewed';

/** Whether the stage is for laying something on the whole picture, rather than for comparing. */
export const arranges = ({
  section,
  arranging,
  cropping,
}: ReturnType<typeof useView.getState>): boolean =>
  (section === 'size' && arranging) || (section === 'original' && cropping);

interface ArrangementProps {
  bench: WorkBench;
  settled: Extract<Settled, { ok: true }>;
  original: PaneOriginal;
  view: Size;
  onTrouble(words: string | null): void;
}

/** The paper, or a part, on the whole picture. */
export function Arrangement({ bench, settled, original, view, onTrouble }: ArrangementProps) {
  const section = useView((state) => state.section);
  const shared = { bench, recipe: settled.recipe, original, view, onTrouble };
  return section === 'original' ? (
    <CropOnPicture {...shared} />
  ) : (
    <PaperOnPicture {...shared} plan={settled.plan} />
  );
}
