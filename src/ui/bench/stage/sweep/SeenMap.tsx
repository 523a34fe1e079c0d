import { useLayoutEffect, useRef } from 'react';
import type { WorkBench } from '../../use-work';
import { useSwept } from './use-sweep';

/** Bottle, as what is done. */
const SEEN = [30, 77, 63, 120] as const;

/** What was seen of the result, over the small map. */
export function SeenMap({ bench }: { bench: WorkBench }) {
  const swept = useSwept(bench);
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !swept) return;
    const { columns, rows } = swept.grid;
    const image = context.createImageData(columns, rows);
    swept.seen.forEach((one, i) => {
      if (one) image.data.set(SEEN, 4 * i);
    });
    context.putImageData(image, 0, 0);
  }, [swept]);
  if (!swept) return null;
  const { columns, rows } = swept.grid;
  return <canvas ref={canvas} className="seen-map" width={columns} height={rows} aria-hidden />;
}
