import { mkdir } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { config } from '../config';
import { Problem } from '../problem';

const DIGEST = /^[0-9a-f]{64}$/;
const TASK = /^[0-9a-z-]{8,40}$/;

/**
 * Where files lie in the data folder. Names are digests and task numbers alone; nothing that a
 * person typed ever becomes part of a path.
 */
export const store = {
  original: (digest: string) => join(folder('originals', digest), digest),
  raw: (digest: string, page: number) =>
    join(folder('decoded', digest), `${digest}${ofPage(page)}.raw`),
  thumbnail: (digest: string, page: number) =>
    join(folder('thumbnails', digest), `${digest}${ofPage(page)}.png`),
  /** a picture on a page as a recipe makes it, beside the pixels that it is made of */
  treated: (digest: string, name: string) =>
    join(folder('decoded', digest), `${digest}-${checked(name, DIGEST)}.tif`),
  result: (task: string) => join(config().data, 'results', checked(task, TASK)),
  /** a file as the database names it, and back: by its path below the data folder */
  nameOf: (path: string) => relative(config().data, path),
  named: (name: string) => join(config().data, name),
  profile: (digest: string) => join(config().data, 'profiles', `${checked(digest, DIGEST)}.icc`),
  masks: () => join(config().data, 'masks'),
  uploads: () => join(config().data, 'uploads'),
};

/** What the files are called, up to their endings, that a result is written into by a claim before it is whole. */
export const partOf = (out: string, claim: string): string => `${out}.part-${claim}`;

/** The first page's files are named as the file. */
const ofPage = (page: number): string => (page === 1 ? '' : `-${Math.trunc(page)}`);

function folder(kind: string, digest: string): string {
  return join(config().data, kind, checked(digest, DIGEST).slice(0, 2));
}

function checked(name: string, form: RegExp): string {
  if (!form.test(name)) throw new Problem('missing', 'There is no such file.');
  return name;
}

/** Makes the folder that a path lies in. */
export async function makeFolderOf(path: string): Promise<string> {
  await mkdir(join(path, '..'), { recursive: true });
  return path;
}
