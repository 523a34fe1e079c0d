import { z } from 'zod';
import { Turn } from '@/core/frame/framing';
import { cells, clip, contains } from '@/core/raster/region';
import { TILE } from '@/core/raster/tiles';
import { RESULT_LIMIT } from '@/core/measure/plan';
import { drawnCells } from '@/server/files/drawn-cells';
import { findOriginal } from '@/server/db/originals';
import { store } from '@/server/files/store';
import { readyFiles } from '@/server/files/treated-on-page';
import { forever, pageFrom, query, route } from '@/server/http/route';
import { Problem } from '@/server/problem';
import { CELL } from '@/server/codecs/shapes/drawing';

const side = z.coerce.number().int().min(1).max(RESULT_LIMIT.side);
/** In nominal pixels of the page. */
const place = z.coerce.number().min(-1e9).max(1e9);
const span = z.coerce.number().positive().max(1e9);

const Asked = z.object({
  width: side,
  height: side,
  x: place,
  y: place,
  w: span,
  h: span,
  turn: z.coerce.number().pipe(Turn),
  channels: z.coerce.number().pipe(z.union([z.literal(3), z.literal(4)])),
  column: z.coerce.number().int().min(0),
  row: z.coerce.number().int().min(0),
  /** what treated pictures on it are called together */
  treated: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
});

/** Samples of one tile of a page of shapes, drawn at the size that is asked for. */
export const GET = route<{ digest: string; page: string }>(async ({ db, params, request }) => {
  const { name, digest } = await findOriginal(db, params.digest);
  const asked = query(request, Asked);
  const size = { width: asked.width, height: asked.height };
  const corner = { x: asked.column * TILE, y: asked.row * TILE };
  const tile = clip({ ...corner, width: TILE, height: TILE }, size);
  const cell = cells(tile, CELL, size)[0];
  if (tile.width === 0 || tile.height === 0 || !cell || !contains(cell, tile)) {
    throw new Problem('missing', 'This tile lies outside the picture.');
  }
  const drawing = {
    file: store.original(digest),
    name,
    page: pageFrom(params.page),
    drawn: {
      source: { x: asked.x, y: asked.y, width: asked.w, height: asked.h },
      turn: asked.turn,
    },
    size,
    channels: asked.channels,
    ...(asked.treated && { treated: await readyFiles(db, asked.treated, request.signal) }),
  };
  const samples = await drawnCells.cell(drawing, cell);
  const { channels } = asked;
  const out = new Uint8Array(tile.width * tile.height * channels);
  const rowBytes = tile.width * channels;
  for (let y = 0; y < tile.height; y++) {
    const at = ((tile.y - cell.y + y) * cell.width + tile.x - cell.x) * channels;
    out.set(samples.subarray(at, at + rowBytes), y * rowBytes);
  }
  return new Response(out, {
    headers: { ...forever, 'Content-Type': 'application/octet-stream' },
  });
});
