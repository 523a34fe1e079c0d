import type { Size } from '@/core/raster/region';
import { MM_PER_INCH } from '@/core/measure/units';

/** Metres of wall that the sketch shows, and pixels a metre. */
const SCALE = 18.2;
const FLOOR = 44.5;
/** Middle of a print that hangs at eye height. */
const HANGS_AT = 1.08;

/** The print as a rectangle to scale beside a person of 1.7 m. */
export function WallSketch({ inches }: { inches: Size }) {
  const metres = (value: number) => (value * MM_PER_INCH) / 1000;
  // Prints beyond the sketch shrink it, person and all.
  const fit = Math.min(
    1,
    62 / (metres(inches.width) * SCALE),
    42 / (metres(inches.height) * SCALE),
  );
  const scale = SCALE * fit;
  const width = Math.max(1.5, metres(inches.width) * scale);
  const height = Math.max(1.5, metres(inches.height) * scale);
  const bottom = Math.min(FLOOR - 1, Math.max(FLOOR - HANGS_AT * scale + height / 2, height + 1));
  const person = 26 * fit;
  return (
    <svg width="92" height="48" viewBox="0 0 92 48" aria-hidden>
      <line x1="0" y1={FLOOR} x2="92" y2={FLOOR} stroke="#9aa19d" />
      <rect x="24" y={bottom - height} width={width} height={height} fill="var(--bottle)" />
      <g fill="var(--soft)" transform={`translate(11 ${FLOOR}) scale(${person / 26})`}>
        <circle cx="0" cy="-23.500" r="2.6" />
        <path d="M-3.400 -19q3.400-2.600 6.800 0l.6 9h-1.600l-.5 10h-3.800l-.5-10h-1.600z" />
      </g>
    </svg>
  );
}
