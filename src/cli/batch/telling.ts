import { formatPpi, formatSeconds } from '@/core/measure/format';
import type { Result } from './journal';

/** What became of a file. */
export type Outcome =
  | ({ file: string; state: 'made' | 'made before' } & Result)
  | { file: string; state: 'failed'; why: string };

function wordsOf(outcome: Outcome): string {
  if (outcome.state === 'failed') return `${outcome.file}: ${outcome.why}`;
  const { file, out, width, height, ppi, missing, seen } = outcome;
  return [
    `${file} → ${out}: ${width} x ${height} pixels, ${formatPpi(ppi)} ppi`,
    ...(seen ? [seen.kind, seen.verdict] : []),
    ...(outcome.state === 'made' ? [] : ['made before']),
    ...(missing > 0
      ? [`about ${Math.max(1, Math.round(missing * 100))} % of the picture is missing`]
      : []),
  ].join(', ');
}

/** Tells what becomes of each file as it is known, and on stderr what is left. */
export function teller(all: number, json: boolean): (outcome: Outcome) => void {
  const started = performance.now();
  let done = 0;
  let made = 0;
  return (outcome) => {
    done++;
    if (outcome.state !== 'made before') made++;
    if (!json && outcome.state !== 'failed') console.log(wordsOf(outcome));
    const each = made === 0 ? 0 : (performance.now() - started) / 1000 / made;
    const left = done < all ? `, ${formatSeconds(each * (all - done))} left` : '';
    process.stderr.write(`${done} of ${all}${left}\n`);
  };
}

/** Says what became of all, by file; the exit code tells whether some failed, or were not come to. */
export function conclude(outcomes: readonly Outcome[], all: number, json: boolean): void {
  const of = (state: Outcome['state']) =>
    outcomes
      .filter((outcome) => outcome.state === state)
      .sort((a, b) => (a.file < b.file ? -1 : 1));
  const failed = of('failed');
  const left = all - outcomes.length;
  if (json) {
    console.log(
      JSON.stringify({ made: of('made'), madeBefore: of('made before'), failed, notCome: left }),
    );
  } else {
    console.log(
      [
        `${of('made').length} made`,
        ...(of('made before').length > 0 ? [`${of('made before').length} made before`] : []),
        ...(failed.length > 0 ? [`${failed.length} failed:`] : []),
      ].join(', '),
    );
    for (const outcome of failed) console.log(`  ${wordsOf(outcome)}`);
  }
  if (left > 0)
    console.error(`lontano: left before its end; the same command goes on with ${left}.`);
  if (failed.length > 0 || left > 0) process.exitCode = 1;
}
