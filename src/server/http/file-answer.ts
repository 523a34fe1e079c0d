import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { bodyLength } from './body-length';

interface Named {
  /** as it is saved */
  fileName: string;
  mediaType: string;
  /** SHA-256 of its bytes; null where nobody knows it */
  digest: string | null;
}

/** Bytes of a file, the first and the last. */
interface Span {
  first: number;
  last: number;
}

/**
 * A file as an answer, or the part of it that is asked for: a download of gigabytes that broke off goes on where it was
 * (RFC 9110, section 14).
 * @throws Error where there is no such file
 */
export async function fileAnswer(
  request: Request,
  path: string,
  { fileName, mediaType, digest }: Named,
): Promise<Response> {
  const { size } = await stat(path);
  const tag = digest && `"${digest}"`;
  const span = isOfThis(request, tag) ? spanOf(request.headers.get('range'), size) : null;
  const headers = {
    'Accept-Ranges': 'bytes',
    ...(tag && { ETag: tag }),
  };
  if (span === 'beyond') {
    return new Response(null, {
      status: 416,
      headers: { ...headers, 'Content-Range': `bytes */${size}` },
    });
  }
  const { first, last } = span ?? { first: 0, last: size - 1 };
  const bytes = createReadStream(path, size === 0 ? {} : { start: first, end: last });
  return new Response(Readable.toWeb(bytes) as ReadableStream<Uint8Array>, {
    status: span ? 206 : 200,
    headers: {
      ...headers,
      'Content-Type': mediaType,
      'Content-Disposition': `attachment; filename="${fileName}"`,
      ...(span && { 'Content-Range': `bytes ${first}-${last}/${size}` }),
      ...bodyLength(last - first + 1),
    },
  });
}

/** Whether a part is asked for of the very bytes that are here: of others it would not fit what was fetched before. */
const isOfThis = ({ headers }: Request, tag: string | null): boolean => {
  const wanted = headers.get('if-range');
  return wanted === null || wanted === tag;
};

/** The bytes that a header names; null where it names none, or several parts, for which all of it is an answer too. */
function spanOf(range: string | null, size: number): Span | 'beyond' | null {
  const named = /^bytes=(\d{0,15})-(\d{0,15})$/.exec(range ?? '');
  if (!named) return null;
  const [from, to] = [named[1]!, named[2]!];
  if (from === '' && to === '') return null;
  const first = from === '' ? Math.max(0, size - Number(to)) : Number(from);
  const last = from === '' || to === '' ? size - 1 : Math.min(size - 1, Number(to));
  if (from !== '' && to !== '' && Number(to) < Number(from)) return null;
  return first > last ? 'beyond' : { first, last };
}
