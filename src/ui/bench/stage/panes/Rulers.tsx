import { MM_PER_INCH } from '@/core/measure/units';
import type { PrintPlan } from '@/core/measure/plan';
import type { Size } from '@/core/raster/region';
import { useLooking } from '../modes/mode';
import type { Layer } from './layers';
import { paperPlace } from './places';
import { ticksOf } from './ticks';

interface Props {
  plan: PrintPlan;
  /** resolution of the result, in pixels per inch */
  ppi: number;
  layer: Layer;
  view: Size;
  centre: { x: number; y: number };
}

/** Width of a ruler, in CSS pixels. */
const THICK = 18;

/** Rulers along the upper and left side of a pane, from where the sheet is cut. */
export function Rulers({ plan: { trim, pixels }, ppi, layer, view, centre }: Props) {
  const ruled = useLooking((looking) => looking.ruled);
  if (!ruled) return null;
  const paper = paperPlace(layer, view, centre);
  const ratio = devicePixelRatio || 1;
  const [width, height] = [view.width / ratio, view.height / ratio];
  /** CSS pixels to a millimetre, along each side */
  const mm = (side: number, count: number) => (side / count) * (ppi / MM_PER_INCH);
  const across = {
    origin: paper.x + (trim.x / pixels.width) * paper.width,
    mm: mm(paper.width, pixels.width),
  };
  const down = {
    origin: paper.y + (trim.y / pixels.height) * paper.height,
    mm: mm(paper.height, pixels.height),
  };
  const { ticks: upper, unit } = ticksOf(across, width);
  const { ticks: left } = ticksOf(down, height);
  return (
    <svg className="rulers" width={width} height={height} aria-hidden>
      <rect width={width} height={THICK} />
      <rect width={THICK} height={height} />
      {upper.map(({ at, label }) => (
        <g key={at} transform={`translate(${at} 0)`}>
          <line y1={label === null ? THICK - 5 : THICK - 9} y2={THICK} />
          {label !== null && (
            <text x={3} y={10}>
              {label}
            </text>
          )}
        </g>
      ))}
      {left.map(({ at, label }) => (
        <g key={at} transform={`translate(0 ${at})`}>
          <line x1={label === null ? THICK - 5 : THICK - 9} x2={THICK} />
          {label !== null && <text transform="translate(10 -3) rotate(-90)">{label}</text>}
        </g>
      ))}
      <rect className="corner" width={THICK} height={THICK} />
      <text x={2} y={12}>
        {unit}
      </text>
    </svg>
  );
}
