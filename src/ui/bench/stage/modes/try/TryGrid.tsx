import { useMemo, useState } from 'react';
import { formatNumber, formatPpi } from '@/core/measure/format';
import { leastPpi } from '@/core/measure/plan';
import type { Size } from '@/core/raster/region';
import { estimate } from '@/core/render/throughput';
import { Method, methodNotes } from '@/core/steps/enlarge/methods';
import type { Resolved } from '@/core/recipe/resolve';
import { branchTrial } from '@/core/recipe/trials';
import { variantsOf, type Variant } from '@/core/recipe/variants';
import { useThroughput } from '../../../../data/queries';
import { estimateWords } from '../../../../parts/time-left';
import type { WorkBench } from '../../../use-work';
import { useChosen } from '../../../trial-store';
import { lookIn } from '../mode';
import { useBusy } from '../compared/use-busy';
import { useTried, useTrying } from './trying';
import { resultLayer } from '../../panes/layers';
import { Pane } from '../../panes/Pane';
import type { PaneOriginal } from '../../../preview-original';
import { usePicked } from '../../../../parts/use-picked';
import { useViewport } from '../../viewport';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  resolved: Extract<Resolved, { ok: true }>;
  original: PaneOriginal;
  /** device pixels of the stage */
  view: Size;
  /** device pixels to one of the result */
  scale: number;
  onTrouble(words: string | null): void;
  /** whether any of the spots does not show its final pixels yet */
  onBusy(busy: boolean): void;
}

interface TriedProps extends Omit<Props, 'resolved'> {
  variant: Variant;
  /** which of the tried methods it is; null where something else is tried */
  at: number | null;
}

/** The same spot of the original and in up to three variants beside each other; one is taken by a press. */
export function TryGrid({ bench, resolved, original, view, scale, onTrouble, onBusy }: Props) {
  const varied = useTrying((state) => state.varied);
  const tried = useTried(bench);
  const variants = useMemo(
    () => variantsOf(bench.trial, varied, tried),
    [bench.trial, varied, tried],
  );
  const down = variants.length > 1 ? 2 : 1;
  const cell = {
    width: Math.floor(view.width / 2) - 1,
    height: Math.floor(view.height / down) - 1,
  };
  const hear = useBusy(onBusy);
  return (
    <div className={`try-grid down-${down}`}>
      <Untreated {...{ bench, resolved, original, scale, onTrouble }} view={cell} />
      {variants.map((variant, i) => (
        <Tried
          key={i}
          at={varied === 'method' ? i : null}
          {...{ bench, original, variant, scale, onTrouble }}
          onBusy={hear(i)}
          view={cell}
        />
      ))}
    </div>
  );
}

/** The spot as the original would print it. */
function Untreated({
  resolved: { recipe, plan },
  original,
  view,
  scale,
  onTrouble,
}: Omit<Props, 'onBusy'>) {
  const { centre } = usePicked(useViewport, 'centre');
  const layer = useMemo(
    () => resultLayer(original, recipe, Math.max(1, scale), false),
    [original, recipe, scale],
  );
  return (
    <div className="tried">
      <Pane
        layer={layer}
        centre={centre}
        view={view}
        name={say`The original`}
        onTrouble={onTrouble}
        onBusy={ignore}
      />
      <div className="caption left">
        <b>{say`Original`}</b>
        <span>{layer.caption}</span>
        {!plan.vector && <span className="figure">{say`${formatPpi(leastPpi(plan))} ppi`}</span>}
      </div>
    </div>
  );
}

const ignore = () => {};

function Tried({ bench, original, view, scale, variant, at, onTrouble, onBusy }: TriedProps) {
  const { centre } = usePicked(useViewport, 'centre');
  const tried = useTried(bench);
  const { data: throughput } = useThroughput();
  const [milliseconds, setMilliseconds] = useState<number | null>(null);
  const { trial } = variant;
  // What the bench resolves depends on the work, of which `resolved` tells every change.
  const resolved = useMemo(
    () => bench.resolve(trial),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [trial, bench.resolved],
  );
  // Only exact pixels tell methods apart.
  const layer = useMemo(
    () => (resolved.ok ? resultLayer(original, resolved.recipe, Math.max(1, scale), true) : null),
    [original, resolved, scale],
  );
  if (!resolved.ok || !layer) {
    return <p className="tried trouble">{resolved.ok ? '' : resolved.reason}</p>;
  }
  const take = () => {
    bench.change(variant.label, (_, on) => void Object.assign(on, { treatment: trial.treatment }));
    lookIn(null);
  };
  const branch = () => {
    const next = branchTrial(structuredClone(bench.work), bench.trial);
    if (!next) return;
    bench.change(`${next.name}: ${variant.label}`, (work, from) => {
      branchTrial(work, from, (made) => (made.treatment = trial.treatment));
    });
    lookIn(null);
    useChosen.setState({ trial: next.id, beside: [{ of: 'trial', id: bench.trial.id }] });
  };
  return (
    <div className="tried">
      <Pane
        layer={layer}
        centre={centre}
        view={view}
        name={variant.label}
        onTrouble={onTrouble}
        onBusy={(busy) => {
          if (busy) setMilliseconds(null);
          onBusy(busy);
        }}
        onPainted={setMilliseconds}
      />
      <div className="caption left">
        {at === null ? (
          <b>{variant.label}</b>
        ) : (
          <select
            className="caption-choice"
            aria-label={say`Method ${at + 1}`}
            value={tried[at]}
            onChange={(event) =>
              useTrying.setState({
                tried: tried.map((one, i) => (i === at ? Method.parse(event.target.value) : one)),
              })
            }
          >
            {Method.options.map((one) => (
              <option key={one} value={one}>
                {methodNotes[one].title}
              </option>
            ))}
          </select>
        )}
        <span className="figure">
          {milliseconds === null
            ? say`computing …`
            : say`spot ${formatNumber(milliseconds / 1000, 2)} s`}
        </span>
        {throughput && (
          <span className="figure">
            {say`whole print ${estimateWords(estimate(resolved.recipe, throughput))}`}
          </span>
        )}
      </div>
      <div className="take-it">
        <button type="button" className="btn btn-primary btn-sm" onClick={take}>
          {say`Take it`}
        </button>
        <button type="button" className="btn btn-quiet btn-sm" onClick={branch}>
          {say`As a new trial`}
        </button>
      </div>
    </div>
  );
}
