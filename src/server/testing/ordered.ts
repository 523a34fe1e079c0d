import { testPaper } from '@/core/testing';
import type { Piece } from '@/core/shop/job';
import { beginJob, readJob } from '../db/jobs';
import { takeIn } from '../files/take-in';
import { streamOf, type TestShop } from './shop';

/** Takes a file in and begins a job with it, on paper that is so many centimetres wide. */
export async function orderedPiece(
  { db }: TestShop,
  bytes: Uint8Array,
  name: string,
  width: number,
): Promise<Piece> {
  const { digest, fileName } = await takeIn(db, streamOf(bytes), name);
  const job = {
    ...{ title: 'Große Kuppel', customer: 'Łódź', due: null, distance: 2, device: null },
    ...{ material: null, paper: testPaper({ width: { value: width, unit: 'cm' } }) },
    pictures: [{ digest, fileName, page: 1 }],
  };
  return (await readJob(db, await beginJob(db, job))).piece;
}
