import { Form } from 'react-bootstrap';
import { blockingWord, compressionWords } from '@/core/inspect/findings';
import { formatBytes, formatNumber } from '@/core/measure/format';
import type { TakenIn } from '@/core/shop/job';
import { thumbnailOf } from '../data/api';

interface Props {
  taken: TakenIn;
  page: number;
  onPage(page: number): void;
}

/** A picture that was taken in, with what is known of it already. */
export function TakenPicture({ taken, page, onPage }: Props) {
  const { findings, digest, fileName, known } = taken;
  const { vector, pages, damaged } = findings;
  const mm = (points: number) => formatNumber((points / 72) * 25.4, 0);
  const size = vector
    ? `${mm(vector.widthPt)} × ${mm(vector.heightPt)} mm`
    : `${findings.width} × ${findings.height}`;
  return (
    <div className="taken-picture">
      <img src={thumbnailOf(digest)} alt="" />
      <div>
        <p className="soft mb-0 text-truncate" title={fileName}>
          {fileName}
        </p>
        <p className="figure mb-0">
          {size} · {compressionWords(findings)} · {blockingWord(findings)} ·{' '}
          {formatBytes(findings.bytes)}
        </p>
        {damaged > 0 && (
          <p className="trouble mb-0" role="alert">
            Cut off or damaged: about {Math.max(1, Math.round(damaged * 100))} % is missing. What
            could be read is here; better ask for the file again.
          </p>
        )}
        {known && <p className="soft mb-0">Taken in before; it is stored once.</p>}
        {pages > 1 && (
          <Form.Label className="d-flex align-items-center gap-2 mt-1 mb-0">
            Page
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
            of {pages}
          </Form.Label>
        )}
      </div>
    </div>
  );
}
