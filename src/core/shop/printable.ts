import { fileToPrint, type FileToPrint } from '../device/check';
import type { ProofTask, Run } from './task';

/** What the file of a run or a proof that is done is to a device. */
export function fileOfTask(task: Run | ProofTask, bytes: number): FileToPrint {
  const { profile, width, height } = task.result!;
  if (task.kind === 'render') return fileToPrint(task.payload.recipe, { profile, bytes });
  // A proof is a sheet of its own, in the colours of its trials.
  const [{ target, output }] = task.payload.recipes as [(typeof task.payload.recipes)[number]];
  const sheet = { target: { ...target, width, height }, output: { ...output, panels: null } };
  return fileToPrint(sheet, { profile, bytes });
}
