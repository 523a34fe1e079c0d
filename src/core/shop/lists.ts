import { z } from 'zod';
import { Ppi } from '../measure/plan';

const Name = z.string().trim().min(1).max(60);

/** A printer of the shop. */
export const Device = z.object({
  name: Name,
  /** resolution beyond which it shows no more */
  ppi: Ppi,
});
export type Device = z.infer<typeof Device>;

/** What is printed on, and from how far such prints are usually seen. */
export const Material = z.object({
  name: Name,
  /** metres */ distance: z.number().min(0.1).max(200),
});
export type Material = z.infer<typeof Material>;

/** A sheet, or a roll whose length is open; millimetres. */
export const Sheet = z.object({
  name: Name,
  width: z.number().positive(),
  height: z.number().positive().nullable(),
});
export type Sheet = z.infer<typeof Sheet>;

/** What the shop prints with and on. */
export const Lists = z.object({
  devices: z.array(Device),
  materials: z.array(Material),
  sheets: z.array(Sheet),
});
export type Lists = z.infer<typeof Lists>;
