import { setPriority } from 'node:os';
import { config } from '../config';
import { database } from '../db/connection';
import { devicesToFollow } from '../db/devices';
import { startWatch } from '../sandbox/serve';
import { workIn } from '../supervisor/lock';
import { followDevice } from './follow';

/** Brings files to devices and asks how these stand; started and kept alive by the supervisor. */
const LOOK_MS = 400;

setPriority(5);
startWatch({ grace: 3000 });
workIn(config().data);
const leaving = new AbortController();
const leave = () => {
  leaving.abort();
  process.exit(0);
};
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, leave);
process.on('disconnect', leave);

const db = await database();
const followed = new Set<number>();
while (!leaving.signal.aborted) {
  // A slow device keeps nobody else waiting; a database that is busy is asked again.
  const devices = await devicesToFollow(db).catch(() => []);
  for (const device of devices) {
    if (followed.has(device.id)) continue;
    followed.add(device.id);
    followDevice(db, device, leaving.signal)
      .catch((error: unknown) => console.error(error))
      .finally(() => followed.delete(device.id));
  }
  await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
}
