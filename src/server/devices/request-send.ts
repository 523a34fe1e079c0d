import { randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import { canBeSent, checkForDevice } from '@/core/device/check';
import { standingApproval } from '@/core/shop/event';
import { SendRequest, type Sending } from '@/core/shop/sending';
import { fileOfTask } from '@/core/shop/printable';
import { artifactOf } from '@/core/shop/task';
import { readDevice } from '../db/devices';
import { eventsOfJob } from '../db/events';
import { readJob } from '../db/jobs';
import { readPiece } from '../db/pieces';
import { beginSending, readSending } from '../db/sendings';
import { readTask } from '../db/tasks';
import { Problem } from '../problem';

/**
 * Checks a finished file against a device and puts it on its way there.
 * @throws Problem where it can't be printed there, or nobody signed for it and nobody says why it is sent all the same
 */
export async function requestSend(
  db: Knex,
  taskId: string,
  request: SendRequest,
): Promise<Sending> {
  const { device: deviceId, material, copies, initials, why } = SendRequest.parse(request);
  const task = await readTask(db, taskId);
  const file = artifactOf(task, 'result');
  if (task.kind === 'sheet' || !task.result || !file?.digest) {
    throw new Problem('usage', 'There is no file of it to be sent.');
  }
  if (file.goneAt !== null) {
    throw new Problem('usage', `${file.fileName} was cleared away. Run the trial again.`);
  }
  const device = await readDevice(db, deviceId);
  if (!device.address || !device.description) {
    throw new Problem('usage', `${device.name} is not connected: download the file for it.`);
  }
  const { pieceId, jobId } = task;
  const { work } = await readPiece(db, pieceId);
  const printed = fileOfTask(task, file.bytes);
  const wanted = { material, ordered: work.material };
  const checks = checkForDevice(printed, device.description, wanted);
  if (!canBeSent(checks)) {
    const refused = checks.filter(({ state }) => state === 'refused');
    throw new Problem('usage', `${device.name}: ${refused.map(({ words }) => words).join(' ')}`);
  }
  // A proof is sent so that somebody can sign.
  const proof = task.kind === 'proof';
  const approved =
    proof || standingApproval(await eventsOfJob(db, jobId), pieceId)?.digest === file.digest;
  if (!approved && why === '') {
    throw new Problem(
      'usage',
      `Nobody signed for ${file.fileName}. Say why it is sent all the same.`,
    );
  }
  const { number, title } = await readJob(db, jobId, pieceId);
  const key = randomBytes(32).toString('hex');
  const { fileName, digest } = file;
  await beginSending(
    db,
    {
      ...{ key, pieceId, run: taskId, deviceId, device: device.name, fileName, material, copies },
      proof,
      title: `${number} ${title}`.slice(0, 200),
    },
    jobId,
    {
      ...{ kind: 'sent', key, fileName, digest, device: device.name, material, copies, initials },
      why: approved ? null : why,
      cautions: checks.filter(({ state }) => state === 'caution').map(({ words }) => words),
    },
  );
  return readSending(db, key);
}
