import { open, stat } from 'node:fs/promises';
import type { Knex } from 'knex';
import type { DeviceDescription, PrintStatus } from '@/core/device/protocol';
import { artifactPath, readTask } from '../db/tasks';
import { keepHeard, type FollowedDevice } from '../db/devices';
import {
  cancelRefused,
  keepSending,
  openSendings,
  readSending,
  type OpenSending,
  type SendingChange,
} from '../db/sendings';
import { store } from '../files/store';
import { DeviceClient, DeviceRefusal, NoAnswer } from './client';

/** What a print's state at its device is to the shop. */
const STATES = {
  receiving: 'sending',
  reading: 'queued',
  waiting: 'queued',
  printing: 'printing',
  printed: 'printed',
  refused: 'failed',
  cancelled: 'cancelled',
} as const;

const MISSING = 404;

/**
 * Asks a device how it stands, and brings what is on its way to it one step further. Whatever it is asked for twice it does
 * once, so that this can be begun again after any end.
 */
export async function followDevice(
  db: Knex,
  device: FollowedDevice,
  signal: AbortSignal,
): Promise<void> {
  const client = new DeviceClient(device.address);
  let heard: DeviceDescription;
  try {
    heard = await client.describe();
  } catch (error) {
    if (!(error instanceof NoAnswer) && !(error instanceof DeviceRefusal)) throw error;
    await keepHeard(db, device, null);
    for (const one of await openSendings(db, device.id)) {
      // What no device has yet can be taken back without one.
      if (one.cancelAsked && one.state === 'waiting')
        await keepSending(db, one, { state: 'cancelled' });
    }
    return;
  }
  await keepHeard(db, device, heard);
  for (const one of await openSendings(db, device.id)) {
    signal.throwIfAborted();
    try {
      await further(db, client, heard, one, signal);
    } catch (error) {
      // It is asked again next time.
      if (!(error instanceof NoAnswer)) throw error;
      return;
    }
  }
}

async function further(
  db: Knex,
  client: DeviceClient,
  heard: DeviceDescription,
  sending: OpenSending,
  signal: AbortSignal,
): Promise<void> {
  const { key } = sending;
  const known = await ifKnown(client.status(key));
  if (sending.cancelAsked && (await cancelled(db, client, sending, known))) return;
  if (!known && sending.state !== 'waiting' && sending.state !== 'sending') {
    await keepSending(db, sending, {
      state: 'failed',
      words: `${sending.device} does not know this print any more. Look whether it was printed before you send it again.`,
    });
    return;
  }
  if (!known || known.state === 'receiving') {
    await bring(db, client, sending, heard.partBytes, signal);
    return;
  }
  await keepSending(db, sending, changeBy(known, heard));
}

/** What a device's answer changes of a sending. */
function changeBy(status: PrintStatus, { trouble }: DeviceDescription): SendingChange {
  const state = STATES[status.state];
  const stands = state === 'queued' || state === 'printing';
  return {
    ...{ state, progress: status.progress, spoilt: status.spoilt, words: status.words },
    ...{ dots: status.items.length === 1 ? status.dots : null },
    trouble: stands && status.words !== null ? trouble : null,
  };
}

/** @returns whether that was all there was to do */
async function cancelled(
  db: Knex,
  client: DeviceClient,
  sending: OpenSending,
  known: PrintStatus | null,
): Promise<boolean> {
  if (!known) {
    await keepSending(db, sending, { state: 'cancelled' });
    return true;
  }
  try {
    const { state } = await client.cancel(sending.key);
    if (state !== 'cancelled') return false;
    await keepSending(db, sending, { state: 'cancelled' });
    return true;
  } catch (error) {
    if (!(error instanceof DeviceRefusal)) throw error;
    await cancelRefused(db, sending.key);
    return false;
  }
}

/** Brings a file to its device, from where it got to. */
async function bring(
  db: Knex,
  client: DeviceClient,
  sending: OpenSending,
  partBytes: number,
  signal: AbortSignal,
): Promise<void> {
  const { key, title, fileName, material, copies } = sending;
  const fail = (words: string) => keepSending(db, sending, { state: 'failed', words });
  const { artifacts } = await readTask(db, sending.run);
  const made = artifacts.find(({ role }) => role === 'result');
  const path = await artifactPath(db, sending.run, 'result');
  const file = path && store.named(path);
  if (!made?.digest || !file || !(await stat(file).catch(() => null))) {
    await fail(`${fileName} is not there any more. Run the trial again and send that.`);
    return;
  }
  try {
    const { bytes, digest } = made;
    let { received } = await client.order({
      key,
      title,
      fileName,
      bytes,
      digest,
      material,
      copies,
    });
    const handle = await open(file, 'r');
    try {
      while (received < bytes) {
        signal.throwIfAborted();
        if ((await readSending(db, key)).cancelAsked) return;
        const part = Buffer.allocUnsafe(Math.min(partBytes, bytes - received));
        const { bytesRead } = await handle.read(part, 0, part.length, received);
        if (bytesRead === 0) {
          await fail(`${fileName} is shorter than it was written. Run the trial again.`);
          return;
        }
        const bytesNow = part.subarray(0, bytesRead);
        ({ received } = await client.send(key, received, bytesNow, signal).catch(outOfPlace));
        await keepSending(db, sending, { state: 'sending', progress: received / bytes });
      }
    } finally {
      await handle.close();
    }
    await client.whole(key);
  } catch (error) {
    if (!(error instanceof DeviceRefusal)) throw error;
    await fail(`${sending.device} refused it: ${error.message}`);
  }
}

/** Another part was wanted: the device says which. */
function outOfPlace(error: unknown): { received: number } {
  if (error instanceof DeviceRefusal && error.received !== undefined) {
    return { received: error.received };
  }
  throw error;
}

async function ifKnown(asked: Promise<PrintStatus>): Promise<PrintStatus | null> {
  try {
    return await asked;
  } catch (error) {
    if (error instanceof DeviceRefusal && error.status === MISSING) return null;
    throw error;
  }
}
