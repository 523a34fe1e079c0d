import { z } from 'zod';
import { Output } from '@/core/output/output';
import { bytes, query, route } from '@/server/http/route';
import { jpegCosts, jpegOf } from '@/server/output/jpeg-cost';
import { Problem } from '@/server/problem';

/** The most pixels that are tried at a time. */
const MOST = 1 << 20;
const Side = z.coerce.number().int().min(8).max(4096);
const Asked = z.object({
  width: Side,
  height: Side,
  sampling: Output.shape.sampling,
  progressive: z.stringbool().default(false),
  /** places of equal height that lie below each other */
  places: z.coerce.number().int().min(1).max(64).default(1),
  /** one quality, whose JPEG is the answer; the costs of all without it */
  quality: z.coerce.number().int().min(1).max(100).optional(),
});

/** What a JPEG costs the pixels that come as its body, interleaved RGB. */
export const POST = route(async ({ request }) => {
  const { width, height, quality, places, ...how } = query(request, Asked);
  if (width * height > MOST) throw new Problem('usage', 'These are more pixels than are tried.');
  if (height % places !== 0) throw new Problem('usage', 'The places are of different height.');
  const rgb = await bytes(request, width * height * 3);
  if (rgb.length !== width * height * 3) {
    throw new Problem('usage', 'The pixels don’t fill their width and height.');
  }
  if (quality === undefined) return jpegCosts(rgb, { width, height }, how, places);
  const jpeg = await jpegOf(rgb, { width, height }, how, quality);
  return new Response(new Uint8Array(jpeg), { headers: { 'Content-Type': 'image/jpeg' } });
});
