import { frameSize, rotation, type Framing } from '../../frame/framing';
import type { PrintPlan } from '../../measure/plan';
import type { Size } from '../../raster/region';

/** Where points of the original's grid come to lie on the picture that is made of it. */
export function onTarget(plan: PrintPlan, framing: Framing, original: Size) {
  const { source, picture } = plan;
  const across = picture.width / source.width;
  const down = picture.height / source.height;
  const frame = frameSize(original, { ...framing, grid: null });
  const { cos, sin } = rotation(framing.straighten);
  const turned = ([x, y]: [number, number]): [number, number] => {
    switch (framing.turn) {
      case 90:
        return [original.height - y, x];
      case 180:
        return [original.width - x, original.height - y];
      case 270:
        return [y, original.width - x];
      default:
        return [x, y];
    }
  };
  return {
    /** pixels of the picture to one of the original */
    scale: Math.sqrt(across * down),
    point(x: number, y: number): [number, number] {
      const [u, v] = turned([x, y]);
      const dx = u - frame.width / 2;
      const dy = v - frame.height / 2;
      // Straightening turns the picture clockwise about its middle.
      const onX = frame.width / 2 + cos * dx - sin * dy;
      const onY = frame.height / 2 + sin * dx + cos * dy;
      return [(onX - source.x) * across, (onY - source.y) * down];
    },
  };
}
