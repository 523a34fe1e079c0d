import { bestOf, EVIDENCE_ROWS, figureWords, type EvidenceRow } from '@/core/evidence/rows';
import { differenceWords } from '@/core/evidence/words';
import { formatBytes, formatMegapixels } from '@/core/measure/format';
import type { Trial } from '@/core/recipe/work';
import type { WorkBench } from '../../use-work';
import { useCosts } from './use-costs';
import { useMeasuredTrials } from './use-measured-trials';
import { say } from '@/core/words/say';

/** What trials show beside their original, figure by figure, and how they differ in words. */
export function EvidenceTable({ bench }: { bench: WorkBench }) {
  const { trial, resolve } = bench;
  const evidence = useMeasuredTrials(bench);
  const costs = useCosts(
    bench,
    evidence.map(({ trial: one }) => one),
  );
  const trouble = evidence[0]?.trouble;
  if (trouble) return <p className="soft mb-0">{trouble}</p>;
  const original = evidence[0]?.original ?? null;
  const [own, ...rest] = evidence;
  const megapixels = (one: Trial) => {
    const resolved = resolve(one);
    if (!resolved.ok) return '–';
    const { width, height } = resolved.recipe.target;
    return formatMegapixels((width * height) / 1e6);
  };
  return (
    <>
      <div className="evidence">
        <table className="figure">
          <caption>{say`Measured on a sample of places; bold: the better one.`}</caption>
          <thead>
            <tr>
              <th scope="col">
                <span className="visually-hidden">{say`Figure`}</span>
              </th>
              <th scope="col" className="good">
                {say`better`}
              </th>
              <th scope="col">{say`Original`}</th>
              {evidence.map(({ trial: { id, name } }) => (
                <th scope="col" key={id}>
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {EVIDENCE_ROWS.map((row) => {
              const figures = evidence.map(({ found }) => found && row.of(found));
              const best = bestOf(row, figures);
              return (
                <tr key={row.title}>
                  <th scope="row">
                    {row.title} <small>{row.unit}</small>
                  </th>
                  <td className="good" title={say`${row.good} is ${row.means}`}>
                    {row.good}
                  </td>
                  <td>{row.ofOriginal ? shown(row, original && row.ofOriginal(original)) : '–'}</td>
                  {figures.map((figure, i) => (
                    <td key={evidence[i]!.trial.id} className={i === best ? 'best' : undefined}>
                      {evidence[i]!.trouble ? '–' : shown(row, figure, evidence[i]!.found === null)}
                    </td>
                  ))}
                </tr>
              );
            })}
            <tr>
              <th scope="row">{say`Megapixels`}</th>
              <td />
              <td>
                {formatMegapixels((bench.original.size.width * bench.original.size.height) / 1e6)}
              </td>
              {evidence.map(({ trial: one }) => (
                <td key={one.id}>{megapixels(one)}</td>
              ))}
            </tr>
            <tr>
              <th scope="row">{say`Time`}</th>
              <td className="good">{say`less`}</td>
              <td />
              {costs.map(({ id, time }) => (
                <td key={id}>{time}</td>
              ))}
            </tr>
            <tr>
              <th scope="row">{say`File`}</th>
              <td className="good">{say`less`}</td>
              <td>{formatBytes(bench.job.piece.findings.bytes)}</td>
              {costs.map(({ id, size }) => (
                <td key={id}>{size}</td>
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
                {say`${trial.name} beside ${name}: ${differenceWords(own.found!, found) ?? say`nothing that would show`}.`}
              </p>
            ),
        )}
    </>
  );
}

const shown = (row: EvidenceRow, value: number | null, waiting = value === null): string =>
  value === null && waiting ? '…' : figureWords(row, value);
