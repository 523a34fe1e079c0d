'use client';

import { formatDistanceToNow } from 'date-fns';
import Link from 'next/link';
import { formatBytes } from '@/core/measure/format';
import type { ShopState } from '@/core/shop/audit';
import type { Alive } from '@/core/shop/processes';
import { useShop } from '../data/queries';
import { Progress } from '../parts/Progress';
import { WatchedFolders } from '../batch/WatchedFolders';
import { count } from './count';
import { Devices } from './Devices';
import { say } from '@/core/words/say';

/** How the shop itself is: what it prints with, its processes, its room. */
export function ShopPage() {
  const { data: shop, error } = useShop();
  return (
    <>
      {error && <p className="trouble">{error.message}</p>}
      {shop && (
        <div className="shop-parts">
          <Devices />
          <Processes news={shop.news} />
          <div>
            <Room disk={shop.disk} />
            <Watched />
          </div>
        </div>
      )}
    </>
  );
}

function Watched() {
  return (
    <section aria-labelledby="shop-watched">
      <h2 id="shop-watched">{say`Watched folders`}</h2>
      <WatchedFolders />
      <p className="soft mb-0">
        {say`Files that are put there become jobs by themselves. The server’s configuration names them: see “Batches” in the README.`}
      </p>
    </section>
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
      <p>
        <Link prefetch={false} href="/shop/storage">{say`What takes how much`}</Link>
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
