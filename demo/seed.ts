// Furnishes an empty shop with the demo jobs, through the same doors as a customer's files.
import { readFile } from 'node:fs/promises';
import { addDays, formatISO } from 'date-fns';
import { NewJob } from '../src/core/shop/job';
import { endPictureProcesses } from '../src/server/codecs/pictures';
import { database } from '../src/server/db/connection';
import { beginJob, changeJob } from '../src/server/db/jobs';
import { takeIn } from '../src/server/files/take-in';
import { degradedPath, demoJobs } from './pictures';

const CUSTOMER = 'Colle Vespra Observatory';

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
await db.destroy();
await endPictureProcesses();
console.log(`${demoJobs.length} jobs are on the board.`);
