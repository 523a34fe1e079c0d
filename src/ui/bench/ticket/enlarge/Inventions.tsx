import { useEffect, useRef } from 'react';
import { Form } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import type { WorkBench } from '../../use-work';
import { useOverlay } from '../../stage/overlays/overlay';
import { useInventions, useInventionSearch } from '../../stage/overlays/use-inventions';
import { usePicked } from '../../../parts/use-picked';
import { lookAtOriginal } from '../../stage/viewport';
import { Progress } from '../../../parts/Progress';
import { say } from '@/core/words/say';

/** Where a network says more than the file: shown over the picture, its worst places to look at. */
export function Inventions({ bench }: { bench: WorkBench }) {
  const { inventions: shown, stop } = usePicked(useOverlay, 'inventions', 'stop');
  const { learned, inventions } = useInventions(bench);
  useInventionSearch(bench, shown);
  const places = shown ? inventions?.found?.worst : undefined;
  useEffect(() => {
    const place = places?.[wrapped(stop, places.length)];
    if (stop !== null && place) lookAtOriginal(place.x, place.y);
  }, [stop, places]);
  useEffect(() => () => useOverlay.setState({ stop: null }), [places]);
  const found = inventions?.found;
  const list = useRef<HTMLDivElement>(null);
  const listed = shown && found !== null && found !== undefined;
  const before = useRef(listed);
  useEffect(() => {
    // They appear below what is seen of the ticket; but an opened section begins at its top.
    if (listed && !before.current) list.current?.scrollIntoView({ block: 'nearest' });
    before.current = listed;
  }, [listed]);
  if (!learned) return null;
  return (
    <div className="inventions" ref={list}>
      <Form.Check
        type="switch"
        id="inventions"
        label={say`Show uncertain detail (low … high)`}
        checked={shown}
        onChange={() => useOverlay.setState({ inventions: !shown })}
      />
      {shown && inventions?.trouble && <p className="trouble mb-0">{inventions.trouble}</p>}
      {shown && inventions && !found && !inventions.trouble && (
        <Progress share={inventions.share} label={say`Progress of the search`} />
      )}
      {listed && (
        <>
          <p className="reason">
            {say`Half of the picture is expected to be off by less than ${formatNumber(middle(found.levels), 1)} levels; half of such figures are right within a factor of ${formatNumber(found.usuallyWithin, 2)}. The worst places, one after another with N:`}
          </p>
          <div className="worst" role="group" aria-label={say`Worst places`}>
            {found.worst.map(({ x, y, levels }, i) => (
              <button
                key={`${x} ${y}`}
                type="button"
                className="btn btn-quiet btn-sm"
                aria-label={say`Place ${i + 1}, ${formatNumber(levels, 0)} levels`}
                aria-current={stop !== null && wrapped(stop, found.worst.length) === i}
                onClick={() => {
                  useOverlay.setState({ stop: i });
                  lookAtOriginal(x, y);
                }}
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

/** Stops go round: after the last comes the first. */
const wrapped = (stop: number | null, count: number): number =>
  stop === null ? -1 : ((stop % count) + count) % count;

const middle = (levels: Float32Array): number =>
  [...levels].sort((a, b) => a - b)[levels.length >> 1]!;
