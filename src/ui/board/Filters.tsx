import { DueFilter, type BoardPage } from '@/core/shop/board';
import type { Board } from '../data/api';
import { say } from '@/core/words/say';

export type Chosen = Pick<Board, 'customer' | 'material' | 'due'>;

export const NO_FILTER: Chosen = { customer: null, material: null, due: null };

const DUE: Record<DueFilter, string> = {
  late: say`late`,
  today: say`due today`,
  week: say`due within a week`,
  never: say`not dated`,
};

/** Which jobs of the board are shown, by whom they are for, what they are printed on, and when they are due. */
export function Filters({
  page,
  chosen,
  onChoose,
}: {
  page: Pick<BoardPage, 'customers' | 'materials'>;
  chosen: Chosen;
  onChoose(chosen: Chosen): void;
}) {
  const choice = (name: 'customer' | 'material', label: string, all: string, list: string[]) =>
    (list.length > 0 || chosen[name] !== null) && (
      <select
        className="form-select form-select-sm"
        aria-label={label}
        value={chosen[name] ?? ''}
        onChange={(event) => onChoose({ ...chosen, [name]: event.target.value || null })}
      >
        <option value="">{all}</option>
        {list.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </select>
    );
  const some = Object.values(chosen).some((one) => one !== null);
  return (
    <div className="board-filters" role="group" aria-label={say`Shown jobs`}>
      {choice('customer', say`For which customer`, say`any customer`, page.customers)}
      {choice('material', say`Printed on what`, say`any material`, page.materials)}
      <select
        className="form-select form-select-sm"
        aria-label={say`Due when`}
        value={chosen.due ?? ''}
        onChange={(event) =>
          onChoose({ ...chosen, due: DueFilter.safeParse(event.target.value).data ?? null })
        }
      >
        <option value="">{say`due any time`}</option>
        {DueFilter.options.map((due) => (
          <option key={due} value={due}>
            {DUE[due]}
          </option>
        ))}
      </select>
      {some && (
        <button type="button" className="btn btn-quiet btn-sm" onClick={() => onChoose(NO_FILTER)}>
          {say`All jobs`}
        </button>
      )}
    </div>
  );
}
