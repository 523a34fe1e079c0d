import { FigureField } from '../../../parts/FigureField';
import { typedNumber } from '@/core/measure/typed';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** Which page of a document is the work. */
export function PageChoice({ bench }: { bench: WorkBench }) {
  const { work, change, job } = bench;
  const { pages } = job.piece.findings;
  const take = (page: number) =>
    change(say`Page ${page}`, (next) => {
      next.framing = { ...next.framing, page, crop: null, grid: null };
    });
  return (
    <FigureField
      label={say`Page, of ${pages}`}
      text={String(work.framing.page)}
      read={(text) => typedNumber(text, { least: 1, most: pages, whole: true })}
      onEnter={take}
      onStep={(direction) => {
        const page = work.framing.page + direction;
        if (page >= 1 && page <= pages) take(page);
      }}
    />
  );
}
