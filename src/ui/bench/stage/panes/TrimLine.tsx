import type { PrintPlan } from '@/core/measure/plan';
import type { Size } from '@/core/raster/region';
import type { Layer } from './layers';
import { paperPlace } from './places';

interface Props {
  plan: PrintPlan;
  layer: Layer;
  view: Size;
  centre: { x: number; y: number };
}

/** Where the sheet is cut, if there is more of it than is ordered. */
export function TrimLine({ plan, layer, view, centre }: Props) {
  const { trim, pixels } = plan;
  if (trim.width === pixels.width) return null;
  const paper = paperPlace(layer, view, centre);
  const across = paper.width / pixels.width;
  const down = paper.height / pixels.height;
  return (
    <div
      className="trim-line"
      aria-hidden
      style={{
        transform: `translate(${paper.x + trim.x * across}px, ${paper.y + trim.y * down}px)`,
        width: trim.width * across,
        height: trim.height * down,
      }}
    />
  );
}
