import { draggedRect, largestOfShape, type Grip } from '@/core/frame/arrange';
import { frameSize, pictureRect } from '@/core/frame/framing';
import { formatNumber } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import type { Size } from '@/core/raster/region';
import type { Recipe } from '@/core/recipe/recipe';
import type { Work } from '@/core/recipe/work';
import { framingOf } from '@/core/recipe/plan';
import type { WorkBench } from '../../../use-work';
import { FramePane } from '../paper/FramePane';
import type { PaneOriginal } from '../../../preview-original';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  recipe: Recipe;
  original: PaneOriginal;
  view: Size;
  /** how a dragged part is shaped */
  held: 'free' | 'paper';
  onTrouble(words: string | null): void;
}

/** The part of the picture that becomes the work, to be dragged on the whole of it. */
export function CropOnPicture({ bench, recipe, original, view, held, onTrouble }: Props) {
  const { work, sketch, change, job } = bench;
  const rect = pictureRect(bench.original.size, framingOf(bench.original, work));
  const { vector } = bench.original;
  // Parts of shapes are counted in hundredths of points.
  const words = (value: number) => (vector ? formatNumber((value / 7200) * MM_PER_INCH, 1) : value);
  const dragged = (grip: Grip, by: { x: number; y: number }) => (next: Work) => {
    const framing = framingOf(bench.original, next);
    const before = pictureRect(bench.original.size, framing);
    const shape = held === 'paper' ? shapeOfPaper(bench) : null;
    const start = shape && grip.x === 0 && grip.y === 0 ? before : shapedFirst(before, shape);
    next.framing.crop = draggedRect(
      start,
      grip,
      by,
      frameSize(bench.original.size, framing),
      shape,
    );
  };
  return (
    <FramePane
      bench={bench}
      original={original}
      recipe={recipe}
      view={view}
      rect={rect}
      ruled={work.framing.straighten !== 0}
      name={say`Part of the picture`}
      onDrag={(grip, by) => sketch(dragged(grip, by))}
      onDrop={(grip, by) => change(say`Part of the picture`, dragged(grip, by))}
      onGiveUp={() => sketch(null)}
      onTrouble={onTrouble}
      caption={
        <>
          <b className="figure">
            {words(rect.width)} × {words(rect.height)} {vector ? 'mm' : 'px'}
          </b>
          <span className="figure">
            {say`of ${words(job.piece.findings.width)} × ${words(job.piece.findings.height)}`}
          </span>
        </>
      }
    />
  );
}

const shapedFirst = (rect: ReturnType<typeof pictureRect>, shape: number | null) =>
  shape && Math.abs(rect.width / rect.height / shape - 1) > 0.01
    ? largestOfShape(rect, shape)
    : rect;

/** Width over height of the ordered paper; null where it is open and follows the picture. */
export function shapeOfPaper({ resolved, work }: WorkBench): number | null {
  const { width, height } = work.paper;
  if (!resolved.ok || !width || !height) return null;
  const { ordered } = resolved.plan;
  return ordered.width / ordered.height;
}
