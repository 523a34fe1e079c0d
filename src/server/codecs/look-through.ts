import type { Face } from '@/core/faces/face';
import type { Region } from '@/core/raster/region';
import { findStops } from '@/core/stops/find';
import type { Stop } from '@/core/stops/stop';
import { openRaw } from './raw';

/** Decoded pixels that are looked through, and what is known of them. */
export interface LookTask {
  raw: string;
  within: Region;
  grid: { x: number; y: number } | null;
  faces: Face[];
}

/** Finds places worth a look where the pixels lie: of a large picture none of them need travel. */
export async function lookThrough({ raw, within, grid, faces }: LookTask): Promise<Stop[]> {
  const original = await openRaw(raw);
  try {
    return await findStops({ original, within, grid, faces });
  } finally {
    await original.close();
  }
}
