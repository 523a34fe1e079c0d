import { format } from 'date-fns';
import { Button } from 'react-bootstrap';
import { formatSeconds } from '@/core/measure/format';
import type { BackupWork } from '@/core/shop/backups';
import { useBackupActs } from '../../data/shop';
import { Progress } from '../../parts/Progress';
import { say } from '@/core/words/say';

/** What was done with archives, newest first; one that goes on with its progress. */
export function Works({ works }: { works: readonly BackupWork[] }) {
  return (
    <section aria-labelledby="backup-works">
      <h2 id="backup-works">{say`What was done`}</h2>
      <ol className="backup-works">
        {works.map((work) => (
          <li key={work.id}>
            {work.state === 'running' ? <GoingOn work={work} /> : <Over work={work} />}
          </li>
        ))}
      </ol>
    </section>
  );
}

const titleOf = ({ kind, file }: BackupWork): string =>
  kind === 'write' ? say`${file} is written` : say`${file} is compared with its list`;

function GoingOn({ work }: { work: BackupWork }) {
  const { cancel } = useBackupActs();
  const { id, progress, beganAt } = work;
  const spent = (Date.now() - beganAt) / 1000;
  // Until there is something to go by, nothing is promised.
  const left = progress > 0.02 ? (spent * (1 - progress)) / progress : null;
  return (
    <>
      <b>{titleOf(work)}</b>
      <Progress share={progress} label={titleOf(work)} />
      <div className="d-flex gap-3 align-items-center">
        <span className="figure">
          {say`${Math.round(progress * 100)} %`}
          {left !== null && say`, ${formatSeconds(left)} left`}
        </span>
        <Button
          variant="quiet"
          size="sm"
          disabled={cancel.isPending}
          onClick={() => cancel.mutate(id)}
        >
          {say`Cancel`}
        </Button>
      </div>
    </>
  );
}

function Over({ work: { kind, file, state, finishedAt, words } }: { work: BackupWork }) {
  const outcome =
    state === 'done'
      ? kind === 'write'
        ? say`written`
        : say`compared`
      : state === 'cancelled'
        ? say`cancelled, nothing was left`
        : kind === 'write'
          ? say`not written`
          : say`not as it should be`;
  return (
    <>
      <b>{file}</b>{' '}
      <span className={state === 'failed' ? 'trouble' : 'soft'}>
        {outcome}
        {finishedAt !== null && `, ${format(finishedAt, 'd MMM, HH:mm')}`}
      </span>
      {words && <p>{words}</p>}
    </>
  );
}
