import type { Rect } from '@/core/frame/framing';
import { cornersOn } from '@/core/placed/place';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  /** its number among the page's pictures */
  picture: number;
  /** where the paper lies on the stage, in CSS pixels */
  paper: Rect;
}

/** A picture on a page, outlined where the print shows it. */
export function PlacedMark({ bench, picture, paper }: Props) {
  const { resolved, original, job, work } = bench;
  const place = job.piece.findings.vector?.pictures[picture - 1]?.place;
  if (!resolved.ok || !place) return null;
  const { plan } = resolved;
  const drawn = { source: plan.source, turn: work.framing.turn };
  const corners = cornersOn(place, original.size, drawn, plan.picture).map(
    ([x, y]) => `${plan.picture.x + x},${plan.picture.y + y}`,
  );
  return (
    <div
      className="map-overlay"
      role="img"
      aria-label={say`Picture ${picture} outlined`}
      style={{ left: paper.x, top: paper.y, width: paper.width, height: paper.height }}
    >
      <svg
        className="placed-mark"
        viewBox={`0 0 ${plan.pixels.width} ${plan.pixels.height}`}
        preserveAspectRatio="none"
      >
        <polygon points={corners.join(' ')} vectorEffect="non-scaling-stroke" />
      </svg>
    </div>
  );
}
