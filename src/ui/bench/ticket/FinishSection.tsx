import { useEffect } from 'react';
import { listedIn, stepsOn } from '@/core/recipe/order';
import type { ListedKind } from '@/core/steps';
import type { WorkBench } from '../use-work';
import { useView } from '../view-store';
import { Section } from './Section';
import { StepList, stepsLine } from './steps/StepList';
import { usePicked } from '../../parts/use-picked';

const FINISHING = listedIn('target');
/** Shapes have no spots to mend, and no picture whose texture could be given back. */
const OF_SHAPES: ListedKind[] = ['smooth', 'unsharp'];

/** Everything that is done at the print's size. */
export function FinishSection({ bench }: { bench: WorkBench }) {
  const { trial, original } = bench;
  const { section, set } = usePicked(useView, 'section', 'set');
  const present = stepsOn(trial.treatment, 'target');
  const open = section === 'finish';
  // The first step stands open: mostly it is the one that is wanted.
  useEffect(() => {
    const { openStep } = useView.getState();
    if (open && present.every(({ index }) => index !== openStep)) {
      set({ openStep: present[0]?.index ?? null });
    }
    // Only as the section opens: what is closed afterwards stays closed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [open]);
  if (trial.pixels === 'kept' && !original.vector) {
    return (
      <Section name="finish" title="Finish" line="nothing to do">
        <p className="reason">Only the size tag is set: the pixels stay as they are.</p>
      </Section>
    );
  }
  return (
    <Section name="finish" title="Finish" line={stepsLine(bench, 'target')}>
      <StepList bench={bench} phase="target" kinds={original.vector ? OF_SHAPES : FINISHING} />
    </Section>
  );
}
