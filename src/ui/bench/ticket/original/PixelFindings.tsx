import { Map as MapIcon } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { findingsInWords, type Finding } from '@/core/inspect/words';
import { Copyable } from '../../../parts/Copyable';
import { Fold } from '../../../parts/Fold';
import { ofStep, type WorkBench } from '../../use-work';
import { useOverlay } from '../../stage/overlays/overlay';
import { say } from '@/core/words/say';

/** What is wrong with the pixels, a figure and a sentence each; what is right is folded into one line. */
export function PixelFindings({ bench }: { bench: WorkBench }) {
  const all = findingsInWords(bench.job.piece.findings);
  const fine = all.filter(({ matters }) => !matters);
  return (
    <>
      <RepeatedPixels bench={bench} />
      <FindingList findings={all.filter(({ matters }) => matters)} />
      {fine.length > 0 && (
        <Fold
          title={say`No trouble with`}
          line={fine.map(({ name }) => name.toLowerCase()).join(', ')}
        >
          <FindingList findings={fine} />
        </Fold>
      )}
    </>
  );
}

function FindingList({ findings }: { findings: readonly Finding[] }) {
  const map = useOverlay((overlay) => overlay.map);
  if (findings.length === 0) return null;
  return (
    <ul className="findings">
      {findings.map((finding) => (
        <li key={finding.name} data-matters={finding.matters}>
          <span className="what">{finding.name}</span>
          <Copyable>{finding.figure}</Copyable>
          <span className="sentence">{finding.sentence}</span>
          {finding.map && (
            <button
              type="button"
              aria-pressed={map === finding.map}
              aria-label={say`Show ${finding.name.toLowerCase()} on the picture`}
              title={say`Show on the picture`}
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
        <b>{say`Its pixels are repeated.`}</b> {say`In truth it has`}{' '}
        <span className="figure">
          {grid.width} × {grid.height}
        </span>
        {say`, each ${factor.toFixed(Number.isInteger(factor) ? 0 : 2)} times as large.`}
      </p>
      <Button
        variant="quiet"
        size="sm"
        onClick={() =>
          change(taken ? say`Repeated pixels kept` : say`Back to its true grid`, (next, trial) => {
            next.framing.grid = taken ? null : grid;
            next.framing.crop = null;
            if (!taken)
              ofStep('enlarge', (step) => (step.settings.method = 'nearest'))(next, trial);
          })
        }
      >
        {taken ? say`Keep the repeated pixels` : say`Back to its true grid`}
      </Button>
    </div>
  );
}
