import { whole } from '../raster/region';
import type { Source } from '../raster/source';
import { graphOf } from '../recipe/graph';
import type { Recipe } from '../recipe/recipe';
import { isOfKind } from '../steps';
import { UPSCALING } from '../learned/enlarger';
import { pdfOf } from '../tracing/pdf';
import { svgOf } from '../tracing/svg';
import { traceWithPauses } from '../tracing/trace';
import { tracingOf } from '../tracing/traced';
import { pauseWith, renderNode, type RenderTools } from './render';

/** Forms in which a drawing is saved. */
export const DRAWN_AS = { svg: svgOf, pdf: pdfOf };
export type DrawnAs = keyof typeof DRAWN_AS;

/**
 * The areas and edges that a recipe draws its picture from, as a file of shapes at the size of its print, without what is done after
 * the enlargement.
 * @throws RangeError where the recipe doesn't trace
 */
export async function drawingOf(
  source: Source,
  recipe: Recipe,
  { title, as }: { title: string; as: DrawnAs },
  tools: RenderTools,
  signal?: AbortSignal,
): Promise<string> {
  const { steps } = recipe;
  const at = steps.findIndex((step) => isOfKind(step, 'resample'));
  const step = steps[at];
  if (!step || !isOfKind(step, 'resample') || step.numbers.method !== 'traced')
    throw new RangeError('drawing: the picture is not traced');
  const before = steps.slice(0, at);
  const { result } = graphOf({ ...recipe, steps: before });
  const upscaled = before.some((one) => isOfKind(one, 'upscale')) ? UPSCALING : 1;
  const tracing = await tracingOf(result.hash, async () => {
    const all = await renderNode(source, result, tools).read(whole(result.size), signal);
    return traceWithPauses(all, upscaled, () => pauseWith(tools, signal));
  });
  return DRAWN_AS[as](tracing, step.numbers, recipe.target.ppi, title);
}
