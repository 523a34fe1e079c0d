import { whole } from '../raster/region';
import type { Source } from '../raster/source';
import { graphOf } from '../recipe/graph';
import type { Recipe } from '../recipe/recipe';
import { isOfKind } from '../steps';
import { UPSCALING } from '../learned/enlarger';
import { svgOf } from '../tracing/svg';
import { trace } from '../tracing/trace';
import { tracingOf } from '../tracing/traced';
import { renderNode, type RenderTools } from './render';

/**
 * The areas and edges that a recipe draws its picture from, as SVG at the size of its print, without what is done after
 * the enlargement.
 * @throws RangeError where the recipe doesn't trace
 */
export async function drawingOf(
  source: Source,
  recipe: Recipe,
  title: string,
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
  const tracing = await tracingOf(result.hash, async () =>
    trace(await renderNode(source, result, tools).read(whole(result.size), signal), upscaled),
  );
  return svgOf(tracing, step.numbers, recipe.target.ppi, title);
}
