import type { Method } from '@/core/steps/enlarge/methods';
import { signed } from '../../stage/modes/test/SelfTest';
import { testedOn, useTests } from '../../stage/modes/test/use-self-test';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** How a method fared on this very picture, over bicubic, once it was tested. */
export function TestLine({ bench, method }: { bench: WorkBench; method: Method }) {
  const test = useTests(({ test: last }) => last);
  if (!test?.truth || test.key !== testedOn(bench)?.key) return <span />;
  const of = (name: string) => test.rows.find((row) => row.method === name)?.psnr;
  const found = of(method);
  const plain = of('bicubic');
  if (found === undefined || plain === undefined) return <span />;
  return <span className="figure soft">{say`${signed(found - plain)} dB`}</span>;
}
