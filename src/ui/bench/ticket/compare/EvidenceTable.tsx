import { useMemo } from 'react';
import type { Evidence, SeenFigures } from '@/core/evidence/evidence';
import { differenceWords } from '@/core/evidence/words';
import { formatMegapixels, formatNumber } from '@/core/measure/format';
import { useChosen } from '../../trial-store';
import type { WorkBench } from '../../use-work';
import { useEvidence } from './use-evidence';

/** A row: what it is called, which way is good, and its figure of a result and of the original, if that has one. */
interface Row {
  title: string;
  good: string;
  unit: string;
  digits: number;
  of(found: Evidence): number | null;
  ofOriginal?(found: SeenFigures): number | null;
  /** whether more of it is better */
  more?: true;
}

const ROWS: readonly Row[] = [
  {
    ...{ title: 'Reduced back', good: 'more is truer', unit: 'dB', digits: 1, more: true },
    of: ({ psnrReduced }) => psnrReduced,
  },
  {
    ...{ title: '… alike', good: 'more is truer', unit: '', digits: 3, more: true },
    of: ({ ssimReduced }) => ssimReduced,
  },
  {
    ...{ title: 'Colour shift', good: 'less is truer', unit: 'levels', digits: 1 },
    of: ({ colourShift }) => colourShift,
  },
  {
    ...{ title: 'Blocks', good: 'less is cleaner', unit: 'of 100', digits: 0 },
    of: ({ blocking }) => blocking,
    ofOriginal: ({ blocking }) => blocking,
  },
  {
    ...{ title: 'Noise', good: 'less is smoother', unit: 'levels', digits: 1 },
    of: ({ noise }) => noise,
    ofOriginal: ({ noise }) => noise,
  },
  {
    ...{ title: 'Edges rise in', good: 'less is crisper', unit: 'px', digits: 1 },
    of: ({ edgeRisePx }) => edgeRisePx,
    ofOriginal: ({ edgeRisePx }) => edgeRisePx,
  },
  {
    ...{ title: 'Overshoot', good: 'less is calmer', unit: '%', digits: 1 },
    of: ({ overshootPercent }) => overshootPercent,
  },
];

/** Most trials that are measured beside the one on the bench. */
const OTHERS = 2;

/** What trials show beside their original, figure by figure, and how they differ in words. */
export function EvidenceTable({ bench }: { bench: WorkBench }) {
  const { work, trial, resolve } = bench;
  const beside = useChosen((chosen) => chosen.beside);
  const trials = useMemo(() => {
    const chosen = beside.flatMap((one) => (one.of === 'trial' ? [one.id] : []));
    const others = work.trials.filter((one) => one.id !== trial.id);
    const first = (id: string) => (chosen.includes(id) ? 0 : 1);
    return [trial, ...others.sort((a, b) => first(a.id) - first(b.id)).slice(0, OTHERS)];
  }, [beside, work.trials, trial]);
  const evidence = useEvidence(bench, trials);
  const trouble = evidence[0]?.trouble;
  if (trouble) return <p className="soft mb-0">{trouble}</p>;
  const original = evidence[0]?.original ?? null;
  const [own, ...rest] = evidence;
  const megapixels = (one: (typeof trials)[number]) => {
    const resolved = resolve(one);
    if (!resolved.ok) return '–';
    const { width, height } = resolved.recipe.target;
    return formatMegapixels((width * height) / 1e6);
  };
  return (
    <>
      <div className="evidence">
        <table className="figure">
          <caption>Measured on a sample of places; bold: the better one.</caption>
          <thead>
            <tr>
              <th />
              <th scope="col">Original</th>
              {evidence.map(({ trial: { id, name } }) => (
                <th scope="col" key={id}>
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ROWS.map((row) => {
              const figures = evidence.map(({ found }) => found && row.of(found));
              const best = bestOf(figures, row);
              return (
                <tr key={row.title}>
                  <th scope="row">
                    {row.title} <small>{row.unit}</small>
                    <small className="good">{row.good}</small>
                  </th>
                  <td>{row.ofOriginal ? shown(original && row.ofOriginal(original), row) : '–'}</td>
                  {figures.map((figure, i) => (
                    <td key={evidence[i]!.trial.id} className={i === best ? 'best' : undefined}>
                      {evidence[i]!.trouble ? '–' : shown(figure, row, evidence[i]!.found === null)}
                    </td>
                  ))}
                </tr>
              );
            })}
            <tr>
              <th scope="row">Megapixels</th>
              <td>
                {formatMegapixels((bench.original.size.width * bench.original.size.height) / 1e6)}
              </td>
              {trials.map((one) => (
                <td key={one.id}>{megapixels(one)}</td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      {own?.found &&
        rest.map(
          ({ trial: { id, name }, found }) =>
            found && (
              <p className="reason mb-0" key={id}>
                {trial.name} beside {name}:{' '}
                {differenceWords(own.found!, found) ?? 'nothing that would show'}.
              </p>
            ),
        )}
    </>
  );
}

const shown = (value: number | null, { digits }: Row, waiting = value === null): string =>
  value !== null ? formatNumber(value, digits) : waiting ? '…' : '–';

/** Which figure is the better one, told only between several and where they differ as they are shown. */
function bestOf(figures: readonly (number | null)[], { more, digits }: Row): number | null {
  const known = figures.filter((figure) => figure !== null);
  if (known.length < 2) return null;
  const best = more ? Math.max(...known) : Math.min(...known);
  const alike = known.filter((figure) => figure.toFixed(digits) === best.toFixed(digits));
  return alike.length > 1 ? null : figures.indexOf(best);
}
