import { setPriority } from 'node:os';
import { config } from '../config';
import { database } from '../db/connection';
import { startWatch } from '../sandbox/serve';
import { workIn } from '../supervisor/lock';
import { auditAndKeep, clearAway } from './housekeeping';

/** Does what its first word says, and ends: 'clear' clears away, 'audit' compares everything with the records. */
setPriority(15);
startWatch({ grace: 0 });
workIn(config().data);
const db = await database();
if (process.argv[2] === 'audit') await auditAndKeep(db);
else await clearAway(db);
await db.destroy();
process.exit(0);
