import { useRef } from 'react';
import { artifactOf } from '@/core/shop/task';
import { useSendings } from '../../../data/devices';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { SendForm } from './SendForm';
import { SendingEntry } from './SendingEntry';
import { say } from '@/core/words/say';

/** Sending the newest finished file to a device, and what was sent so far. */
export function Sendings({ bench }: { bench: WorkBench }) {
  const { job } = bench;
  const { data: sendings = [] } = useSendings(job.piece.id);
  const top = useRef<HTMLDivElement>(null);
  const run = job.runs.find((one) => {
    const file = artifactOf(one, 'result');
    return one.result && file?.digest && file.goneAt === null;
  });
  const [newest, ...earlier] = sendings;
  return (
    <>
      <div ref={top}>{newest && <SendingEntry sending={newest} bench={bench} />}</div>
      {run && (
        <SendForm
          bench={bench}
          task={run}
          again={newest?.run === run.id}
          onSent={() => top.current?.scrollIntoView({ block: 'nearest' })}
        />
      )}
      {earlier.length > 0 && (
        <Fold title={say`Sent before`} line={`${earlier.length}`}>
          {earlier.map((sending) => (
            <SendingEntry key={sending.key} sending={sending} bench={bench} />
          ))}
        </Fold>
      )}
    </>
  );
}
