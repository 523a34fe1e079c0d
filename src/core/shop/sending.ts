import { z } from 'zod';
import { PrintKey, PrintStatus, Trouble } from '../device/protocol';
import { Initials } from './initials';

/** How a file stands on its way to a device and onto the material. */
export const SendingState = z.enum([
  'waiting',
  'sending',
  'queued',
  'printing',
  'printed',
  'failed',
  'cancelled',
]);
export type SendingState = z.infer<typeof SendingState>;

/** A finished file that was sent to a device, or is to be. */
export const Sending = z.object({
  key: PrintKey,
  jobId: z.int(),
  pieceId: z.int(),
  /** the run whose file it is */
  run: z.string(),
  fileName: z.string(),
  /** a proof, which is no print of the job */
  proof: z.boolean(),
  device: z.string(),
  deviceId: z.int(),
  material: z.string(),
  copies: z.int(),
  state: SendingState,
  /** of what its state says goes on, 0–1 */
  progress: z.number(),
  /** what the device stands still for */
  trouble: Trouble.nullable(),
  /** why it ended, or waits */
  words: z.string().nullable(),
  /** material that was spoilt, in millimetres */
  spoilt: z.number(),
  /** dots of the print, where one can look at it */
  dots: PrintStatus.shape.dots,
  at: z.int(),
  finishedAt: z.int().nullable(),
});
export type Sending = z.infer<typeof Sending>;

/** Whether it is not over. */
export const isOnItsWay = ({ state }: Pick<Sending, 'state'>): boolean =>
  !['printed', 'failed', 'cancelled'].includes(state);

/** Sends the file of a run to a device. */
export const SendRequest = z.object({
  device: z.int(),
  material: z.string().trim().min(1).max(60),
  copies: z.int().min(1).max(99).default(1),
  initials: Initials,
  /** why it is sent though nobody signed for it */
  why: z.string().trim().max(500).default(''),
});
export type SendRequest = z.input<typeof SendRequest>;

/** What is told of a sending while it goes on. */
export const SendingNews = Sending.pick({
  key: true,
  jobId: true,
  pieceId: true,
  state: true,
}).extend({
  /** counts all changes of sendings, so that none is taken for the one before */
  change: z.int(),
});
export type SendingNews = z.infer<typeof SendingNews>;
