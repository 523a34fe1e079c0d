// Furnishes a shop with the demo jobs alone, through the same doors as a customer's files.
import { readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { addDays, formatISO } from 'date-fns';
import { BATCH_PATTERN } from '../src/core/output/names';
import { NewJob } from '../src/core/shop/job';
import { addBatch } from '../src/server/batch/batches';
import { addItems } from '../src/server/batch/items';
import { config } from '../src/server/config';
import { endPictureProcesses } from '../src/server/codecs/pictures';
import { database } from '../src/server/db/connection';
import { beginJob, changeJob } from '../src/server/db/jobs';
import { takeIn } from '../src/server/files/take-in';
import { inWords } from '../src/server/problem';
import { lockShop, LOCKS } from '../src/server/supervisor/lock';
import { degradedPath, demoJobs } from './pictures';

const CUSTOMER = 'Colle Vespra Observatory';
/** Pictures of the first jobs are in a batch as well. */
const IN_BATCH = 6;

// As the shop writes: for itself alone.
process.umask(0o077);
const { data } = config();
let unlock: () => void;
try {
  unlock = lockShop(data, { pid: process.pid, address: 'nowhere yet', since: Date.now() });
} catch (error) {
  console.error(inWords(error));
  process.exit(1);
}
for (const name of await readdir(data)) {
  if (!LOCKS.includes(name)) await rm(join(data, name), { recursive: true, force: true });
}
const db = await database();
for (const picture of demoJobs) {
  const bytes = await readFile(degradedPath(picture));
  const { digest } = await takeIn(db, new Blob([bytes]).stream(), picture.file);
  const job = NewJob.parse({
    title: picture.title,
    customer: CUSTOMER,
    due: formatISO(addDays(new Date(), picture.dueIn), { representation: 'date' }),
    pictures: [{ digest, fileName: picture.file }],
    paper: picture.paper,
    distance: picture.distance,
  });
  const id = await beginJob(db, job);
  await changeJob(db, id, { state: picture.state });
}
const pieces: number[] = await db('pieces').orderBy('id').limit(IN_BATCH).pluck('id');
const { id: batch } = await addBatch(db, {
  name: 'East wing, all walls',
  plan: {
    ...{ size: { by: 'ordered' }, steps: { by: 'kept' }, ppi: null, file: null },
    ...{ names: BATCH_PATTERN, folder: 'Print files' },
  },
});
await addItems(db, batch, { pieces });
await writeFile(
  config().folders,
  JSON.stringify(
    {
      results: [{ name: 'Print files', path: 'print-files' }],
      backups: [{ name: 'Archive disk', path: 'archive-disk' }],
      drops: [
        {
          ...{ name: 'Hot folder', path: 'hot-folder', results: 'Print files' },
          size: { by: 'longest', text: '60 cm' },
        },
      ],
    },
    null,
    2,
  ),
);
await db.destroy();
endPictureProcesses();
unlock();
console.log(`${demoJobs.length} jobs are on the board.`);
