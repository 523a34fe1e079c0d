import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Button } from 'react-bootstrap';
import { formatNumber, formatPpi } from '@/core/measure/format';
import type { PrintPlan } from '@/core/measure/plan';
import { MM_PER_INCH } from '@/core/measure/units';
import type { PlacedPicture } from '@/core/placed/placed';
import { placedPpi } from '@/core/measure/placed-ppi';
import { placedIn } from '@/core/recipe/placed-work';
import { proposePlaced } from '@/core/recipe/propose';
import { api } from '../../../data/api';
import { tell } from '../../../data/notices';
import { keys } from '../../../data/queries';
import { useOverlay } from '../../stage/overlays/overlay';
import { goInside } from '../../use-placed-bench';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** Rows that show at once. */
const SHOWN = 40;

/** Pictures on a page of shapes: what each carries on the print, and what is done to it. */
export function PlacedPictures({ bench }: { bench: WorkBench }) {
  const { resolved, job } = bench;
  const { vector } = job.piece.findings;
  if (!vector) return null;
  const { pictures } = vector;
  const plan = resolved.ok ? resolved.plan : null;
  return (
    <>
      <p className="reason">
        {pictures.length === 0
          ? say`Nothing but shapes: sharp at any size.`
          : say`Shapes are sharp at any size; ${pictures.length === 1 ? say`the picture in it is` : say`the pictures in it are`} not.`}
      </p>
      {pictures.length > 0 && (
        <ul className="placed-pictures" aria-label={say`Pictures on the page`}>
          {pictures.slice(0, SHOWN).map((picture, i) => (
            <Row key={i} {...{ bench, picture, plan }} number={i + 1} />
          ))}
        </ul>
      )}
      {pictures.length > SHOWN && (
        <p className="reason">
          {say`${pictures.length - SHOWN} more on the page are drawn untouched.`}
        </p>
      )}
    </>
  );
}

interface RowProps {
  bench: WorkBench;
  picture: PlacedPicture;
  plan: PrintPlan | null;
  number: number;
}

function Row({ bench, picture, plan, number }: RowProps) {
  const { work, trial, job, original } = bench;
  const taken = job.piece.takenOut.find((one) => one.picture === number);
  const done = placedIn(trial, { page: work.framing.page, picture: number });
  const scale = plan
    ? (plan.ordered.width * 72) /
      ((plan.window.width * (job.piece.findings.vector?.widthPt ?? 1)) / original.size.width)
    : 1;
  const cm = (points: number) => formatNumber(((points / 72) * scale * MM_PER_INCH) / 10, 1);
  const carries = plan && picture.place ? placedPpi(picture, plan) : null;
  const { take, taking } = useTakeOut(bench, number);
  const label = taken && done ? say`Open` : say`Treat`;
  const open = () => goInside(job.piece.id, number, 'clean');
  const outline = (shown: boolean) => useOverlay.setState({ placed: shown ? number : null });
  return (
    <li
      onMouseEnter={() => outline(true)}
      onMouseLeave={() => outline(false)}
      onFocus={() => outline(true)}
      onBlur={() => outline(false)}
    >
      <span className="placed-figures figure">
        <b>{number}</b>{' '}
        {say`${picture.width} × ${picture.height} px · ${cm(picture.widthPt)} × ${cm(picture.heightPt)} cm`}
        {picture.times > 1 && <> {say`· ${picture.times} times`}</>}
      </span>
      <span className="placed-ppi figure">
        {carries !== null && <>{say`${formatPpi(carries)} ppi`}</>}
        {done?.on && trial && carries !== null && plan && <> → {formatPpi(plan.ppiAfter)}</>}
      </span>
      {picture.kept === null ? (
        <Button
          variant={taken ? 'outline-primary' : 'quiet'}
          size="sm"
          disabled={taking}
          aria-label={say`${label} picture ${number}`}
          onClick={() => (taken && done ? open() : take(open))}
        >
          {taking ? say`Taking it out …` : label}
        </Button>
      ) : (
        <span className="soft placed-kept">{picture.kept}</span>
      )}
      {picture.kept === null && (
        <span className="soft placed-state">{stateOf(bench, number, done?.on ?? false)}</span>
      )}
    </li>
  );
}

/** What becomes of a picture on the print. */
function stateOf({ resolved }: WorkBench, number: number, on: boolean): string {
  if (!on) return say`drawn untouched`;
  const placed = resolved.ok ? (resolved.recipe.original.drawn?.placed ?? []) : [];
  return placed.some(({ picture }) => picture === number)
    ? say`treated as a picture of its own`
    : say`drawn untouched: it would be too large to be treated here`;
}

/** Takes a picture out of its page, with what is proposed for it. */
function useTakeOut({ job, resolved, change }: WorkBench, number: number) {
  const client = useQueryClient();
  const { digest, findings } = job.piece;
  const taking = useMutation({
    mutationFn: () => api.takeOut(digest, findings.page, number),
    onSuccess: (taken) => {
      if (!resolved.ok) return client.invalidateQueries({ queryKey: keys.job(job.id) });
      const { plan } = resolved;
      change(say`Picture ${number} treated`, (work) => proposePlaced(work, findings, taken, plan));
    },
    onError: (error) => {
      tell(error.message, 'trouble');
      // Why it stays as it is belongs to the page from now on.
      return client.invalidateQueries({ queryKey: keys.job(job.id) });
    },
  });
  return {
    take: (then: () => void) => taking.mutate(undefined, { onSuccess: then }),
    taking: taking.isPending,
  };
}
