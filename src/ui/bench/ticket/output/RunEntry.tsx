import { format } from 'date-fns';
import { Check, TriangleAlert } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { formatBytes, formatNumber, formatSeconds } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import { madeAgainWords } from '@/core/shop/record';
import { artifactOf, runTitle, type Artifact, type Run } from '@/core/shop/task';
import { useRunAgain, useThroughput } from '../../../data/queries';
import { timeLeft } from '../../../parts/time-left';
import { DownloadLink } from './DownloadLink';
import { OnItsWay } from './OnItsWay';
import { say } from '@/core/words/say';

export const RUN_WORDS: Record<Run['state'], string> = {
  queued: say`waiting`,
  running: say`running`,
  done: say`ready`,
  failed: say`failed`,
  cancelled: say`cancelled`,
};

/** A run of a trial: how far it is, what its file was found to be, and where to have it. */
export function RunEntry({ run }: { run: Run }) {
  const { data: throughput } = useThroughput();
  const file = artifactOf(run, 'result');
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
      <OnItsWay task={run} label={say`Progress of the run`} />
      {run.error && <p className="field-trouble">{run.error}</p>}
      {run.result && file && <ReadBack run={run} file={file} />}
    </div>
  );
}

/** What the written file says of itself, read back after it was written. */
function ReadBack({ run, file }: { run: Run; file: Artifact }) {
  const result = run.result!;
  const again = useRunAgain();
  const before = run.payload.again;
  const cm = (pixels: number, ppi: number) => formatNumber((pixels / ppi) * (MM_PER_INCH / 10), 2);
  const lines = [
    say`${result.width} × ${result.height} pixels`,
    say`${formatNumber(result.ppi.x)} ppi: prints at ${cm(result.width, result.ppi.x)} × ${cm(result.height, result.ppi.y)} cm`,
  ];
  if (result.profile) lines.push(say`Profile ${result.profile}`);
  return (
    <>
      <ul className="checks" aria-label={say`Read back from the file`}>
        {lines.map((line) => (
          <li key={line}>
            <Check size={14} aria-hidden />
            {line}
          </li>
        ))}
        {before?.digest && (
          <li className={before.digest === file.digest ? '' : 'caution'}>
            {before.digest === file.digest ? (
              <Check size={14} aria-hidden />
            ) : (
              <TriangleAlert size={14} aria-hidden />
            )}
            {before.digest === file.digest
              ? say`The same bytes as before`
              : say`Other bytes than before: it was made by another core`}
          </li>
        )}
        {!result.profile && (
          <li className="caution">
            <TriangleAlert size={14} aria-hidden />
            {say`No profile: a printer will guess its colours`}
          </li>
        )}
      </ul>
      {file.goneAt !== null ? (
        <>
          <p className="soft mb-0">
            {say`${file.fileName} was cleared away ${format(file.goneAt, 'd MMM')} to make room. ${madeAgainWords(run.payload.recipe)}`}
          </p>
          <Button
            variant="quiet"
            size="sm"
            className="align-self-start"
            disabled={again.isPending}
            onClick={() => again.mutate(run.id)}
          >
            {say`Make it again`}
          </Button>
        </>
      ) : (
        <DownloadLink task={run.id} file={file} />
      )}
    </>
  );
}
