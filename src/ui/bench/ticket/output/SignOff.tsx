import { useQueryClient } from '@tanstack/react-query';
import { format } from 'date-fns';
import { Check, TriangleAlert } from 'lucide-react';
import { useId, useMemo, useState } from 'react';
import { Button } from 'react-bootstrap';
import { isApprovalOf, signedAs, standingApproval, type Approval } from '@/core/shop/event';
import { seenShare } from '@/core/stops/sweep';
import { useSigning } from '../../../data/queries';
import { knownEvidence } from '../compare/use-evidence';
import { useSwept } from '../../stage/sweep/use-sweep';
import type { WorkBench } from '../../use-work';
import { useSigner } from '../../../data/author';
import { Initials } from '../../../parts/Initials';
import { say } from '@/core/words/say';

const percent = (share: number): string => `${Math.ceil(share * 100)} %`;

/** Signing for a trial's file before it is sent, and what becomes of that when something changes. */
export function SignOff({ bench }: { bench: WorkBench }) {
  const { job, kept, trial } = bench;
  const approval = standingApproval(job.events, job.piece.id);
  const recipe = useMemo(() => (kept.ok ? signedAs(kept.recipe) : null), [kept]);
  const made = job.runs.some(
    (one) => one.state === 'done' && recipe !== null && signedAs(one.payload.recipe) === recipe,
  );
  const stands = approval !== null && recipe !== null && isApprovalOf(approval, recipe, job.runs);
  return (
    <div className="sign-off" role="group" aria-label={say`Approval`}>
      {approval && <Signed bench={bench} approval={approval} stands={stands} />}
      {!stands && (made ? <Sign bench={bench} /> : <NotYet name={trial.name} />)}
    </div>
  );
}

const NotYet = ({ name }: { name: string }) => (
  <p className="soft mb-0">
    {say`To approve it, run ${name} first: what is signed for is its file.`}
  </p>
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
          <b>{say`Approved by ${initials}, ${format(at, 'd MMM HH:mm')}`}</b>: {trialName},{' '}
          {fileName}
          {unseen > 0 && say`; ${percent(unseen)} of it not seen at 1:1`}
          {note && `. “${note}”`}
        </span>
      </p>
      {!stands && (
        <p className="caution mb-0">
          {trialId === trial.id
            ? say`It was changed since. Run it and approve it anew, or take the approval back.`
            : say`${trial.name} is another trial: the approval is of ${trialName}.`}
        </p>
      )}
      <Button
        variant="quiet"
        size="sm"
        className="align-self-start"
        disabled={withdraw.isPending}
        onClick={() => withdraw.mutate({ initials, note: '' })}
      >
        {say`Take the approval back`}
      </Button>
    </>
  );
}

/** Initials, a note, and what was not looked at. */
function Sign({ bench }: { bench: WorkBench }) {
  const { job, trial, saving, kept } = bench;
  const client = useQueryClient();
  const { approve } = useSigning(job.id, job.piece.id);
  const { initials } = useSigner();
  const [note, setNote] = useState('');
  const swept = useSwept(bench);
  const id = useId();
  const unseen = swept ? 1 - seenShare(swept.seen) : 1;
  const evidence = kept.ok ? knownEvidence(client, job.piece, kept.recipe) : null;
  const sign = () =>
    approve.mutate(
      { revision: job.piece.revision, trialId: trial.id, initials, note, unseen, evidence },
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
        <Initials />
        <div>
          <label className="field-label" htmlFor={`${id}-note`}>
            {say`Note`}
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
          {say`Approve`}
        </Button>
      </div>
      <p className={unseen > 0 ? 'caution mb-0' : 'reason'}>
        {unseen > 0
          ? say`${percent(unseen)} of it was not seen at 1:1; that is written down.`
          : say`All of it was seen at 1:1.`}
      </p>
    </form>
  );
}
