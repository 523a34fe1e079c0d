import { whole } from '@/core/raster/region';
import type { SheetStop } from '@/core/shop/sheet';
import { blockGrid } from '@/core/stops/block-grid';
import { findStops } from '@/core/stops/find';
import { STOP_WORDS } from '@/core/stops/stop';
import type { RawFile } from '@/server/codecs/raw';
import type { Input } from './input';

/** Places of the original that are worth a look; its middle where none stands out. */
export async function placesOf({ findings }: Input, original: RawFile): Promise<SheetStop[]> {
  const { size } = original;
  const { faces } = findings;
  const grid = blockGrid(findings);
  const stops = await findStops({ original, within: whole(size), grid, faces });
  const found = stops.map(({ kind, x, y, figure }) => {
    const { title, figure: words } = STOP_WORDS[kind];
    return { title, words: words(figure), x: x / size.width, y: y / size.height };
  });
  return found.length > 0 ? found : [{ title: 'the middle', words: '', x: 0.5, y: 0.5 }];
}
