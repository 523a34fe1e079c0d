import { ArrowLeft } from 'lucide-react';
import { Button, Form } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import { drawTreated, placedIn } from '@/core/recipe/placed-work';
import { backToPage } from '../use-placed-bench';
import type { WorkBench } from '../use-work';
import { say } from '@/core/words/say';

/** Which picture of which page lies on the bench, how large it is printed there, and the way back. */
export function BackToPage({ bench }: { bench: WorkBench }) {
  const { inside, resolved } = bench;
  if (!inside) return null;
  const { picture, page } = inside;
  const which = { page: page.work.framing.page, picture };
  const on = placedIn(page.trial, which)?.on ?? false;
  const side = (inches: number) => formatNumber((inches * MM_PER_INCH) / 10, 1);
  return (
    <div className="inside-page">
      <Button variant="quiet" size="sm" onClick={backToPage}>
        <ArrowLeft size={15} aria-hidden /> {say`The page`}
      </Button>
      <span className="figure">
        {say`Picture ${picture}`}
        {resolved.ok &&
          say` · ${side(resolved.plan.ordered.width)} × ${side(resolved.plan.ordered.height)} cm`}
      </span>
      <Form.Check
        type="switch"
        id="placed-on"
        label={say`Drawn as treated`}
        checked={on}
        onChange={({ target }) =>
          page.change(
            say`Picture ${picture} ${target.checked ? say`as treated` : say`untouched`}`,
            (_, trial) => drawTreated(trial, which, target.checked),
          )
        }
      />
    </div>
  );
}
