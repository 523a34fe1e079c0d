import type { Rect } from '@/core/frame/framing';

interface Props {
  columns: number;
  rows: number;
  /** 0 nothing to see to 1 as bad as can be, row by row; null where a part says nothing */
  shares: readonly (number | null)[];
  /** where the whole original lies on the stage, in CSS pixels */
  place: Rect;
  /** where the paper does */
  paper: Rect;
  /** the scale's title, and the words at its ends */
  words: { title: string; least: string; most: string };
}

/** Figures part by part, over the picture: darker veils where more is wrong. */
export function CellMap({ columns, rows, shares, place, paper, words }: Props) {
  return (
    <>
      <div
        className="map-overlay"
        aria-hidden
        style={{ left: paper.x, top: paper.y, width: paper.width, height: paper.height }}
      >
        <svg
          viewBox={`0 0 ${columns} ${rows}`}
          preserveAspectRatio="none"
          style={{
            left: place.x - paper.x,
            top: place.y - paper.y,
            width: place.width,
            height: place.height,
          }}
        >
          {shares.map((share, i) =>
            share === null || share < 0.02 ? null : (
              <rect
                key={i}
                x={i % columns}
                y={Math.floor(i / columns)}
                width={1}
                height={1}
                fill="var(--madder)"
                fillOpacity={0.04 + 0.52 * share}
              />
            ),
          )}
        </svg>
      </div>
      <p className="map-scale">
        <b>{words.title}</b>
        <span>{words.least}</span>
        <i />
        <span>{words.most}</span>
      </p>
    </>
  );
}
