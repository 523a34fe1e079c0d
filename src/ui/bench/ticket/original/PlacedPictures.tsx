import { formatNumber, formatPpi } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import type { WorkBench } from '../../use-work';

/** Pictures inside a page of shapes, with what they carry at the size that is ordered. */
export function PlacedPictures({ bench }: { bench: WorkBench }) {
  const { resolved, job, original } = bench;
  const { vector } = job.piece.findings;
  if (!vector) return null;
  const { pictures } = vector;
  // How much larger the page is printed than it is drawn.
  const scale = resolved.ok
    ? (resolved.plan.ordered.width * 72) /
      ((resolved.plan.window.width * vector.widthPt) / original.size.width)
    : 1;
  return (
    <>
      <p className="reason">
        {pictures.length === 0
          ? 'Nothing but shapes: sharp at any size.'
          : `Shapes are sharp at any size; ${pictures.length === 1 ? 'the picture in it is' : 'the pictures in it are'} not.`}
      </p>
      {pictures.length > 0 && (
        <table className="what-if">
          <thead>
            <tr>
              <th>Picture</th>
              <th>px</th>
              <th>printed, cm</th>
              <th>ppi</th>
            </tr>
          </thead>
          <tbody>
            {pictures.slice(0, 40).map((picture, i) => {
              const inches = (picture.widthPt / 72) * scale;
              return (
                <tr key={i}>
                  <th scope="row">{i + 1}</th>
                  <td>
                    {picture.width} × {picture.height}
                  </td>
                  <td>{formatNumber((inches * MM_PER_INCH) / 10, 1)}</td>
                  <td>{formatPpi(picture.width / inches)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </>
  );
}
