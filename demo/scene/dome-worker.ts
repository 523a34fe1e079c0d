import { renderDome } from './dome';

/** A band of rows of the dome, in a thread of the generator's pool. */
export default function drawRows(task: {
  width: number;
  height: number;
  from: number;
  to: number;
  samples: number;
}): Uint8Array {
  return renderDome(task.width, task.height, task.from, task.to, task.samples);
}
