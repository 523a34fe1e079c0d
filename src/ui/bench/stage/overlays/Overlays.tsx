import { useMemo } from 'react';
import type { Size } from '@/core/raster/region';
import { usePicked } from '../../../parts/use-picked';
import { useOpen } from '../../ticket/open';
import type { WorkBench } from '../../use-work';
import type { Layer } from '../panes/layers';
import { paperPlace, placesOf } from '../panes/places';
import { useViewport } from '../viewport';
import { CellMap } from './CellMap';
import { FaceMarks } from './FaceMarks';
import { MapOverlay } from './MapOverlay';
import { useOverlay } from './overlay';
import { PlacedMark } from './PlacedMark';
import { RimMarks } from './RimMarks';
import { useInventions } from './use-inventions';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  layer: Layer;
  view: Size;
}

/** Findings and what is invented, part by part over the picture. */
export function Overlays({ bench, layer, view }: Props) {
  const { centre } = usePicked(useViewport, 'centre');
  const section = useOpen((open) => open.section);
  const { map, inventions, rims, placed } = usePicked(
    useOverlay,
    ...(['map', 'inventions', 'rims', 'placed'] as const),
  );
  const invented = useInventions(bench).inventions?.found ?? null;
  const shares = useMemo(() => [...(invented?.levels ?? [])].map(shareOf), [invented]);
  const mapped = section === 'original' && map;
  const shown = section === 'enlarge' && inventions && invented;
  if (section === 'finish' && rims) {
    // A small rendering has no rims of the result's.
    return layer.exact ? <RimMarks {...{ bench, layer, view }} /> : null;
  }
  if (section === 'original' && placed !== null && bench.original.vector) {
    const paper = paperPlace(layer, view, centre);
    return <PlacedMark {...{ bench, paper }} picture={placed} />;
  }
  const places = mapped || shown ? placesOf(bench, layer, view, centre) : null;
  if (!places) return null;
  const { digest, findings } = bench.job.piece;
  const { original: place, paper } = places;
  return (
    <>
      {mapped && map === 'faces' && (
        <FaceMarks {...{ place, paper }} faces={findings.faces} size={findings} />
      )}
      {mapped && map !== 'faces' && (
        <MapOverlay {...{ digest, map, place, paper }} page={findings.page} />
      )}
      {shown && (
        <CellMap
          columns={shown.columns}
          rows={shown.rows}
          {...{ shares, place, paper }}
          words={{
            title: say`Invented`,
            least: say`by next to nothing`,
            most: say`off by 12 levels and more`,
          }}
        />
      )}
    </>
  );
}

/** Expected to be off by 12 levels is as bad as can be; what is below one is not seen. */
const shareOf = (levels: number): number => Math.min(1, Math.max(0, (levels - 1) / 11));
