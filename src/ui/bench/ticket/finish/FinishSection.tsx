import { useEffect } from 'react';
import { listedIn, stepsOn } from '@/core/recipe/order';
import type { ListedKind } from '@/core/steps';
import type { WorkBench } from '../../use-work';
import { useOpen } from '../open';
import { Section } from '../Section';
import { StepList, stepsLine } from '../steps/StepList';
import { Zones } from '../zones/Zones';
import { FinishFigures } from './FinishFigures';
import { FinishLooks } from './FinishLooks';
import { GuardSettings } from './GuardSettings';
import { say } from '@/core/words/say';

const FINISHING = listedIn('target');
/** Shapes have no spots to mend, and no picture whose texture could be given back. */
const OF_SHAPES: ListedKind[] = ['smooth', 'unsharp', 'edges', 'grain', 'paper'];

/** Everything that is done at the print's size. */
export function FinishSection({ bench }: { bench: WorkBench }) {
  const { trial, original } = bench;
  const present = stepsOn(trial.treatment, 'target');
  const open = useOpen((state) => state.section === 'finish');
  // The first step stands open: mostly it is the one that is wanted.
  useEffect(() => {
    const { step } = useOpen.getState();
    if (open && present.every(({ index }) => index !== step)) {
      useOpen.setState({ step: present[0]?.index ?? null });
    }
    // Only as the section opens: what is closed afterwards stays closed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [open]);
  if (trial.pixels === 'kept' && !original.vector) {
    return (
      <Section bench={bench} name="finish" title={say`Finish`} line={say`nothing to do`}>
        <p className="reason">{say`Only the size tag is set: the pixels stay as they are.`}</p>
      </Section>
    );
  }
  return (
    <Section bench={bench} name="finish" title={say`Finish`} line={stepsLine(bench, 'target')}>
      <FinishLooks bench={bench} />
      <FinishFigures bench={bench} />
      <StepList bench={bench} phase="target" kinds={original.vector ? OF_SHAPES : FINISHING} />
      <GuardSettings bench={bench} />
      <Zones bench={bench} />
    </Section>
  );
}
