import { useOpen } from '../../../ticket/open';
import { useOverlay } from '../../overlays/overlay';
import { useLooking } from '../mode';

/**
 * Whether the original is shown in place of the result: while its key is held, while findings of it are
 * looked at, and until the first result is there.
 */
export function useHolding(shown: boolean): boolean {
  const held = useLooking((looking) => looking.holding);
  const mapped = useOverlay((overlay) => overlay.map !== null);
  const original = useOpen((open) => open.section === 'original');
  return held || !shown || (original && mapped);
}
