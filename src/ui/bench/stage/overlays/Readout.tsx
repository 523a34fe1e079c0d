import { useEffect, useState, type RefObject } from 'react';
import { formatNumber } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import type { Size } from '@/core/raster/region';
import type { Recipe } from '@/core/recipe/recipe';
import { useOpen } from '../../ticket/open';
import { panesOf, pointedAt } from '../pointed';
import { say } from '@/core/words/say';

interface Props {
  frame: RefObject<HTMLElement | null>;
  recipe: Recipe;
  /** where the sheet is cut, in pixels of the result */
  trim: { x: number; y: number };
  /** device pixels of a pane, and of it to one of the result */
  view: Size;
  scale: number;
}

/** What lies under the pointer: where on the print, and what every pane shows there. */
interface Under {
  /** pixel of the result, and millimetres from the upper left corner of what is cut */
  x: number;
  y: number;
  mm: [number, number];
  panes: { name: string; colour: [number, number, number] }[];
}

/** Place and colours under the pointer, of all panes at once; while Compare is open. */
export function Readout(props: Props) {
  const comparing = useOpen((open) => open.section === 'compare');
  return comparing ? <Following {...props} /> : null;
}

function Following({ frame, recipe, trim, view, scale }: Props) {
  const [under, setUnder] = useState<Under | null>(null);
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    let asked = 0;
    const follow = (event: PointerEvent) => {
      cancelAnimationFrame(asked);
      // At most once a frame: reading pixels back takes its time.
      asked = requestAnimationFrame(() => setUnder(underPointer(element, event)));
    };
    const leave = () => {
      cancelAnimationFrame(asked);
      setUnder(null);
    };
    const underPointer = (stage: HTMLElement, event: PointerEvent): Under | null => {
      const pointed = pointedAt(stage, event, recipe.target, { view, scale });
      if (!pointed) return null;
      const { u, v, x, y } = pointed;
      const { ppi } = recipe.target;
      const panes = panesOf(stage).flatMap((canvas): Under['panes'] => {
        const name = canvas.getAttribute('aria-label')!;
        const pixel = canvas.getContext('2d')?.getImageData(Math.floor(u), Math.floor(v), 1, 1);
        // A difference is no colour of a picture, and beside a picture there is none.
        if (!pixel || pixel.data[3] === 0 || canvas.dataset.difference === 'true') return [];
        const [r, g, b] = pixel.data;
        return [{ name, colour: [r!, g!, b!] }];
      });
      const mm = (at: number) => (at / ppi) * MM_PER_INCH;
      return { x, y, mm: [mm(x - trim.x), mm(y - trim.y)], panes };
    };
    element.addEventListener('pointerdown', follow);
    element.addEventListener('pointermove', follow);
    element.addEventListener('pointerleave', leave);
    return () => {
      cancelAnimationFrame(asked);
      element.removeEventListener('pointerdown', follow);
      element.removeEventListener('pointermove', follow);
      element.removeEventListener('pointerleave', leave);
    };
  }, [frame, recipe, trim, view, scale]);

  if (!under) return null;
  return (
    <div className="readout figure" aria-hidden>
      <span>{say`${formatNumber(under.mm[0], 1)} × ${formatNumber(under.mm[1], 1)} mm`}</span>
      <span>{say`px ${under.x}, ${under.y}`}</span>
      {under.panes.map(({ name, colour }, i) => (
        <span key={i}>
          <i style={{ background: `rgb(${colour.join(' ')})` }} />
          {name} <b>{colour.map((level) => String(level).padStart(3, '\u2007')).join(' ')}</b>
        </span>
      ))}
    </div>
  );
}
