import { Button } from 'react-bootstrap';
import { VARIED, variantsOf, type Varied } from '@/core/recipe/variants';
import type { WorkBench } from '../../use-work';
import { lookIn, useLooking } from '../../stage/modes/mode';
import { useTried, useTrying } from '../../stage/modes/try/trying';
import { useTellingPlace } from '../../stage/modes/try/use-telling-place';
import { say } from '@/core/words/say';

const WORDS: Record<Varied, string> = {
  method: 'methods',
  cleaning: say`strengths of cleaning`,
  sharpening: say`amounts of sharpening`,
  ringing: say`limits of ringing`,
};

/** Before a method is trusted: several beside each other on one spot, and all on this very picture. */
export function TryButtons({ bench }: { bench: WorkBench }) {
  const lookClose = useTellingPlace(bench);
  const way = useLooking((looking) => looking.special?.way);
  const varied = useTrying((state) => state.varied);
  const tried = useTried(bench);
  const trying = way === 'try';
  const testing = way === 'test';
  const offered = VARIED.filter((one) => variantsOf(bench.trial, one, tried).length > 0);
  return (
    <>
      <div className="d-flex gap-2">
        <Button
          variant={trying ? 'primary' : 'quiet'}
          size="sm"
          aria-pressed={trying}
          onClick={() => {
            lookIn(trying ? null : { way: 'try' });
            if (!trying) lookClose();
          }}
        >
          {say`Try on this spot`}
        </Button>
        <Button
          variant={testing ? 'primary' : 'quiet'}
          size="sm"
          aria-pressed={testing}
          onClick={() => lookIn(testing ? null : { way: 'test' })}
        >
          {say`Test on this picture`}
        </Button>
      </div>
      {trying && (
        <label className="setting-line">
          <span className="field-label text-nowrap">{say`Beside each other`}</span>
          <select
            className="list-choice"
            aria-label={say`Beside each other`}
            value={varied}
            onChange={(event) => useTrying.setState({ varied: event.target.value as Varied })}
          >
            {offered.map((one) => (
              <option key={one} value={one}>
                {WORDS[one]}
              </option>
            ))}
          </select>
        </label>
      )}
    </>
  );
}
