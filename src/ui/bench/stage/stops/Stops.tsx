import { MapPin, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Mark } from '@/core/shop/comparing';
import { useComparing, useMarks } from '../../../data/comparing';
import type { PaneOriginal } from '../../preview-original';
import type { WorkBench } from '../../use-work';
import { useOnPaper } from '../on-paper';
import { originalLayer, resultLayer, type Layer } from '../panes/layers';
import { marking } from './marking';
import { goTo, useStops, type ShownStop } from './stop-store';
import { StopThumb } from './StopThumb';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  original: PaneOriginal;
}

/** What is said where there is no stop. */
const NONE: Record<string, string> = {
  on: say`Looking for places that are worth a look …`,
  done: say`Nothing stands out by itself here. M marks a place of your own.`,
};

/** Drawings are shown so much smaller than they print. */
const DRAWN = 0.25;

/** Places that are worth a look, one press or N away. */
export function Stops({ bench, original }: Props) {
  const { list, looking, at, closer } = useStops();
  const onPaper = useOnPaper(bench);
  const { resolved } = bench;
  const layer = useMemo((): Layer | null => {
    if (!resolved.ok) return null;
    return bench.original.vector
      ? resultLayer(original, resolved.recipe, DRAWN, true)
      : originalLayer(original, resolved.recipe, 1, false);
  }, [original, resolved, bench.original.vector]);
  const current = useRef<HTMLLIElement>(null);
  useEffect(() => {
    current.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [at]);
  return (
    <section className="stops" aria-label={say`Stops`}>
      <header>
        <h3>{say`Stops`}</h3>
        <span className="soft">
          <kbd>N</kbd> {say`next ·`} <kbd>{say`Shift N`}</kbd> {say`before ·`} <kbd>M</kbd>{' '}
          {say`mark`}
        </span>
        <button
          type="button"
          className="btn btn-quiet btn-sm"
          onClick={() => marking.run('middle')}
        >
          <MapPin size={14} aria-hidden /> {say`Mark this place`}
        </button>
      </header>
      {list.length === 0 ? (
        <p className="soft mb-0" role="status">
          {NONE[looking] ?? say`Places could not be looked for: ${looking}`}
        </p>
      ) : (
        <ol>
          {list.map((stop, i) => {
            const here = stop.key === at;
            return (
              <li key={stop.key} ref={here ? current : undefined}>
                <button
                  type="button"
                  className="stop"
                  aria-current={here}
                  title={stop.words}
                  onClick={() => goTo(stop, here && !closer)}
                >
                  {layer && onPaper && (
                    <StopThumb layer={layer} at={onPaper.toPaper(stop.x, stop.y)} />
                  )}
                  <span>
                    <b className="figure">{i + 1}</b> {stop.title}
                    {here && closer && <span className="soft"> {say`orig.`}</span>}
                  </span>
                </button>
              </li>
            );
          })}
        </ol>
      )}
      <Current bench={bench} stop={list.find(({ key }) => key === at)} />
    </section>
  );
}

/** What is known of the stop where one stands; of a mark, its note, which can be changed. */
function Current({ bench, stop }: { bench: WorkBench; stop: ShownStop | undefined }) {
  const piece = bench.job.piece.id;
  const marks = useComparing(piece).data?.marks;
  if (!stop) return null;
  const mark = marks?.find(({ id }) => id === stop.mark);
  if (mark) return <MarkNote key={mark.id} piece={piece} mark={mark} />;
  return <p className="soft stop-words">{stop.words}</p>;
}

function MarkNote({ piece, mark }: { piece: number; mark: Mark }) {
  const { note, remove } = useMarks(piece);
  const [text, setText] = useState(mark.note);
  const keep = () => text.trim() !== mark.note && note({ id: mark.id, note: text.trim() });
  return (
    <p className="stop-words">
      <input
        className="form-control form-control-sm"
        aria-label={say`Note to this mark`}
        placeholder={say`What is to be looked at here`}
        maxLength={200}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
      <button
        type="button"
        className="btn btn-quiet btn-sm"
        aria-label={say`Take this mark away`}
        title={say`Take this mark away`}
        onClick={() => remove(mark)}
      >
        <X size={14} aria-hidden />
      </button>
    </p>
  );
}
