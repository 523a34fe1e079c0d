import { Copy } from 'lucide-react';
import { Button } from 'react-bootstrap';
import type { PrintPlan } from '@/core/measure/plan';
import { customerNote } from '@/core/measure/verdict';
import { copyText } from '../../../parts/copy-text';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** Words for the customer, ready to be sent, where the picture doesn't do. */
export function CustomerNote({ bench, plan }: { bench: WorkBench; plan: PrintPlan }) {
  const { fileName, findings } = bench.job.piece;
  const note = customerNote(fileName, findings, plan, bench.work.distance, bench.found);
  if (!note) return null;
  return (
    <Fold title={say`A note to the customer`}>
      <p className="note-text">{note}</p>
      <Button variant="quiet" size="sm" onClick={() => copyText(note, say`The note is copied.`)}>
        <Copy size={14} aria-hidden /> {say`Copy`}
      </Button>
    </Fold>
  );
}
