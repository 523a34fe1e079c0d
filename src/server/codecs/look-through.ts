import type { Region } from '@/core/raster/region';
import { findStops } from '@/core/stops/find';
import type { Stop } from '@/core/stops/stop';
import { openRaw } from './raw';

/** Decoded pixels that are looked through, and what is known of them. */
export interface LookTask {
  raw: string;
  within: Region;
  grid: { x: number; y: number } | null;
}

/** Finds places worth a look where the pixels lie: of a large picture none of them need travel. */
export async function lookThrough({ raw, within, grid }: LookTask): Promise<Stop[]> {
  const original = await openRaw(raw);
  try {
    return await findStops({ original, within, grid });
  } finally {
    await original.close();
  }
}
