import { setPriority } from 'node:os';
import { join } from 'node:path';
import type { AddressInfo } from 'node:net';
import sharp from 'sharp';
import { config } from '@/server/config';
import { startWatch } from '@/server/sandbox/serve';
import { workIn } from '@/server/supervisor/lock';
import { Device } from './device';
import { MODELS, type ModelName } from './models';
import { serveDevice } from './serve-device';

/** A stand-in for a device, as a process: started and kept alive by the supervisor, told which it is. */
const TICK_MS = 100;

setPriority(10);
sharp.cache(false);
sharp.concurrency(1);
startWatch({ grace: 1000 });
const { data } = config();
workIn(data);
const name = process.argv[2] as ModelName;
const device = await Device.open(MODELS[name], join(data, 'devices', name));
// A power cut gives nobody time to write anything down.
const server = serveDevice(device, () => process.exit(1));
server.listen(0, '127.0.0.1', () => {
  const { port } = server.address() as AddressInfo;
  // Whoever started it may have gone: then it ends by itself in a moment.
  process.send?.({ address: `http://127.0.0.1:${port}` }, () => {});
});
let last = performance.now();
setInterval(() => {
  const now = performance.now();
  try {
    device.advance(now - last);
  } catch (error) {
    // What it remembers could not be written: it is tried again with the next step.
    console.error(error);
  }
  last = now;
}, TICK_MS);
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => process.exit(0));
process.on('disconnect', () => process.exit(0));
