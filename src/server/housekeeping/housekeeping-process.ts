import { setPriority } from 'node:os';
import { config } from '../config';
import { database } from '../db/connection';
import { startWatch } from '../sandbox/serve';
import { workIn } from '../supervisor/lock';
import { auditAndKeep, clearAway, measure } from './housekeeping';
import type { Chore } from './start';

/**
 * Does what its first word says, and ends: 'clear' clears away, 'audit' compares everything with the records. Both, and
 * 'measure' alone, see how much room there is.
 */
setPriority(15);
startWatch({ grace: 0 });
workIn(config().data);
const db = await database();
const chore = process.argv[2] as Chore;
if (chore === 'audit') await auditAndKeep(db);
if (chore === 'clear') await clearAway(db);
await measure(db);
await db.destroy();
process.exit(0);
