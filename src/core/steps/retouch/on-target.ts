import type { Framing } from '../../frame/framing';
import { framePlaces } from '../../frame/places';
import type { PrintPlan } from '../../measure/plan';
import type { Size } from '../../raster/region';

/** Where points of the original's grid come to lie on the picture that is made of it. */
export function onTarget(plan: PrintPlan, framing: Framing, grid: Size) {
  const { source, picture } = plan;
  const across = picture.width / source.width;
  const down = picture.height / source.height;
  const places = framePlaces(grid, { ...framing, grid: null });
  return {
    /** pixels of the picture to one of the original */
    scale: Math.sqrt(across * down),
    point(x: number, y: number): [number, number] {
      const [u, v] = places.toFrame(x, y);
      return [(u - source.x) * across, (v - source.y) * down];
    },
  };
}
