import { Button } from 'react-bootstrap';
import { betterMethod } from '@/core/evidence/better';
import { formatNumber } from '@/core/measure/format';
import { methodNotes } from '@/core/steps/enlarge/methods';
import { stepOf } from '@/core/recipe/work';
import { testedOn, useTests } from '../../stage/modes/test/use-self-test';
import { ofStep, type WorkBench } from '../../use-work';
import { chosenFor } from './EnlargeSection';
import { say } from '@/core/words/say';

/** Offers what did clearly better than the method at hand, once all were tested on this very picture. */
export function TestAdvice({ bench }: { bench: WorkBench }) {
  const test = useTests(({ test: last }) => last);
  if (!test?.truth || test.key !== testedOn(bench)?.key) return null;
  const { method } = stepOf(bench.trial.treatment, 'enlarge')!.settings;
  const taken = method === 'auto' ? chosenFor(bench)?.method : method;
  const better = taken ? betterMethod(test.rows, taken) : null;
  if (!better) return null;
  const { title } = methodNotes[better.method];
  return (
    <div className="test-advice" role="status">
      <p className="reason mb-0">
        {say`On this very picture, reduced and enlarged back, ${title.toLowerCase()} was ${formatNumber(better.by, 1)} dB nearer to the truth than ${methodNotes[taken!].title.toLowerCase()}.`}
      </p>
      <Button
        size="sm"
        variant="outline-primary"
        onClick={() =>
          bench.change(
            title,
            ofStep('enlarge', (step) => (step.settings.method = better.method)),
          )
        }
      >
        {say`Take ${title.toLowerCase()}`}
      </Button>
    </div>
  );
}
