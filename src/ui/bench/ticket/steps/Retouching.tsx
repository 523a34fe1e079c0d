import { v4 as newId } from 'uuid';
import { X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import { isOfKind, type StepChoice } from '@/core/steps';
import { SPOT_LIMIT, type Spot } from '@/core/steps/retouch/retouch';
import { ask, PRIORITY } from '@/preview/client';
import { Choices } from '../../../parts/Choices';
import { Slider } from '../../../parts/Slider';
import { tell } from '../../../data/notices';
import { beforeRetouching } from '@/core/recipe/views';
import { wholeOriginal } from '../../preview-original';
import { ofStepAt } from '../../use-work';
import { spottingOf, takeTool, useTool } from '../../stage/tools/tool';
import type { SpecialProps } from './special-props';
import { usePicked } from '../../../parts/use-picked';
import { lookAtOriginal } from '../../stage/viewport';
import { say } from '@/core/words/say';

const WAYS = [
  { value: 'off', label: say`Look` },
  { value: 'heal', label: say`Heal` },
  { value: 'clone', label: say`Clone` },
] as const;

/** Spots healed and cloned by hand, and those that the application suggests. */
export function Retouching(props: SpecialProps) {
  return isOfKind(props.step, 'retouch') && <Spots {...props} step={props.step} />;
}

type SpotsProps = SpecialProps & { step: Extract<StepChoice, { kind: 'retouch' }> };

function Spots({ bench, step, index }: SpotsProps) {
  const { change, resolved, job } = bench;
  const { tool, spotRadius, suggested } = usePicked(useTool, 'tool', 'spotRadius', 'suggested');
  const spotting = spottingOf(tool) ?? 'off';
  const [searched, setSearched] = useState<number | null>(null);
  const searching = useRef<AbortController | null>(null);
  // What is found on one picture is nothing to another.
  useEffect(() => () => searching.current?.abort(), [job.piece.id]);
  const { spots } = step.settings;
  const put = (words: string, next: Spot[]) =>
    change(
      words,
      ofStepAt(index, (one) => Object.assign(one.settings, { spots: next })),
    );
  const accept = (accepted: readonly Spot[]) => {
    const named = accepted.map((spot) => ({ ...spot, id: newId() }));
    put(accepted.length === 1 ? say`Spot healed` : say`${accepted.length} spots healed`, [
      ...spots,
      ...named,
    ]);
    useTool.setState({ suggested: suggested.filter((spot) => !accepted.includes(spot)) });
  };
  const search = async () => {
    if (!resolved.ok) return;
    const { digest, findings } = job.piece;
    const stop = new AbortController();
    searching.current = stop;
    setSearched(0);
    try {
      const found = await ask(
        'dust',
        {
          original: wholeOriginal(digest, findings, resolved.recipe),
          recipe: beforeRetouching(resolved.recipe),
        },
        {
          priority: PRIORITY.asked,
          group: 'search',
          signal: stop.signal,
          onNews: (share) => setSearched(share as number),
        },
      );
      // What was healed already is not suggested again.
      const fresh = found.filter((one) =>
        spots.every((spot) => {
          const [[x, y], [u, v]] = [one.points[0]!, spot.points[0]!];
          return Math.hypot(x - u, y - v) > spot.radius;
        }),
      );
      useTool.setState({ suggested: fresh });
      if (fresh.length === 0)
        tell(say`Nothing that looks like dust or a scratch was found.`, 'good');
    } catch {
      if (stop.signal.aborted) return;
      tell(
        say`The search for dust could not be finished. Nothing was changed; try again.`,
        'trouble',
      );
    } finally {
      setSearched(null);
    }
  };
  return (
    <>
      <Choices
        name={`spotting-${index}`}
        label={say`What a click on the picture does`}
        value={spotting}
        options={WAYS}
        onChange={(value) =>
          takeTool(
            value === 'heal'
              ? { kind: 'heal' }
              : value === 'clone'
                ? { kind: 'clone', from: null }
                : null,
          )
        }
      />
      <p className="soft mb-0">
        {spotting === 'heal'
          ? say`Click a spot, or paint along a scratch: it is filled from what is about it.`
          : spotting === 'clone'
            ? say`Click where to take from, then paint where it is to go.`
            : say`Choose Heal to mend by hand, or let the application look for dust.`}
      </p>
      {spotting !== 'off' && (
        <Slider
          label={say`Radius`}
          value={spotRadius}
          min={0.5}
          max={SPOT_LIMIT}
          step={0.5}
          unit="px"
          usual={6}
          onDrag={(radius) => useTool.setState({ spotRadius: radius })}
          onSet={(radius) => useTool.setState({ spotRadius: radius })}
        />
      )}
      {searched !== null ? (
        <p className="figure mb-0" role="status">
          {say`Looking for dust: ${Math.round(searched * 100)} %`}{' '}
          <button type="button" className="text-button" onClick={() => searching.current?.abort()}>
            {say`Cancel`}
          </button>
        </p>
      ) : suggested.length === 0 ? (
        <Button variant="outline-primary" size="sm" onClick={() => void search()}>
          {say`Look for dust and scratches`}
        </Button>
      ) : (
        <div className="suggested">
          <p className="mb-0">
            <b className="figure">{suggested.length}</b>{' '}
            {say`found, dashed on the picture: click one to heal it.`}
          </p>
          <div className="d-flex gap-2">
            <Button variant="primary" size="sm" onClick={() => accept(suggested)}>
              {say`Heal all`}
            </Button>
            <Button
              variant="outline-primary"
              size="sm"
              onClick={() => useTool.setState({ suggested: [] })}
            >
              {say`Refuse all`}
            </Button>
          </div>
        </div>
      )}
      {spots.length > 0 && (
        <ol className="spots figure" aria-label={say`Spots`}>
          {spots.map((spot, i) => (
            <li key={spot.id}>
              <button
                type="button"
                className="text-button"
                onClick={() => lookAtOriginal(...spot.points[0]!)}
              >
                {say`${i + 1}. ${spot.how === 'heal' ? say`healed` : say`cloned`} at ${Math.round(spot.points[0]![0])}, ${Math.round(spot.points[0]![1])}`}
              </button>
              <button
                type="button"
                className="text-button"
                aria-label={say`Undo spot ${i + 1}`}
                onClick={() =>
                  put(
                    say`Spot ${i + 1} undone`,
                    spots.filter((one) => one !== spot),
                  )
                }
              >
                <X size={13} />
              </button>
            </li>
          ))}
        </ol>
      )}
    </>
  );
}
