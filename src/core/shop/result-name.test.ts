import { describe, expect, it } from 'vitest';
import { propose } from '../recipe/propose';
import { testFindings, testPaper } from '../testing';
import { factsOf, resultName, type Named } from './result-name';
import { USUAL } from './settings';

const cm = (value: number) => ({ value, unit: 'cm' as const });

function named(change: (named: Named) => void = () => {}): Named {
  const paper = testPaper({ width: cm(30) });
  const { work } = propose(testFindings({ width: 600, height: 400 }), { paper, distance: 2 });
  const job = { number: '0401', title: 'Dome at dusk, east wall', customer: 'Observatory' };
  const made = { job, file: 'dome at dusk.jpeg', work, trial: work.trials[0]!, date: '2026-11-29' };
  change(made);
  return made;
}
const nameOf = (of: Named, settings = USUAL) => resultName(of, settings);

describe('the name of a result', () => {
  it.each([
    ['Dome at dusk, east wall', '0401-dome-at-dusk-east-wall-30cm-160ppi.tif'],
    ['../../etc/passwd', '0401-etc-passwd-30cm-160ppi.tif'],
    ['"Grüße" <b>', '0401-gruesse-b-30cm-160ppi.tif'],
    ['星図', '0401-30cm-160ppi.tif'],
  ])('for %j is %s', (title, name) => {
    expect(nameOf(named(({ job }) => void (job.title = title)))).toBe(name);
  });

  it('carries the paper as it was ordered', () => {
    const both = named(({ work }) =>
      Object.assign(work.paper, { width: cm(120), height: cm(80.5) }),
    );
    expect(nameOf(both)).toBe('0401-dome-at-dusk-east-wall-120x80.5cm-160ppi.tif');
    const paper = { width: { value: 400, unit: '%' as const }, height: null };
    const factor = named(({ work }) => Object.assign(work.paper, paper));
    expect(nameOf(factor)).toBe('0401-dome-at-dusk-east-wall-400pc-160ppi.tif');
  });

  it('follows the shop’s pattern, or the hand', () => {
    const settings = { ...USUAL, fileNames: '{customer} {trial} {date}' };
    expect(nameOf(named(), settings)).toBe('observatory trial-a 2026-11-29.tif');
    const byHand = named(({ trial }) => void (trial.fileName = 'East wall'));
    expect(nameOf(byHand, settings)).toBe('East wall.tif');
  });
});

it('a file’s facts are those of its order', () => {
  expect(factsOf(named())).toEqual({
    ...{ job: '0401', title: 'Dome at dusk, east wall', customer: 'Observatory' },
    ...{ trial: 'Trial A', size: '30 cm', date: '2026-11-29' },
  });
});
