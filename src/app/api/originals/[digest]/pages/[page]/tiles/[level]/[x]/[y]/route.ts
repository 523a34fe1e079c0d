import { clip } from '@/core/raster/region';
import { LEVELS, TILE } from '@/core/raster/tiles';
import { openLookedAt } from '@/server/files/looked-at';
import { forever, numberFrom, pageFrom, route } from '@/server/http/route';
import { Problem } from '@/server/problem';

interface Params {
  digest: string;
  page: string;
  /** how often the picture was halved */
  level: string;
  x: string;
  y: string;
}

/** Raw samples of one tile of an original, or of a finished run's file, or of either halved: interleaved RGB(A), 8 or 16 bit. */
export const GET = route<Params>(async ({ db, params }) => {
  const level = numberFrom(params.level);
  if (level > LEVELS) throw new Problem('missing', 'The picture is not kept that small.');
  const source = await openLookedAt(db, params.digest, pageFrom(params.page), level);
  try {
    const tile = {
      x: numberFrom(params.x) * TILE,
      y: numberFrom(params.y) * TILE,
      width: TILE,
      height: TILE,
    };
    const region = clip(tile, source.size);
    if (region.width === 0 || region.height === 0) {
      throw new Problem('missing', 'This tile lies outside the picture.');
    }
    const samples = await source.samples(region);
    return new Response(new Uint8Array(samples), {
      headers: { ...forever, 'Content-Type': 'application/octet-stream' },
    });
  } finally {
    await source.close();
  }
});
