import { formatNumber, formatPpi } from '../measure/format';
import { formatLength, type Length } from '../measure/units';
import type { Facts } from '../output/facts';
import { endingsOf } from '../output/output';
import { bareName, nameBy, nameByHand } from '../output/names';
import type { Trial, Work } from '../recipe/work';
import type { JobHead } from './job';
import type { Settings } from './settings';

/** What a result is named and tagged by. */
export interface Named {
  job: Pick<JobHead, 'number' | 'title' | 'customer'>;
  /** the original's name */
  file: string;
  work: Pick<Work, 'paper'>;
  trial: Trial;
  /** the day of the run, as 2026-11-29 */
  date: string;
}

/** A result's file name: as it was written by hand, else by the shop's pattern. */
export function resultName(named: Named, { fileNames }: Pick<Settings, 'fileNames'>): string {
  const { job, file, work, trial, date } = named;
  const endings = endingsOf(trial.output);
  if (trial.fileName) return nameByHand(trial.fileName, endings);
  const { width, height } = work.paper;
  const parts = {
    ...{ job: job.number, customer: job.customer, title: job.title, file: bareName(file) },
    ...{ size: paperName(width, height), ppi: formatPpi(trial.ppi), trial: trial.name, date },
  };
  return nameBy(fileNames, parts, endings[0]);
}

/** What a result's file says of its order. */
export function factsOf({ job, work, trial, date }: Omit<Named, 'file'>): Facts {
  const { number, title, customer } = job;
  const { width, height } = work.paper;
  const size = [width, height].flatMap((side) => (side ? [formatLength(side)] : [])).join(' × ');
  return { job: number, title, customer, trial: trial.name, size, date };
}

/** The ordered paper in a file name: 120x80cm, 120cm where the height follows, or nothing. */
function paperName(width: Length | null, height: Length | null): string {
  const words = (side: Length) => formatLength(side).replace(' ', '').replace('%', 'pc');
  if (width && height && width.unit === height.unit) {
    return `${formatNumber(width.value)}x${words(height)}`;
  }
  return [width, height].flatMap((side) => (side ? [words(side)] : [])).join('x');
}
