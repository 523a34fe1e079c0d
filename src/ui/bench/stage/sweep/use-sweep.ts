import { useEffect, useMemo } from 'react';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { nextUnseen, see, seenShare } from '@/core/stops/sweep';
import { formatNumber } from '@/core/measure/format';
import { NOTHING_KEPT, useComparing, useNoteSweep } from '../../../data/comparing';
import { tell } from '../../../data/notices';
import { usePicked } from '../../../parts/use-picked';
import type { WorkBench } from '../../use-work';
import { stageCommand } from '../command';
import { look, useViewport } from '../viewport';
import { keepNow, keepSoon } from './keep-seen';
import { packed, stateOf, together, unpacked, unswept, useSweeps, type Swept } from './sweep-store';
import { say } from '@/core/words/say';

/** So long a part must show its final pixels to count as seen, in milliseconds. */
const LOOKED_MS = 300;

/** What of the trial on the bench was seen, as it stands; what was seen of another result doesn't count. */
export function useSwept({ kept, trial, job }: WorkBench): Swept | null {
  const recipe = kept.ok ? kept.recipe : null;
  const state = useMemo(() => recipe && stateOf(recipe), [recipe]);
  const here = useSweeps((sweeps) => sweeps.swept[trial.id]);
  const sweeps = useComparing(job.piece.id).data?.sweeps;
  return useMemo(() => {
    if (!recipe || !state) return null;
    const none = unswept(trial.id, state, recipe);
    const own = here?.state === state ? here : none;
    const kept = sweeps?.map((one) => unpacked(one, none)).find((one) => one !== null);
    return kept ? together(own, kept) : own;
  }, [here, sweeps, recipe, state, trial.id]);
}

export interface Shown {
  /** whether the result's own pixels show, at 1:1 or closer */
  close: boolean;
  /** in which part of its pane, in shares of it; null where it doesn't show */
  shows: Rect | null;
  /** device pixels of the pane, and of it to one of the result */
  pane: Size;
  scale: number;
}

/** Notes what of the result is seen, for as long as one looks at it, and keeps it with the picture. */
export function useSweeping(bench: WorkBench, { close, shows, pane, scale }: Shown): void {
  const swept = useSwept(bench);
  const { centre } = usePicked(useViewport, 'centre');
  const target = bench.kept.ok ? bench.kept.recipe.target : null;
  useEffect(() => {
    if (!close || !shows || !swept || !target) return;
    const timer = setTimeout(() => {
      const [across, down] = [scale * target.width, scale * target.height];
      const part = {
        x: centre.x + ((shows.x - 0.5) * pane.width) / across,
        y: centre.y + ((shows.y - 0.5) * pane.height) / down,
        width: (shows.width * pane.width) / across,
        height: (shows.height * pane.height) / down,
      };
      const seen = see(swept.seen, swept.grid, part);
      if (seen === swept.seen) return;
      useSweeps.setState(({ swept: all }) => ({
        swept: { ...all, [swept.trial]: { ...swept, seen } },
      }));
    }, LOOKED_MS);
    return () => clearTimeout(timer);
  }, [close, shows, pane, scale, centre, swept, target]);

  const here = useSweeps((sweeps) => sweeps.swept[bench.trial.id]);
  const piece = bench.job.piece.id;
  const noteKept = useNoteSweep(piece);
  useEffect(() => {
    if (here && piece !== NOTHING_KEPT) keepSoon(piece, packed(here), noteKept);
  }, [here, piece, noteKept]);
  useEffect(() => keepNow, [piece]);
}

/** Goes to the next part that was not seen yet, at 1:1. */
export const sweeping = stageCommand<[]>();

/** Lets the sweep go on in the stage as it is. */
export function useSweepOn(bench: WorkBench, { shows, pane }: Pick<Shown, 'shows' | 'pane'>): void {
  const swept = useSwept(bench);
  const target = bench.kept.ok ? bench.kept.recipe.target : null;
  sweeping.useAs(() => {
    if (!swept || !target) return;
    const at = shows ?? { x: 0, y: 0, width: 1, height: 1 };
    const [across, down] = [pane.width / target.width, pane.height / target.height];
    const next = nextUnseen(swept.seen, swept.grid, {
      width: at.width * across,
      height: at.height * down,
    });
    if (!next) {
      tell(say`All of ${bench.trial.name} was seen at 1:1.`, 'note');
      return;
    }
    // The result's part of the pane goes there, not the pane's middle.
    look({
      zoom: { of: 'result', scale: 1 },
      centre: {
        x: next.x - (at.x + at.width / 2 - 0.5) * across,
        y: next.y - (at.y + at.height / 2 - 0.5) * down,
      },
    });
  });
}

/** In percent, with a digit more while it is little; all of it only where all is. */
export function seenPercent({ seen }: Swept): string {
  const percent = 100 * seenShare(seen);
  return percent < 10
    ? formatNumber(Math.floor(10 * percent) / 10, 1)
    : String(Math.floor(percent));
}
