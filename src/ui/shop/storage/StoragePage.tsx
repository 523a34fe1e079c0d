'use client';

import Link from 'next/link';
import { formatBytes } from '@/core/measure/format';
import {
  CAN_BE_MADE_AGAIN,
  MAY_GO,
  StorageKind,
  type Storage,
  type StorageEntry,
} from '@/core/shop/storage';
import { useStorage } from '../../data/shop';
import { count } from '../count';
import { LastAudit } from './LastAudit';
import { say } from '@/core/words/say';

/** What takes how much of the shop's disk, what of it may go and when, and whether all of it is as it was kept. */
export function StoragePage() {
  const { data: storage, error } = useStorage();
  return (
    <div className="shop-parts storage">
      {error && <p className="trouble">{error.message}</p>}
      {storage ? <Shares storage={storage} /> : !error && <p>{say`Measuring …`}</p>}
      <LastAudit />
    </div>
  );
}

function Shares({ storage: { entries, againLimit, free } }: { storage: Storage }) {
  const inOrder = StorageKind.options.flatMap((kind) => {
    const entry = entries.find((one) => one.kind === kind);
    return entry ? [entry] : [];
  });
  const all = inOrder.reduce((sum, { bytes }) => sum + bytes, 0);
  const again = inOrder
    .filter(({ kind }) => CAN_BE_MADE_AGAIN.includes(kind))
    .reduce((sum, { bytes }) => sum + bytes, 0);
  return (
    <section aria-labelledby="storage-shares">
      <h2 id="storage-shares">{say`What takes how much`}</h2>
      <p className="storage-sum">
        <b className="figure">{formatBytes(all)}</b> {say`kept`}
        {' · '}
        <b className="figure">{formatBytes(free)}</b> {say`free on the disk`}
      </p>
      <div className="storage-bar" aria-hidden>
        {inOrder.map(({ kind, bytes }) => (
          <i key={kind} data-kind={kind} style={{ flexGrow: bytes }} />
        ))}
      </div>
      <table className="storage-kinds">
        <thead>
          <tr>
            <th scope="col">{say`Kept`}</th>
            <th scope="col" className="text-end">{say`Room`}</th>
            <th scope="col" className="text-end">{say`Files`}</th>
            <th scope="col">{say`May go`}</th>
          </tr>
        </thead>
        <tbody>
          {inOrder.map((entry) => (
            <Kind key={entry.kind} entry={entry} />
          ))}
        </tbody>
      </table>
      <p>
        {say`What can be made again takes ${formatBytes(again)} of ${formatBytes(againLimit)}. Over that the ones go first that are needed least: what is printed, then what was used longest ago.`}{' '}
        <Link prefetch={false} href="/shop/settings">{say`Change the limit`}</Link>
      </p>
    </section>
  );
}

const Kind = ({ entry: { kind, files, bytes } }: { entry: StorageEntry }) => (
  <tr>
    <th scope="row">
      <i data-kind={kind} aria-hidden /> {kind}
    </th>
    <td className="figure text-end">{formatBytes(bytes)}</td>
    <td className="figure text-end">{count(files, 'file')}</td>
    <td className="soft">{MAY_GO[kind]}</td>
  </tr>
);
