import { database } from '../db/connection';

/** Commits one small change after another, and says how many when it is asked: another process that writes. */
const db = await database();
let count = 0;
process.on('message', () => process.send!(count));
process.on('disconnect', () => process.exit(0));
for (;;) {
  await db('jobs').update({ customer: db.raw('customer') });
  if (count++ === 0) process.send!(0);
  await new Promise((resolve) => setTimeout(resolve, 1));
}
