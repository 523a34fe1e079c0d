import { JobView, TakenIn } from '@/core/shop/job';
import { testPaper } from '@/core/testing';
import * as jobs from './jobs/route';
import * as originals from './originals/route';

// For tests: routes are called as Next calls them, with no server between.

export const HOST = '127.0.0.1:4310';

/** Where a route is, by the parts of its path. */
export const at = <P>(params: P) => ({ params: Promise.resolve(params) });

export const call = (
  method: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Request =>
  new Request(`http://${HOST}/`, {
    method,
    headers: { host: HOST, ...headers },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });

export const upload = (bytes: Buffer, name: string): Promise<Response> =>
  originals.POST(
    new Request(`http://${HOST}/`, {
      method: 'POST',
      headers: { host: HOST, 'x-file-name': encodeURIComponent(name) },
      body: new Uint8Array(bytes),
    }),
    at({}),
  );

/** Takes a file in, which can be. */
export const takenIn = async (bytes: Buffer, name = 'picture.jpg'): Promise<TakenIn> =>
  TakenIn.parse(await (await upload(bytes, name)).json());

/** A job with one picture. */
export async function begin(bytes: Buffer, name?: string): Promise<JobView> {
  const { digest, fileName } = await takenIn(bytes, name);
  const paper = testPaper({ width: { value: 20, unit: 'cm' } });
  const ordered = { title: 'A job', customer: '', due: null, paper, distance: 2 };
  const job = { ...ordered, pictures: [{ digest, fileName }] };
  return JobView.parse(await (await jobs.POST(call('POST', job), at({}))).json());
}
