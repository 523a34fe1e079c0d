import { useQueryClient } from '@tanstack/react-query';
import { tellingPlace } from '@/core/stops/telling';
import { mapsQuery } from '../../../../data/queries';
import type { WorkBench } from '../../../use-work';
import { useOnPaper } from '../../on-paper';
import { look, useViewport } from '../../viewport';

/**
 * Looks close enough to tell ways to enlarge apart, which only exact pixels do; and where they differ, if what is in view
 * is flat.
 */
export function useTellingPlace(bench: WorkBench): () => void {
  const client = useQueryClient();
  const onPaper = useOnPaper(bench);
  const { digest, findings } = bench.job.piece;
  return () => {
    const { zoom, centre } = useViewport.getState();
    const close = zoom.of === 'fit' ? ({ of: 'result', scale: 1 } as const) : zoom;
    look({ zoom: close });
    if (findings.vector || !onPaper) return;
    const at = onPaper.toOriginal(centre);
    client.fetchQuery(mapsQuery(digest, findings.page)).then(
      (maps) => {
        // One who moved on meanwhile chose a place of one's own.
        if (!maps || useViewport.getState().centre !== centre) return;
        const place = tellingPlace(maps, findings, at);
        if (place) look({ lookAt: { ...place, zoom: close, inMiddle: true } });
      },
      () => {},
    );
  };
}
