import { z } from 'zod';
import {
  DeviceDescription,
  DeviceEvent,
  PrintItem,
  PrintOrder,
  PrintStatus,
} from '@/core/device/protocol';

/** A page of a print's file as it was read: its size on paper, and the mean amount of each ink on it, 0–1. */
export const PageRead = z.object({
  width: z.number(),
  height: z.number(),
  coverage: DeviceDescription.shape.inks,
  /** dots that it is printed with */
  dots: PrintStatus.shape.dots.unwrap(),
});
export type PageRead = z.infer<typeof PageRead>;

/** A print as a machine remembers it. */
export const Print = z.object({
  order: PrintOrder,
  state: z.enum(['receiving', 'reading', 'ready', 'refused', 'cancelled']),
  received: z.int(),
  pages: z.array(PageRead),
  items: z.array(PrintItem),
  spoilt: z.number(),
  words: z.string().nullable(),
});
export type Print = z.infer<typeof Print>;

/** All that a machine remembers while its power is off. */
export const Memory = z.object({
  prints: z.array(Print),
  /** what is being printed: items side by side, by their prints and places among these */
  row: z
    .object({
      items: z.array(z.object({ key: z.string(), index: z.int() })),
      length: z.number(),
      /** millimetres of it that are on the material */
      done: z.number(),
    })
    .nullable(),
  loaded: DeviceDescription.shape.loaded,
  /** millimetres of the board that lies in it which are used */
  used: z.number(),
  inks: DeviceDescription.shape.inks,
  trouble: DeviceDescription.shape.trouble,
  /** the newest ones */
  events: z.array(DeviceEvent),
});
export type Memory = z.infer<typeof Memory>;
