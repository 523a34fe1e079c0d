import { leastPpi, planPrint, Ppi, type Picture, type PrintPlan } from './plan';
import type { Paper } from './paper';

/** A way to make a print, to be compared with others. */
export interface Way {
  name: 'tag only' | 'the eye' | 'the device' | 'twice the device';
  ppi: number;
  plan: PrintPlan | null;
}

/**
 * The ways that are worth comparing for a print: its own pixels with another tag, what the eye
 * needs, what the device shows, and twice that.
 * @param eye,device resolutions in ppi
 */
export function waysToPrint(
  picture: Picture,
  paper: Paper,
  plan: PrintPlan,
  { eye, device }: { eye: number; device: number },
): Way[] {
  const way = (name: Way['name'], wanted: number): Way => {
    const ppi = Ppi.parse(Math.min(4800, Math.max(1, wanted)));
    const planned = planPrint(picture, paper, ppi);
    return { name, ppi, plan: planned.ok ? planned.plan : null };
  };
  return [
    ...(plan.vector ? [] : [way('tag only', leastPpi(plan))]),
    way('the eye', Math.ceil(eye)),
    way('the device', device),
    way('twice the device', 2 * device),
  ];
}

/** Largest paper without new pixels, in inches, at a resolution. */
export const largestAt = (pixels: { width: number; height: number }, ppi: number) => ({
  width: pixels.width / ppi,
  height: pixels.height / ppi,
});
