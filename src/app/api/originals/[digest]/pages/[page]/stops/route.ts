import { z } from 'zod';
import { clip } from '@/core/raster/region';
import { blockGrid } from '@/core/stops/block-grid';
import type { Stop } from '@/core/stops/stop';
import { stopsOfPicture } from '@/server/codecs/pictures';
import { decodedPath, inspectedPage } from '@/server/files/take-in';
import { pageFrom, query, route } from '@/server/http/route';
import { Problem } from '@/server/problem';

const place = z.coerce.number().int().min(0);
const side = z.coerce.number().int().min(1);

/** The part of the page that lies on the paper, in its pixels. */
const Asked = z.object({ x: place, y: place, width: side, height: side });

/** Places of a page that are worth a look. */
export const GET = route<{ digest: string; page: string }>(
  async ({ db, params, request }): Promise<Stop[]> => {
    const { digest, name, page, findings } = await inspectedPage(
      db,
      params.digest,
      pageFrom(params.page),
    );
    if (findings.vector) throw new Problem('missing', 'Shapes have no pixels to look through.');
    const within = clip(query(request, Asked), findings);
    if (within.width === 0 || within.height === 0) {
      throw new Problem('missing', 'This part lies outside the picture.');
    }
    const raw = await decodedPath(digest, name, page);
    return stopsOfPicture({ raw, within, grid: blockGrid(findings), faces: findings.faces });
  },
);
