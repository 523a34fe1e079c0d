import type { Knex } from 'knex';
import type { Region } from '@/core/raster/region';
import { levelSize } from '@/core/raster/tiles';
import { readDevice } from '../db/devices';
import { readSending } from '../db/sendings';
import type { Samples } from '../files/finished';
import { Problem } from '../problem';
import { DeviceClient } from './client';

/**
 * What a print looks like, as its device shows it, halved so many times.
 * @throws Problem where nothing was printed by this key, or its device is not there
 */
export async function openPrinted(db: Knex, key: string, level: number): Promise<Samples> {
  const { dots, deviceId, device } = await readSending(db, key);
  const { address } = await readDevice(db, deviceId);
  if (!dots || !address) throw new Problem('missing', 'There is no print to look at.');
  const client = new DeviceClient(address);
  return {
    size: levelSize(dots, level),
    close: async () => {},
    samples: (region: Region) =>
      client.look(key, { level, ...region }).catch((error: unknown) => {
        throw new Problem('missing', `${device} does not show this print: ${String(error)}`);
      }),
  };
}
