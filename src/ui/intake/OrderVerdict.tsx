import type { Tone } from '@/core/measure/verdict';
import type { Ordered } from '@/core/recipe/ordered';
import { VerdictMark } from '../parts/VerdictMark';
import { say } from '@/core/words/say';

const HOW: Record<Tone, string> = {
  good: say`will look good`,
  caution: say`will stay soft in places`,
  trouble: say`want another file`,
};

/** How pictures will look as they are ordered, while that is still typed. */
export function OrderVerdict({ verdicts }: { verdicts: readonly (Ordered | null)[] }) {
  const known = verdicts.flatMap((one) => one ?? []);
  const [first] = known;
  if (!first) {
    return <p className="order-verdict soft">{say`Type a size to see how it will look.`}</p>;
  }
  if (known.length === 1 && !first.ok) {
    return (
      <p className="order-verdict trouble" role="status">
        {first.reason}
      </p>
    );
  }
  if (known.length === 1 && first.ok) {
    const { tone, fact, judgement } = first.verdict;
    return (
      <p className="order-verdict" role="status">
        {fact} <b className={tone}>{judgement}</b>
      </p>
    );
  }
  const impossible = known.filter((one) => !one.ok).length;
  return (
    <p className="order-verdict" role="status">
      {impossible > 0 && (
        <span>
          <VerdictMark tone="trouble" /> {say`${impossible} can’t be made so large`}
        </span>
      )}
      {(['trouble', 'caution', 'good'] as const).map((tone) => {
        const count = known.filter((one) => one.ok && one.verdict.tone === tone).length;
        return (
          count > 0 && (
            <span key={tone}>
              <VerdictMark tone={tone} /> {count} {HOW[tone]}
            </span>
          )
        );
      })}
    </p>
  );
}
