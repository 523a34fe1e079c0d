import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import type { ProcessNews } from '@/core/shop/processes';
import { refreshBoard } from '../db/board';
import { database } from '../db/connection';
import { standInListens, standInsAreOff } from '../db/devices';
import { giveAllBack } from '../db/tasks';
import { config } from '../config';
import { startChore } from '../housekeeping/start';
import { sweepLeftovers } from '../files/sweep';
import { notOpened } from './not-opened';
import { KeptAlive } from './kept-alive';
import { lockShop } from './lock';
import { refuseTakenPort } from './port';

/**
 * Takes the data folder and the port, then keeps the web server and the process of tasks alive: whichever ends is
 * started again. They end with it, however it ends.
 */
process.env.LONTANO_ROOT ??= fileURLToPath(new URL('../../..', import.meta.url));
// What is written is for the shop alone; its processes take this over.
process.umask(0o077);
const { data, host, port } = config();
const address = `http://${host}:${port}`;

async function open(): Promise<() => void> {
  const unlock = lockShop(data, { pid: process.pid, address, since: Date.now() });
  await refuseTakenPort(host, port);
  // Migrations run once, the board is made ready, and leftovers are swept, before two processes work in the folder.
  const db = await database();
  // A row that can't be read must not keep the shop closed.
  await refreshBoard(db).catch((error: unknown) => console.error(error));
  // Nobody else works here: what is said to be at work was left by an earlier start.
  await giveAllBack(db, { died: false });
  await standInsAreOff(db);
  await sweepLeftovers(db);
  return unlock;
}

const unlock = await open().catch((error: unknown) => {
  console.error(notOpened(error, data));
  process.exit(1);
});
const db = await database();

/** What a stand-in tells once it can be called. */
const DeviceListens = z.object({ address: z.string() });

/** The web server's own objects: it grows into what it is given. Pixels lie elsewhere. */
const WEB_HEAP_MB = 192;

const tellNews = () =>
  web.send({ news: { tasks: tasks.state, web: web.state, devices: devices.state } } satisfies {
    news: ProcessNews;
  });
const tasks = new KeptAlive('The process of runs', 'server/tasks/task-process', {
  changed: () => tellNews(),
  ended: (how) => {
    giveAllBack(db, how).catch((error: unknown) => console.error(error));
  },
});
const web: KeptAlive = new KeptAlive(
  'The web server',
  'server/web/web-process',
  {
    changed: () => {},
    message: () => tellNews(),
  },
  { engine: [`--max-old-space-size=${WEB_HEAP_MB}`] },
);
const devices: KeptAlive = new KeptAlive(
  'The process of devices',
  'server/devices/devices-process',
  { changed: () => tellNews() },
);
const drops = new KeptAlive('The process of watched folders', 'server/drop/drop-process', {
  changed: () => {},
});
/** Devices that ship; each is started with its own name. */
const standIns = config().standIns ? ['roll', 'flatbed', 'sheet'] : [];
const printers = standIns.map(
  (name) =>
    new KeptAlive(
      `The stand-in ${name}`,
      'device/device-process',
      {
        changed: () => {},
        message: (message) => {
          const { address } = DeviceListens.parse(message);
          standInListens(db, name, address).catch((error: unknown) => console.error(error));
        },
      },
      { words: [name] },
    ),
);
const children = [web, tasks, devices, drops, ...printers];
for (const child of children) child.start();

/** Between one clearing away and the next, and one audit and the next. */
const CLEAR_MS = 10 * 60_000; // db/deleting.ts counts these
const AUDIT_MS = 24 * 3_600_000;
void startChore('measure');
setInterval(() => void startChore('clear'), CLEAR_MS).unref();
setInterval(() => void startChore('audit'), AUDIT_MS).unref();

let ending = false;
async function end(): Promise<void> {
  if (ending) return;
  ending = true;
  await Promise.all(children.map((child) => child.end()));
  unlock();
  process.exit(0);
}
for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP'] as const) process.on(signal, () => void end());
