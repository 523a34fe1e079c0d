import { z } from 'zod';
import { Ppi } from '../measure/plan';
import { Distance } from '../recipe/work';

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
  /** metres */
  distance: Distance,
});
export type Material = z.infer<typeof Material>;

/** No sheet or roll is longer, in millimetres. */
const SHEET_MM = 100_000;

/** A sheet, or a roll whose length is open; millimetres. */
export const Sheet = z.object({
  name: Name,
  width: z.number().positive().max(SHEET_MM),
  height: z.number().positive().max(SHEET_MM).nullable(),
});
export type Sheet = z.infer<typeof Sheet>;

/** What most shops print on. */
export const USUAL_MATERIALS: Material[] = [
  { name: 'Photo paper, satin', distance: 1 },
  { name: 'Canvas', distance: 2 },
  { name: 'Rigid board', distance: 2 },
  { name: 'Window film', distance: 3 },
  { name: 'Banner, 510 g', distance: 5 },
  { name: 'Mesh', distance: 12 },
];

/** Sheets and rolls that most shops have. */
export const USUAL_SHEETS: Sheet[] = [
  { name: 'A4', width: 210, height: 297 },
  { name: 'A3', width: 297, height: 420 },
  { name: 'A2', width: 420, height: 594 },
  { name: 'A1', width: 594, height: 841 },
  { name: 'A0', width: 841, height: 1189 },
  { name: '50 × 70 cm', width: 500, height: 700 },
  { name: '70 × 100 cm', width: 700, height: 1000 },
  { name: 'Roll 61 cm', width: 610, height: null },
  { name: 'Roll 107 cm', width: 1070, height: null },
  { name: 'Roll 137 cm', width: 1370, height: null },
  { name: 'Roll 160 cm', width: 1600, height: null },
];

/** A unit that lengths are typed in where none is said. */
export const ShopUnit = z.enum(['mm', 'cm', 'm', 'in', 'ft']);
export type ShopUnit = z.infer<typeof ShopUnit>;

/** What the shop prints with and on, and the unit that it measures in. */
export const Lists = z.object({
  devices: z.array(Device),
  materials: z.array(Material),
  sheets: z.array(Sheet),
  unit: ShopUnit,
});
export type Lists = z.infer<typeof Lists>;
/** What a size that is typed is read by. */
export type Sizing = Pick<Lists, 'sheets' | 'unit'>;
