import { draggedPaper, type Grip } from '@/core/frame/arrange';
import { formatNumber, formatPpi } from '@/core/measure/format';
import { leastPpi, type PrintPlan } from '@/core/measure/plan';
import { MM_PER_INCH } from '@/core/measure/units';
import { verdict } from '@/core/measure/verdict';
import { around, type Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import type { Recipe } from '@/core/recipe/recipe';
import type { Work } from '@/core/recipe/work';
import { plannedPicture } from '@/core/recipe/plan';
import type { WorkBench } from '../../../use-work';
import { FramePane, type Guide } from './FramePane';
import type { PaneOriginal } from '../../../preview-original';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  plan: PrintPlan;
  recipe: Recipe;
  original: PaneOriginal;
  view: Size;
  onTrouble(words: string | null): void;
}

/** The paper with its trim, bleed and safe margin on the whole picture, to be dragged. */
export function PaperOnPicture({ bench, plan, recipe, original, view, onTrouble }: Props) {
  const { work, found, sketch, change, kept } = bench;
  const dragged = (grip: Grip, by: { x: number; y: number }) => (next: Work) => {
    // Drags count from what is kept, not from where the drag has led so far.
    if (!kept.ok) return;
    next.paper = draggedPaper(
      plannedPicture(bench.original, next),
      next.paper,
      kept.plan,
      grip,
      by,
    );
  };
  const { tone, short } = verdict(plan, work.distance, found);
  const side = (inches: number) => formatNumber((inches * MM_PER_INCH) / 10, 1);
  const label = (grip: Grip) =>
    grip.x === 0 && grip.y === 0
      ? say`Another part of the picture`
      : grip.x !== 0 && grip.y !== 0
        ? say`A larger or smaller part`
        : say`Longer or shorter paper`;
  return (
    <FramePane
      bench={bench}
      original={original}
      recipe={recipe}
      view={view}
      rect={plan.window}
      guides={guidesOf(plan, work)}
      // What a crop took away is not printed, however the paper lies.
      bare={{ colour: work.paper.colour, parts: around(plan.window, plan.source) }}
      name={say`Paper on the picture`}
      onDrag={(grip, by) => sketch(dragged(grip, by))}
      onDrop={(grip, by) => change(label(grip), dragged(grip, by))}
      onGiveUp={() => sketch(null)}
      onTrouble={onTrouble}
      caption={
        <>
          <b className="figure">
            {say`${side(plan.ordered.width)} × ${side(plan.ordered.height)} cm`}
          </b>
          <span className="figure">
            {plan.vector ? say`shapes` : say`${formatPpi(leastPpi(plan))} ppi`}
          </span>
          <span className={tone}>{short}</span>
        </>
      }
    />
  );
}

/** Bleed and safe margin, in pixels of the frame. */
function guidesOf({ window, ordered }: PrintPlan, { paper }: Work): Guide[] {
  const scale = window.width / ordered.width / MM_PER_INCH;
  const grown = (mm: number): Rect => ({
    x: window.x - mm * scale,
    y: window.y - mm * scale,
    width: window.width + 2 * mm * scale,
    height: window.height + 2 * mm * scale,
  });
  const guides: Guide[] = [];
  if (paper.bleed.mm > 0) guides.push({ kind: 'bleed', rect: grown(paper.bleed.mm) });
  const safe = grown(-paper.safe);
  if (paper.safe > 0 && safe.width > 0 && safe.height > 0)
    guides.push({ kind: 'safe', rect: safe });
  return guides;
}
