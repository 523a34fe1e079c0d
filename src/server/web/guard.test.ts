import { createServer, get, type IncomingHttpHeaders, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { guard, isMeantHere } from './guard';

const here = { host: '127.0.0.1', hosts: ['print.example'] };

describe('whether a request is meant for this shop', () => {
  it.each([
    ['localhost:4310', true],
    ['127.0.0.1', true],
    ['[::1]:4310', true],
    ['PRINT.example:80', true],
    ['rebound.example:4310', false],
    ['127.0.0.1.rebound.example', false],
    ['', false],
    [undefined, false],
  ])('%s: %s', (header, meant) => expect(isMeantHere(header, here)).toBe(meant));

  it('follows the address that it is served at, unless that is every one', () => {
    expect(isMeantHere('192.0.2.7:80', { host: '192.0.2.7', hosts: [] })).toBe(true);
    expect(isMeantHere('[2001:db8::1]:80', { host: '2001:db8::1', hosts: [] })).toBe(true);
    expect(isMeantHere('0.0.0.0', { host: '0.0.0.0', hosts: [] })).toBe(false);
    expect(isMeantHere('192.0.2.7', { host: '0.0.0.0', hosts: [] })).toBe(false);
  });
});

describe('every answer', () => {
  let server: Server;
  let seen: IncomingHttpHeaders = {};
  beforeAll(async () => {
    server = createServer((request, response) => {
      if (!guard(request, response, here)) return;
      seen = request.headers;
      response.end('the shop');
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  });
  afterAll(() => server.close());

  const ask = (path: string, headers: Record<string, string> = {}) =>
    new Promise<{ status: number; headers: IncomingHttpHeaders; text: string }>((resolve) => {
      const { port } = server.address() as AddressInfo;
      get({ host: '127.0.0.1', port, path, headers }, (answer) => {
        let text = '';
        answer.on('data', (part) => (text += part));
        answer.on('end', () => {
          resolve({ status: answer.statusCode!, headers: answer.headers, text });
        });
      });
    });

  it('keeps other sites out, and lets inline scripts run by a nonce that is never the same', async () => {
    const policies: string[] = [];
    for (let i = 0; i < 2; i++) {
      const { status, headers } = await ask('/');
      expect(status).toBe(200);
      expect(headers).toMatchObject({
        'cross-origin-opener-policy': 'same-origin',
        'cross-origin-resource-policy': 'same-origin',
        'x-content-type-options': 'nosniff',
      });
      const policy = headers['content-security-policy'] as string;
      expect(policy).toMatch(/script-src 'self' 'nonce-[\w+/=]{22,}' 'wasm-unsafe-eval'/);
      expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/);
      // What the page is told by, the framework is told by as well, whatever the request said.
      expect(seen['content-security-policy']).toBe(policy);
      policies.push(policy);
    }
    expect(policies[0]).not.toBe(policies[1]);
    await ask('/', { 'content-security-policy': "script-src 'nonce-mine'" });
    expect(seen['content-security-policy']).not.toMatch(/mine/);
  });

  it('to another name is a refusal in words, with nothing of the shop', async () => {
    const { status, text } = await ask('/api/jobs', { host: 'rebound.example' });
    expect(status).toBe(421);
    expect(text).toMatch(/LONTANO_HOSTS/);
    expect(text).not.toMatch(/the shop$/);
  });

  it('of the route that makes pictures anew says that there is nothing', async () => {
    for (const path of ['/_next/image?url=/api', '/_next/image/x']) {
      expect((await ask(path)).status).toBe(404);
    }
    expect((await ask('/_next/images.js')).status).toBe(200);
  });
});
