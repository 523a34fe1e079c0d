import { FigureField } from '../../../parts/FigureField';
import type { WorkBench } from '../../use-work';

/** Which page of a document is the work. */
export function PageChoice({ bench }: { bench: WorkBench }) {
  const { work, change, job } = bench;
  const { pages } = job.piece.findings;
  const take = (page: number) =>
    change(`Page ${page}`, (next) => {
      next.framing = { ...next.framing, page, crop: null, grid: null };
    });
  return (
    <FigureField
      label={`Page, of ${pages}`}
      text={String(work.framing.page)}
      onEnter={(text) => {
        const page = Number(text);
        if (!Number.isInteger(page) || page < 1 || page > pages) return `1 to ${pages}`;
        take(page);
        return null;
      }}
      onStep={(direction) => {
        const page = work.framing.page + direction;
        if (page >= 1 && page <= pages) take(page);
      }}
    />
  );
}
