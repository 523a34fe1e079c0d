import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { bodyLength, sayLength } from './body-length';

let close = () => {};
afterEach(() => close());

/** What a browser is answered by a server whose answers say their lengths. */
async function answered(give: (response: ServerResponse) => void): Promise<Response> {
  const server = createServer((_, response) => {
    sayLength(response);
    give(response);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  close = () => server.close();
  return fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
}

const put = (response: ServerResponse, headers: Record<string, string>) => {
  for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
};

describe('the length of an answer', () => {
  it('that is streamed is said by its proper name alone', async () => {
    const response = await answered((answer) => {
      put(answer, bodyLength(10));
      answer.write('12345');
      setTimeout(() => answer.end('67890'), 20);
    });
    expect(response.headers.get('content-length')).toBe('10');
    expect([...response.headers.keys()]).not.toContain('x-body-length');
    expect(await response.text()).toBe('1234567890');
  });

  it('that nobody knows is not said', async () => {
    const response = await answered((answer) => {
      put(answer, bodyLength(null));
      answer.write('12345');
      answer.end();
    });
    expect(response.headers.get('content-length')).toBeNull();
    expect(response.headers.get('transfer-encoding')).toBe('chunked');
    expect(await response.text()).toBe('12345');
  });

  it('that is packed on its way is not said: it is another one', async () => {
    const response = await answered((answer) => {
      put(answer, { ...bodyLength(10), 'Content-Encoding': 'identity' });
      answer.end('1234');
    });
    expect(response.headers.get('content-length')).not.toBe('10');
    expect(await response.text()).toBe('1234');
  });

  it('that is promised and not kept fails the download, rather than end it early', async () => {
    const response = await answered((answer) => {
      put(answer, bodyLength(10));
      answer.write('12345');
      setTimeout(() => answer.destroy(), 20);
    });
    await expect(response.text()).rejects.toThrow();
  });
});
