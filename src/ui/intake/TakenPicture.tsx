import { Form } from 'react-bootstrap';
import { blockingWord, compressionWords } from '@/core/inspect/findings';
import { formatBytes, formatNumber } from '@/core/measure/format';
import type { Ordered } from '@/core/recipe/ordered';
import type { TakenIn } from '@/core/shop/job';
import { thumbnailOf } from '../data/api';
import { VerdictMark } from '../parts/VerdictMark';
import type { Refused } from './use-intake';
import { say } from '@/core/words/say';

interface Props {
  taken: TakenIn;
  page: number;
  onPage(page: number): void;
  /** how it will look as it is ordered; null while that isn't known */
  ordered: Ordered | null;
}

/** A picture that was taken in, with what is known of it already. */
export function TakenPicture({ taken, page, onPage, ordered }: Props) {
  const { findings, digest, fileName, known } = taken;
  const { vector, pages, damaged } = findings;
  const mm = (points: number) => formatNumber((points / 72) * 25.4, 0);
  const size = vector
    ? say`${mm(vector.widthPt)} × ${mm(vector.heightPt)} mm`
    : `${findings.width} × ${findings.height}`;
  return (
    <li className="taken-picture">
      <img src={thumbnailOf(digest)} alt="" />
      <div>
        <p className="name" title={fileName}>
          {fileName}
        </p>
        <p className="figure">
          {size} · {compressionWords(findings)} · {blockingWord(findings)} ·{' '}
          {formatBytes(findings.bytes)}
        </p>
        {damaged > 0 && (
          <p className="trouble" role="alert">
            {say`About ${Math.max(1, Math.round(damaged * 100))} % of it is missing: cut off or damaged. Ask for this file again.`}
          </p>
        )}
        {ordered?.ok && damaged === 0 && (
          <p>
            <VerdictMark tone={ordered.verdict.tone} /> {ordered.verdict.short}
          </p>
        )}
        {ordered?.ok === false && <p className="trouble">{ordered.reason}</p>}
        {known && <p className="soft">{say`Taken in before; it is stored once.`}</p>}
        {pages > 1 && (
          <Form.Label className="d-flex align-items-center gap-2 mt-1 mb-0">
            {say`Page`}
            <Form.Control
              type="number"
              size="sm"
              style={{ width: 84 }}
              min={1}
              max={pages}
              value={page}
              onChange={(event) =>
                onPage(Math.min(pages, Math.max(1, Math.trunc(Number(event.target.value)) || 1)))
              }
            />
            {say`of ${pages}`}
          </Form.Label>
        )}
      </div>
    </li>
  );
}

/** A file that was not taken in, and why. */
export const RefusedFile = ({ refused: { name, why } }: { refused: Refused }) => (
  <li className="taken-picture refused">
    <span className="mark-trouble" aria-hidden>
      ■
    </span>
    <div>
      <p className="name" title={name}>
        {name}
      </p>
      <p className="trouble" role="alert">
        {say`Not taken in. ${why}`}
      </p>
    </div>
  </li>
);
