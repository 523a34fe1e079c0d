import { useRef } from 'react';
import { MM_PER_INCH } from '@/core/measure/units';
import type { Kind } from '@/core/inspect/kind';
import { eyeNeed } from '@/core/measure/verdict';
import { formatLength } from '@/core/measure/units';
import { formatNumber, formatPpi } from '@/core/measure/format';
import type { Size } from '@/core/raster/region';
import { say } from '@/core/words/say';

interface Props {
  inches: Size;
  metres: number;
  kind: Kind;
  onDrag(metres: number): void;
  onSet(metres: number): void;
}

const WIDTH = 312;
const WALL = 15;
const FLOOR = 92;
const EYE_HEIGHT = 1.6;

/** The reach of the drawing in metres: far enough that the figure stands inside it. */
const reachFor = (metres: number): number =>
  [3, 6, 12, 25, 50, 100, 200].find((reach) => metres <= reach * 0.9) ?? 220;

/**
 * The wall seen from the side with the print to scale, and a figure that is dragged nearer or
 * farther. A slider lies over the drawing, so that keys and pointers both move it.
 */
export function DistanceDrawing({ inches, metres, kind, onDrag, onSet }: Props) {
  const dragged = useRef<number | null>(null);
  // The drawing's scale stays while the figure is dragged.
  const reach = useRef(reachFor(metres));
  if (dragged.current === null) reach.current = reachFor(metres);
  const across = (WIDTH - WALL) / reach.current;
  // Heights have a scale of their own beyond a few metres; a person is always seen.
  const up = Math.min(44, Math.max(across, 26));
  const height = (inches.height * MM_PER_INCH) / 1000;
  const tall = Math.min(height * up, 84);
  const middle = Math.min(FLOOR - tall / 2 - 1, FLOOR - EYE_HEIGHT * up);
  const eye = { x: WALL + metres * across, y: FLOOR - EYE_HEIGHT * up };
  const step = reach.current <= 3 ? 1 : reach.current <= 6 ? 2 : reach.current / 3;
  const ticks = Array.from({ length: Math.floor(reach.current / step) }, (_, i) => (i + 1) * step);
  const label = say`${formatNumber(metres)} m · ${formatPpi(eyeNeed(metres, kind))} ppi`;
  const resolve = () => {
    if (dragged.current !== null) onSet(dragged.current);
    dragged.current = null;
  };
  const size = `${formatLength({ value: (inches.width * MM_PER_INCH) / 10, unit: 'cm' }, 1).replace(' cm', '')} × ${formatLength({ value: (inches.height * MM_PER_INCH) / 10, unit: 'cm' }, 1)}`;
  return (
    <div className="distance-drawing">
      <input
        type="range"
        aria-label={say`Viewing distance in metres`}
        aria-valuetext={label}
        min={0.1}
        max={reach.current}
        step={reach.current <= 6 ? 0.05 : 0.5}
        value={metres}
        onChange={(event) => {
          dragged.current = Math.max(0.1, Number(event.target.value));
          onDrag(dragged.current);
        }}
        onPointerUp={resolve}
        onKeyUp={resolve}
        onBlur={resolve}
      />
      <svg viewBox={`0 0 ${WIDTH} 112`} aria-hidden>
        <line x1="0" y1={FLOOR + 0.5} x2={WIDTH} y2={FLOOR + 0.5} stroke="var(--ink)" />
        <rect x="6" y="4" width="4" height={FLOOR - 4} fill="var(--ink)" />
        <path
          d={`M${WALL} ${middle - tall / 2}L${eye.x} ${eye.y}L${WALL} ${middle + tall / 2}z`}
          fill="var(--bottle)"
          fillOpacity=".09"
          stroke="var(--bottle)"
          strokeWidth=".8"
        />
        <rect x="10" y={middle - tall / 2} width="5" height={tall} fill="var(--bottle)" />
        <g
          className="walker"
          fill="var(--ink)"
          transform={`translate(${eye.x} ${FLOOR}) scale(${(1.72 * up) / 64})`}
        >
          <circle cx="0" cy="-59" r="5.2" />
          <path d="M-5.500 -50q5.500-4.500 11 0l1.200 23h-3.200l-.8 27h-5.400l-.8-27h-3.200z" />
          <path d="M-22 -8l6-4.500v9zM22 -8l-6-4.500v9z" fill="var(--bottle)" />
        </g>
        {ticks.map((tick) => (
          <g key={tick}>
            <line
              x1={WALL + tick * across}
              y1={FLOOR}
              x2={WALL + tick * across}
              y2={FLOOR + 4}
              stroke="#9aa19d"
            />
            {Math.abs(tick - metres) * across > 52 && (
              <text
                x={WALL + tick * across}
                y={FLOOR + 16}
                textAnchor={tick === reach.current ? 'end' : 'middle'}
              >
                {formatNumber(tick, 0)} m
              </text>
            )}
          </g>
        ))}
        <text
          x={Math.min(WIDTH - 44, Math.max(44, eye.x))}
          y={FLOOR + 16}
          textAnchor="middle"
          style={{ fill: 'var(--bottle)', fontWeight: 650 }}
        >
          {label}
        </text>
        <text x={WIDTH} y="11" textAnchor="end">
          {size}
        </text>
      </svg>
    </div>
  );
}
