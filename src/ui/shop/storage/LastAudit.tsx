import { format } from 'date-fns';
import { Check } from 'lucide-react';
import { Button } from 'react-bootstrap';
import type { Audit } from '@/core/shop/audit';
import { useBeginAudit, useShop } from '../../data/queries';
import { count } from '../count';
import { say } from '@/core/words/say';

/** Whether all that the shop keeps is as its records say. */
export function LastAudit() {
  const { data: shop } = useShop();
  const begin = useBeginAudit();
  if (!shop) return null;
  const { audit, auditing } = shop;
  return (
    <section aria-labelledby="shop-audit">
      <h2 id="shop-audit">{say`Is all that is kept whole?`}</h2>
      {audit ? <Outcome audit={audit} /> : <p>{say`Nobody has looked yet.`}</p>}
      <p className="soft">
        {say`Records, files and digests are compared every day, and whenever you ask. Nothing is changed by it.`}
      </p>
      <Button variant="quiet" disabled={auditing || begin.isPending} onClick={() => begin.mutate()}>
        {auditing ? say`Comparing …` : say`Compare now`}
      </Button>
    </section>
  );
}

function Outcome({ audit: { at, seconds, checked, found } }: { audit: Audit }) {
  const { originals, pictures, changes, masks, results } = checked;
  return (
    <>
      <p className={`verdict-line ${found.length > 0 ? 'trouble' : 'good'}`}>
        {found.length === 0 ? (
          <>
            <Check size={16} aria-hidden /> {say`All is as it was kept`}
          </>
        ) : (
          say`${count(found.length, 'thing')} not as kept`
        )}
      </p>
      <p>
        {say`${count(originals, 'original')}, ${count(pictures, 'picture')} with ${count(changes, 'change')}, ${count(masks, 'painted mask')} and ${count(results, 'result')} were compared ${format(at, 'EEE d MMM, HH:mm')}, in ${seconds < 1 ? say`less than a second` : `${Math.round(seconds)} s`}.`}
      </p>
      {found.length > 0 && (
        <ul className="discrepancies">
          {found.map(({ about, words }) => (
            <li key={about + words}>
              <b>{about}</b>
              <span>{words}</span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
