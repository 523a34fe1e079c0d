import { z } from 'zod';
import { Ppi } from '../measure/plan';
import { DeviceDescription } from '../device/protocol';

/** A device of the shop: what it said last of itself, where it is one that files can be sent to. */
export const ShopDevice = z.object({
  id: z.int(),
  name: z.string(),
  /** resolution beyond which it shows no more */
  ppi: Ppi,
  /** whether it can be sent to, and whether it answers just now */
  connected: z.boolean(),
  answers: z.boolean(),
  /** since when that is so, in milliseconds since 1970 */
  since: z.int().nullable(),
  description: DeviceDescription.nullable(),
});
export type ShopDevice = z.infer<typeof ShopDevice>;

/** Where a device listens: on this machine alone, so that no call leads elsewhere. */
export const DeviceAddress = z
  .string()
  .trim()
  .regex(
    /^http:\/\/(127\.0\.0\.1|localhost):\d{1,5}$/,
    'An address on this machine: http://127.0.0.1:9100',
  );

/** A device that is to be added. */
export const NewDevice = z.object({ address: DeviceAddress });
export type NewDevice = z.infer<typeof NewDevice>;
