'use client';

import { format, formatDistanceToNow } from 'date-fns';
import { Check } from 'lucide-react';
import { Button } from 'react-bootstrap';
import { formatBytes } from '@/core/measure/format';
import type { Audit, ShopState } from '@/core/shop/audit';
import type { Alive } from '@/core/shop/processes';
import { useBeginAudit, useShop } from '../data/queries';
import { Progress } from '../parts/Progress';
import { FileNames } from './FileNames';
import { Devices } from './Devices';
import { Profiles } from './Profiles';
import { say } from '@/core/words/say';

/** How the shop itself is: whether all that it keeps is whole, its room, its processes. */
export function ShopPage() {
  const { data: shop, error } = useShop();
  return (
    <main className="shop-page">
      <h1>{say`The shop`}</h1>
      {error && <p className="trouble">{error.message}</p>}
      {shop && (
        <div className="shop-parts">
          <LastAudit shop={shop} />
          <Room disk={shop.disk} />
          <Processes news={shop.news} />
          <Devices />
          <FileNames />
          <Profiles />
        </div>
      )}
    </main>
  );
}

const count = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;

function LastAudit({ shop: { audit, auditing } }: { shop: ShopState }) {
  const begin = useBeginAudit();
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

function Room({ disk: { originals, again, againLimit, free } }: { disk: ShopState['disk'] }) {
  return (
    <section aria-labelledby="shop-room">
      <h2 id="shop-room">{say`Room`}</h2>
      <dl>
        <dt>{say`Originals, never cleared away`}</dt>
        <dd className="figure">{originals === null ? say`is measured` : formatBytes(originals)}</dd>
        <dt>{say`What can be made again, of ${formatBytes(againLimit)}`}</dt>
        <dd className="figure">{again === null ? say`is measured` : formatBytes(again)}</dd>
        <dt>{say`Free on the disk`}</dt>
        <dd className="figure">{formatBytes(free)}</dd>
      </dl>
      <Progress share={(again ?? 0) / againLimit} label={say`Of what may be kept`} />
      <p className="soft">
        {say`Decoded pictures and files of runs can be made again from originals and recipes. Over the bound the ones go first that are needed least: what is printed, then what was used longest ago. What is approved and not printed yet stays.`}
      </p>
    </section>
  );
}

function Processes({ news }: { news: ShopState['news'] }) {
  return (
    <section aria-labelledby="shop-processes">
      <h2 id="shop-processes">{say`Processes`}</h2>
      {news ? (
        <dl>
          <Process name={say`Pages and previews`} alive={news.web} />
          <Process name={say`Runs`} alive={news.tasks} />
          <Process name={say`Devices`} alive={news.devices} />
        </dl>
      ) : (
        <p>{say`Nobody looks after them here.`}</p>
      )}
    </section>
  );
}

const Process = ({ name, alive: { up, since, ended } }: { name: string; alive: Alive }) => (
  <>
    <dt>{name}</dt>
    <dd className={up ? undefined : 'trouble'}>
      {up ? say`at work for ${formatDistanceToNow(since)}` : say`started again just now`}
      {ended > 0 && say`, started again ${count(ended, 'time')}`}
    </dd>
  </>
);
