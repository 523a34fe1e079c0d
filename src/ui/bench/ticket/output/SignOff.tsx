import { format } from 'date-fns';
import { Check, TriangleAlert } from 'lucide-react';
import { useId, useMemo, useState } from 'react';
import { Button } from 'react-bootstrap';
import { create } from 'zustand';
import { signedAs, standingApproval, type Approval } from '@/core/shop/event';
import { seenShare } from '@/core/stops/sweep';
import { useSigning } from '../../../data/queries';
import { useSwept } from '../../stage/sweep/use-sweep';
import type { WorkBench } from '../../use-work';

/** Who signed last here: most often the same person signs again. */
const useSigner = create<{ initials: string }>(() => ({ initials: '' }));

const percent = (share: number): string => `${Math.ceil(share * 100)} %`;

/** Signing for a trial's file before it is sent, and what becomes of that when something changes. */
export function SignOff({ bench }: { bench: WorkBench }) {
  const { job, kept, trial } = bench;
  const approval = standingApproval(job.events, job.piece.id);
  const recipe = useMemo(() => (kept.ok ? signedAs(kept.recipe) : null), [kept]);
  const made = job.runs.some(
    (one) => one.state === 'done' && recipe !== null && signedAs(one.payload.recipe) === recipe,
  );
  const stands = approval !== null && approval.recipe === recipe;
  return (
    <div className="sign-off" role="group" aria-label="Approval">
      {approval && <Signed bench={bench} approval={approval} stands={stands} />}
      {!stands && (made ? <Sign bench={bench} /> : <NotYet name={trial.name} />)}
    </div>
  );
}

const NotYet = ({ name }: { name: string }) => (
  <p className="soft mb-0">To approve it, run {name} first: what is signed for is its file.</p>
);

/** What was signed for, and whether it still is what stands here. */
function Signed({
  bench,
  approval,
  stands,
}: {
  bench: WorkBench;
  approval: Approval & { at: number };
  stands: boolean;
}) {
  const { job, trial } = bench;
  const { withdraw } = useSigning(job.id, job.piece.id);
  const { trialId, trialName, fileName, initials, note, unseen, at } = approval;
  const Icon = stands ? Check : TriangleAlert;
  return (
    <>
      <p className={stands ? 'signed' : 'signed caution'}>
        <Icon size={15} aria-hidden />
        <span>
          <b>
            Approved by {initials}, {format(at, 'd MMM HH:mm')}
          </b>
          : {trialName}, {fileName}
          {unseen > 0 && `; ${percent(unseen)} of it not seen at 1:1`}
          {note && `. “${note}”`}
        </span>
      </p>
      {!stands && (
        <p className="caution mb-0">
          {trialId === trial.id
            ? 'It was changed since. Run it and approve it anew, or take the approval back.'
            : `${trial.name} is another trial: the approval is of ${trialName}.`}
        </p>
      )}
      <Button
        variant="quiet"
        size="sm"
        className="align-self-start"
        disabled={withdraw.isPending}
        onClick={() => withdraw.mutate({ initials, note: '' })}
      >
        Take the approval back
      </Button>
    </>
  );
}

/** Initials, a note, and what was not looked at. */
function Sign({ bench }: { bench: WorkBench }) {
  const { job, trial, saving } = bench;
  const { approve } = useSigning(job.id, job.piece.id);
  const { initials } = useSigner();
  const [note, setNote] = useState('');
  const swept = useSwept(bench);
  const id = useId();
  const unseen = swept ? 1 - seenShare(swept.seen) : 1;
  const sign = () =>
    approve.mutate(
      { revision: job.piece.revision, trialId: trial.id, initials, note, unseen },
      { onSuccess: () => setNote('') },
    );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        sign();
      }}
    >
      <div className="sign-row">
        <div>
          <label className="field-label" htmlFor={`${id}-initials`}>
            Initials
          </label>
          <input
            id={`${id}-initials`}
            className="form-control form-control-sm"
            value={initials}
            maxLength={8}
            autoComplete="off"
            onChange={(event) => useSigner.setState({ initials: event.target.value })}
          />
        </div>
        <div>
          <label className="field-label" htmlFor={`${id}-note`}>
            Note
          </label>
          <input
            id={`${id}-note`}
            className="form-control form-control-sm"
            value={note}
            maxLength={500}
            onChange={(event) => setNote(event.target.value)}
          />
        </div>
        <Button
          type="submit"
          variant="outline-primary"
          size="sm"
          disabled={initials.trim() === '' || saving || approve.isPending}
        >
          Approve
        </Button>
      </div>
      <p className={unseen > 0 ? 'caution mb-0' : 'reason'}>
        {unseen > 0
          ? `${percent(unseen)} of it was not seen at 1:1; that is written down.`
          : 'All of it was seen at 1:1.'}
      </p>
    </form>
  );
}
