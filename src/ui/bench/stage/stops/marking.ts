import type { Size } from '@/core/raster/region';
import { useMarks } from '../../../data/comparing';
import { tell } from '../../../data/notices';
import type { WorkBench } from '../../use-work';
import { stageCommand } from '../command';
import type { OnPaper } from '../on-paper';
import { placeNow } from '../pointed';
import { useViewport } from '../viewport';
import { useStops } from './stop-store';
import { say } from '@/core/words/say';

/** Marks the place under the pointer, or in the middle of the stage. */
export const marking = stageCommand<['pointer' | 'middle']>();

/** Lets marks be set in the stage as it is. @param shown device pixels of a pane, and of it to one of the result */
export function useMarking(
  bench: WorkBench,
  onPaper: OnPaper | null,
  shown: { view: Size; scale: number },
): void {
  const { id, findings } = bench.job.piece;
  const { add } = useMarks(id);
  const { resolved } = bench;
  marking.useAs((where) => {
    if (bench.inside) tell(say`Marks are set on the page, not on a picture in it.`, 'note');
    if (!onPaper || !resolved.ok || bench.inside) return;
    const under = where === 'pointer' ? placeNow(resolved.recipe.target, shown) : null;
    const { x, y } = onPaper.toOriginal(under ?? useViewport.getState().centre);
    const within = (value: number, side: number) => Math.min(side - 1, Math.max(0, value));
    add(
      {
        page: findings.page,
        x: within(x, findings.width),
        y: within(y, findings.height),
        note: '',
      },
      { onSuccess: (mark) => useStops.setState({ at: say`mark ${mark.id}`, closer: false }) },
    );
  });
}
