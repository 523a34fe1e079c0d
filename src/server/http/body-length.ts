import type { ServerResponse } from 'node:http';

/** Next drops the length of an answer that a route streams; under this name it lets it through. */
const THROUGH_NEXT = 'X-Body-Length';

/** Headers by which an answer says how long it is, so that a browser shows how far it is; none where nobody knows. */
export const bodyLength = (bytes: number | null): Record<string, string> =>
  bytes === null ? {} : { [THROUGH_NEXT]: String(bytes) };

/** Has an answer say its length by its proper name. What is packed on its way has another one, which nobody knows. */
export function sayLength(response: ServerResponse): void {
  const writeHead = response.writeHead.bind(response) as (...args: unknown[]) => ServerResponse;
  response.writeHead = (...args: unknown[]) => {
    const bytes = response.getHeader(THROUGH_NEXT);
    response.removeHeader(THROUGH_NEXT);
    if (bytes !== undefined && !response.hasHeader('Content-Encoding')) {
      response.setHeader('Content-Length', bytes);
    }
    return writeHead(...args);
  };
}
