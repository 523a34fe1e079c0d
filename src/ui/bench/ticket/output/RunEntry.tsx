import { format } from 'date-fns';
import { Check, Download, TriangleAlert } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { formatBytes, formatNumber, formatSeconds } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import { artifactOf, isOpen, runTitle, type Artifact, type Run } from '@/core/shop/task';
import { artifactAddress } from '../../../data/api';
import { useCancelTask, useThroughput } from '../../../data/queries';
import { Progress } from '../../../parts/Progress';
import { timeLeft } from '../../../parts/time-left';

export const RUN_WORDS: Record<Run['state'], string> = {
  queued: 'waiting',
  running: 'running',
  done: 'ready',
  failed: 'failed',
  cancelled: 'cancelled',
};

/** A run of a trial: how far it is, what its file was found to be, and where to have it. */
export function RunEntry({ run }: { run: Run }) {
  const cancel = useCancelTask();
  const { data: throughput } = useThroughput();
  const file = artifactOf(run, 'result');
  const open = isOpen(run);
  return (
    <div className="run" data-state={run.state}>
      <div className="top">
        <span>
          <b>{runTitle(run.payload)}</b>{' '}
          <span className={run.state === 'failed' ? 'trouble' : 'soft'}>
            {RUN_WORDS[run.state]}
          </span>
        </span>
        <span className="figure">
          {run.state === 'running' &&
            `${Math.round(run.progress * 100)} % · ${timeLeft(run, throughput)}`}
          {run.result &&
            file &&
            `${formatBytes(file.bytes)} · ${formatSeconds(run.result.seconds)}`}
        </span>
      </div>
      {open && (
        <div className="d-flex gap-2 align-items-center">
          <Progress className="flex-grow-1" share={run.progress} label="Progress of the run" />
          <Button
            variant="quiet"
            size="sm"
            disabled={cancel.isPending}
            onClick={() => cancel.mutate(run.id)}
          >
            Cancel
          </Button>
        </div>
      )}
      {run.error && <p className="field-trouble">{run.error}</p>}
      {run.result && file && <ReadBack run={run} file={file} />}
    </div>
  );
}

/** What the written file says of itself, read back after it was written. */
function ReadBack({ run, file }: { run: Run; file: Artifact }) {
  const result = run.result!;
  const cm = (pixels: number, ppi: number) => formatNumber((pixels / ppi) * (MM_PER_INCH / 10), 2);
  const lines = [
    `${result.width} × ${result.height} pixels`,
    `${formatNumber(result.ppi.x)} ppi: prints at ${cm(result.width, result.ppi.x)} × ${cm(result.height, result.ppi.y)} cm`,
  ];
  if (result.profile) lines.push(`Profile ${result.profile}`);
  return (
    <>
      <ul className="checks" aria-label="Read back from the file">
        {lines.map((line) => (
          <li key={line}>
            <Check size={14} aria-hidden />
            {line}
          </li>
        ))}
        {!result.profile && (
          <li className="caution">
            <TriangleAlert size={14} aria-hidden />
            No profile: a printer will guess its colours
          </li>
        )}
      </ul>
      {file.goneAt !== null ? (
        <p className="soft mb-0">
          {file.fileName} was cleared away {format(file.goneAt, 'd MMM')} to make room. Run the
          trial again: it gives the same bytes.
        </p>
      ) : (
        <DownloadLink run={run} file={file} />
      )}
    </>
  );
}

const DownloadLink = ({ run, file }: { run: Run; file: Artifact }) => (
  <a
    className="btn btn-quiet btn-sm d-flex align-items-center gap-2"
    href={artifactAddress(run.id, 'result')}
    download
  >
    <Download size={14} aria-hidden />
    <span className="text-truncate" title={file.fileName}>
      {file.fileName}
    </span>
  </a>
);
