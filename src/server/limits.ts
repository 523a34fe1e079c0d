import type { Knex } from 'knex';
import { config } from './config';
import { readSettings } from './db/settings';

/** Bounds of the server's configuration, in the units that people set limits in. */
export const bounds = () => {
  const { uploadBytes, picturePixels, keptBytes } = config();
  return { uploadMb: uploadBytes / 1e6, pictureMp: picturePixels / 1e6, keepGb: keptBytes / 1e9 };
};

/** How much is taken in and kept: what the shop set, and never more than the server's configuration allows. */
export async function limitsOf(
  db: Knex,
): Promise<{ uploadBytes: number; picturePixels: number; keptBytes: number }> {
  const { limits } = await readSettings(db);
  const { uploadMb, pictureMp, keepGb } = bounds();
  return {
    uploadBytes: Math.min(limits.uploadMb ?? uploadMb, uploadMb) * 1e6,
    picturePixels: Math.min(limits.pictureMp ?? pictureMp, pictureMp) * 1e6,
    keptBytes: Math.min(limits.keepGb ?? keepGb, keepGb) * 1e9,
  };
}
