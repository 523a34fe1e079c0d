import { Form, ProgressBar } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import type { WorkBench } from '../../use-work';
import { useView } from '../../view-store';
import { useInventions, useInventionSearch } from '../../stage/use-inventions';

/** Where a network says more than the file: shown over the picture, its worst places to look at. */
export function Inventions({ bench }: { bench: WorkBench }) {
  const { inventions: shown, set } = useView();
  const { learned, inventions } = useInventions(bench);
  useInventionSearch(bench);
  if (!learned) return null;
  const found = inventions?.found;
  return (
    <div className="inventions">
      <Form.Check
        type="switch"
        id="inventions"
        label="Show what may be invented"
        checked={shown}
        onChange={() => set({ inventions: !shown })}
      />
      {shown && inventions?.trouble && <p className="trouble mb-0">{inventions.trouble}</p>}
      {shown && inventions && !found && !inventions.trouble && (
        <ProgressBar now={100 * inventions.share} aria-label="Progress of the search" />
      )}
      {shown && found && (
        <>
          <p className="reason">
            Half of the picture is expected to be off by less than{' '}
            {formatNumber(middle(found.levels), 1)} levels. Look at the worst places:
          </p>
          <div className="worst" role="group" aria-label="Worst places">
            {found.worst.map(({ x, y, levels }, i) => (
              <button
                key={`${x} ${y}`}
                type="button"
                className="btn btn-quiet btn-sm"
                aria-label={`Place ${i + 1}, ${formatNumber(levels, 0)} levels`}
                onClick={() => set({ lookAt: { x, y } })}
              >
                {i + 1} <span className="figure">±{formatNumber(levels, 0)}</span>
              </button>
            ))}
          </div>
        </>
      )}
    </div>
  );
}

const middle = (levels: Float32Array): number =>
  [...levels].sort((a, b) => a - b)[levels.length >> 1]!;
