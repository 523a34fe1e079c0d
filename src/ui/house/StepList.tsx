import type { HouseContent } from '@/core/house/house-recipe';
import { formatPpi } from '@/core/measure/format';
import { outputWords } from '@/core/output/output';
import { stepOfKind, summaryOf } from '@/core/steps';
import { say } from '@/core/words/say';

/** What a recipe does, step by step. */
export function StepList({ content }: { content: HouseContent }) {
  const { treatment, zones, ppi, output } = content;
  const zoneName = (id: string) => zones.find((zone) => zone.id === id)?.name ?? id;
  return (
    <ol className="house-steps" aria-label={say`Steps`}>
      {treatment
        .filter(({ on }) => on)
        .map((step, i) => (
          <li key={i}>
            <span>{stepOfKind(step.kind).title}</span>
            <span className="figure">
              {summaryOf(step)}
              {step.zone &&
                (step.elsewhere
                  ? say` everywhere but ${zoneName(step.zone)}`
                  : say` in ${zoneName(step.zone)}`)}
            </span>
          </li>
        ))}
      {ppi !== null && (
        <li>
          <span>{say`Resolution`}</span>
          <span className="figure">{say`${formatPpi(ppi)} ppi`}</span>
        </li>
      )}
      {output && (
        <li>
          <span>{say`Written as`}</span>
          <span className="figure">{outputWords(output)}</span>
        </li>
      )}
    </ol>
  );
}
