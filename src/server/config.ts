import { join, resolve } from 'node:path';
import { z } from 'zod';

const Environment = z.object({
  /** folder that holds the database, originals and results */
  LONTANO_DATA: z.string().min(1).default('data'),
  /** largest upload in megabytes */
  LONTANO_UPLOAD_MB: z.coerce.number().positive().default(200),
  /** largest picture taken in, in megapixels */
  LONTANO_PICTURE_MP: z.coerce.number().positive().default(400),
  /** gigabytes that may be kept of what can be made again */
  LONTANO_KEEP_GB: z.coerce.number().positive().default(20),
  /** where it is served */
  HOST: z.string().min(1).default('127.0.0.1'),
  PORT: z.coerce.number().int().min(1).max(65_535).default(4310),
  /** further names that it may be called by, with commas between */
  LONTANO_HOSTS: z.string().default(''),
  /** stand-ins for devices, which ship with it */
  LONTANO_STAND_INS: z.enum(['on', 'off']).default('on'),
  /** the file that names folders which are read or written; folders.json in the data folder unless it is given */
  LONTANO_FOLDERS: z.string().min(1).optional(),
  /** threads that render */
  LONTANO_THREADS: z.coerce.number().int().min(1).max(64).optional(),
});

/** Settings of this process, from its environment; read at first use. */
export function config() {
  const environment = Environment.parse(process.env);
  const data = resolve(environment.LONTANO_DATA);
  return {
    data,
    database: join(data, 'lontano.sqlite'),
    host: environment.HOST,
    port: environment.PORT,
    hosts: environment.LONTANO_HOSTS.split(',')
      .map((name) => name.trim().toLowerCase())
      .filter(Boolean),
    keptBytes: environment.LONTANO_KEEP_GB * 1e9,
    uploadBytes: environment.LONTANO_UPLOAD_MB * 1e6,
    picturePixels: environment.LONTANO_PICTURE_MP * 1e6,
    standIns: environment.LONTANO_STAND_INS === 'on',
    folders: resolve(
      /* turbopackIgnore: true */ environment.LONTANO_FOLDERS ?? join(data, 'folders.json'),
    ),
    threads: environment.LONTANO_THREADS,
  };
}
