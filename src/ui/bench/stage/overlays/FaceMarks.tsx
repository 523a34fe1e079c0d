import type { Face } from '@/core/faces/face';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { say } from '@/core/words/say';

interface Props {
  faces: readonly Face[];
  /** of the original, in its pixels */
  size: Size;
  /** where the whole original lies on the stage, in CSS pixels */
  place: Rect;
  /** where the paper does */
  paper: Rect;
}

/** Faces that were found, outlined on the picture. */
export function FaceMarks({ faces, size, place, paper }: Props) {
  return (
    <div
      className="map-overlay"
      role="img"
      aria-label={say`Faces outlined: ${faces.length}`}
      style={{ left: paper.x, top: paper.y, width: paper.width, height: paper.height }}
    >
      <svg
        className="face-marks"
        viewBox={`0 0 ${size.width} ${size.height}`}
        preserveAspectRatio="none"
        style={{
          left: place.x - paper.x,
          top: place.y - paper.y,
          width: place.width,
          height: place.height,
        }}
      >
        {faces.map(({ x, y, width, height }, i) => (
          <ellipse
            key={i}
            cx={x + width / 2}
            cy={y + height / 2}
            rx={(1.2 * width) / 2}
            ry={(1.2 * height) / 2}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
    </div>
  );
}
