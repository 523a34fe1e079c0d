import { Map as MapIcon } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { findingsInWords } from '@/core/inspect/words';
import { Copyable } from '../../../parts/Copyable';
import { ofStep, type WorkBench } from '../../use-work';
import { useOverlay } from '../../stage/overlays/overlay';

/** What is wrong, and right, with the pixels: a figure and a sentence each. */
export function PixelFindings({ bench }: { bench: WorkBench }) {
  const { findings } = bench.job.piece;
  const map = useOverlay((overlay) => overlay.map);
  return (
    <>
      <RepeatedPixels bench={bench} />
      <ul className="findings">
        {findingsInWords(findings).map((finding) => (
          <li key={finding.name} data-matters={finding.matters}>
            <span className="what">{finding.name}</span>
            <Copyable>{finding.figure}</Copyable>
            <span className="sentence">{finding.sentence}</span>
            {finding.map && (
              <button
                type="button"
                aria-pressed={map === finding.map}
                aria-label={`Show ${finding.name.toLowerCase()} on the picture`}
                title="Show on the picture"
                onClick={() =>
                  useOverlay.setState({ map: map === finding.map ? null : finding.map! })
                }
              >
                <MapIcon size={14} />
              </button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

/** Offers to take a blown-up picture back to its true grid. */
function RepeatedPixels({ bench }: { bench: WorkBench }) {
  const { work, change, job } = bench;
  const { grid, width } = job.piece.findings;
  if (!grid) return null;
  const factor = width / grid.width;
  const taken = work.framing.grid !== null;
  return (
    <div className="offer">
      <p className="mb-2">
        <b>Its pixels are repeated.</b> In truth it has{' '}
        <span className="figure">
          {grid.width} × {grid.height}
        </span>
        , each {factor.toFixed(Number.isInteger(factor) ? 0 : 2)} times as large.
      </p>
      <Button
        variant="quiet"
        size="sm"
        onClick={() =>
          change(taken ? 'Pixels as they came' : 'Back to its true grid', (next, trial) => {
            next.framing.grid = taken ? null : grid;
            next.framing.crop = null;
            if (!taken)
              ofStep('enlarge', (step) => (step.settings.method = 'nearest'))(next, trial);
          })
        }
      >
        {taken ? 'Leave it as it came' : 'Take it back to its true grid'}
      </Button>
    </div>
  );
}
