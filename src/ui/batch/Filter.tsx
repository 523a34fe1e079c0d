import type { BatchHead, BatchItem } from '@/core/batch/batch';
import { say } from '@/core/words/say';

/** Which pictures of a batch are shown. */
export const FILTERS = {
  all: { label: say`All`, of: () => true },
  left: {
    label: say`Not made yet`,
    of: ({ state }: BatchItem) =>
      state === 'not yet' || state === 'queued' || state === 'running' || state === 'changed since',
  },
  made: { label: say`Made`, of: ({ state }: BatchItem) => state === 'done' },
  doubt: {
    label: say`In doubt`,
    of: ({ facts: { damaged, trouble, verdict } }: BatchItem) =>
      damaged > 0 || trouble !== null || verdict?.tone === 'trouble',
  },
  failed: {
    label: say`Failed`,
    of: ({ state }: BatchItem) => state === 'failed' || state === 'cancelled',
  },
  good: { label: say`Good`, of: ({ judgement }: BatchItem) => judgement === 'good' },
  bench: {
    label: say`To the bench`,
    of: ({ judgement }: BatchItem) => judgement === 'to the bench',
  },
} as const;

export type FilterName = keyof typeof FILTERS | 'refused';

/** Chooses which pictures are shown, each with how many there are. */
export function Filter({
  batch,
  items,
  chosen,
  onChoose,
}: {
  batch: BatchHead;
  items: readonly BatchItem[];
  chosen: FilterName;
  onChoose(filter: FilterName): void;
}) {
  const button = (name: FilterName, label: string, count: number) =>
    (count > 0 || name === 'all' || name === chosen) && (
      <button
        key={name}
        type="button"
        aria-pressed={chosen === name}
        onClick={() => onChoose(name)}
      >
        {label} {count}
      </button>
    );
  return (
    <div className="states" role="group" aria-label={say`Which pictures`}>
      {(Object.keys(FILTERS) as (keyof typeof FILTERS)[]).map((name) =>
        button(name, FILTERS[name].label, items.filter(FILTERS[name].of).length),
      )}
      {button('refused', say`Not taken in`, batch.refused.length)}
    </div>
  );
}

/** Files that were brought and could not be taken in, and why. */
export const RefusedList = ({ refused }: { refused: BatchHead['refused'] }) => (
  <ul className="refused-files" aria-label={say`Files that were not taken in`}>
    {refused.map(({ name, why }) => (
      <li key={name}>
        <b>{name}</b>
        <span className="trouble">{why}</span>
      </li>
    ))}
  </ul>
);
