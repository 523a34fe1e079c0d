import { ChevronDown, ChevronUp } from 'lucide-react';
import type { Size } from '@/core/raster/region';
import type { PaneOriginal } from '../../preview-original';
import { useOpen } from '../../ticket/open';
import type { WorkBench } from '../../use-work';
import type { Compared } from '../modes/compared/use-compared';
import { Stops } from '../stops/Stops';
import { useLower } from './lower-store';
import { Measured } from './Measured';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  original: PaneOriginal;
  compared: Compared;
  /** device pixels of a pane, and of it to one of the result */
  pane: Size;
  scale: number;
}

/** Under the stage while Compare is open: places to look at, and what is measured in what shows; it folds away. */
export function Lower(props: Props) {
  const comparing = useOpen((open) => open.section === 'compare');
  const folded = useLower((lower) => lower.folded);
  if (!comparing) return null;
  const Icon = folded ? ChevronUp : ChevronDown;
  const words = folded ? say`Show stops and probe` : say`Fold away`;
  return (
    <aside className="lower" aria-label={say`Stops and probe`} data-folded={folded}>
      <button
        type="button"
        className="btn btn-quiet btn-sm fold-away"
        aria-expanded={!folded}
        aria-label={words}
        title={words}
        onClick={() => useLower.setState({ folded: !folded })}
      >
        {folded && say`Stops and probe`}
        <Icon size={15} aria-hidden />
      </button>
      {!folded && (
        <>
          <Stops {...props} />
          <Measured {...props} />
        </>
      )}
    </aside>
  );
}
