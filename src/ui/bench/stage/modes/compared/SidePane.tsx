import type { Size } from '@/core/raster/region';
import type { Resolved } from '@/core/recipe/resolve';
import { usePicked } from '../../../../parts/use-picked';
import { Pane } from '../../panes/Pane';
import { ProbeOverlay } from '../../probe/ProbeOverlay';
import { Rulers } from '../../panes/Rulers';
import { TrimLine } from '../../panes/TrimLine';
import { useViewport } from '../../viewport';
import type { Side } from './use-compared';

interface Props {
  side: Side;
  resolved: Extract<Resolved, { ok: true }>;
  /** device pixels of the pane */
  view: Size;
  onTrouble(words: string | null): void;
  onBusy?(busy: boolean): void;
}

/** One side of what is compared, with the trim of its paper. */
export function SidePane({
  side: { layer, coarse, name, result },
  resolved,
  view,
  onTrouble,
  onBusy,
}: Props) {
  const { centre } = usePicked(useViewport, 'centre');
  // The picture itself is no difference, not even coarsely.
  return (
    <>
      <Pane
        coarse={layer.against ? undefined : coarse}
        {...{ layer, centre, view, name, onTrouble }}
        onBusy={onBusy ?? ignore}
      />
      <TrimLine plan={resolved.plan} layer={layer} view={view} centre={centre} />
      <Rulers plan={resolved.plan} ppi={resolved.recipe.target.ppi} {...{ layer, view, centre }} />
      <ProbeOverlay {...{ layer, view, centre }} reached={result} />
    </>
  );
}

const ignore = () => {};
