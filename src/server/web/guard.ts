import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';

/** Names of this machine that need not be said. */
const OWN_NAMES = ['localhost', '127.0.0.1', '[::1]'];
/** Addresses by which a server listens everywhere; nobody is called by them. */
const EVERYWHERE = ['0.0.0.0', '::', '[::]'];

/** The name in a Host header, without its port. */
const nameIn = (host: string): string => host.toLowerCase().replace(/:\d+$/, '');

/**
 * Whether a request is meant for this shop: a page elsewhere whose name leads to this machine sends its own name.
 * @param host where it is served, and `hosts` what else it may be called
 */
export function isMeantHere(
  header: string | undefined,
  { host, hosts }: { host: string; hosts: readonly string[] },
): boolean {
  if (!header) return false;
  const name = nameIn(header);
  return (
    OWN_NAMES.includes(name) ||
    hosts.includes(name) ||
    (!EVERYWHERE.includes(host) && name === nameIn(host.includes(':') ? `[${host}]` : host))
  );
}

/** What every answer carries: nothing of the shop is for other sites. */
const HEADERS = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
};

/** What a page may load and run: what the shop serves, and inline scripts that carry the page's nonce. */
const policy = (nonce: string): string =>
  [
    "default-src 'self'",
    "img-src 'self' data: blob:",
    "style-src 'self' 'unsafe-inline'",
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
    "worker-src 'self' blob:",
    "object-src 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
    "base-uri 'self'",
  ].join('; ');

/** Routes of the framework that the shop has no use for. */
const CLOSED = /^\/_next\/image(\?|\/|$)/;

/**
 * Sets what every answer carries, and refuses what isn't for this shop.
 * @returns whether the request may go on
 */
export function guard(
  request: IncomingMessage,
  response: ServerResponse,
  shop: { host: string; hosts: readonly string[] },
): boolean {
  for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
  const nonce = policy(randomBytes(16).toString('base64'));
  response.setHeader('Content-Security-Policy', nonce);
  // The framework takes the nonce for its own inline scripts from here.
  request.headers['content-security-policy'] = nonce;
  if (!isMeantHere(request.headers.host, shop)) {
    refuse(
      response,
      421,
      'This shop does not answer to that name. Names that it answers to are set by LONTANO_HOSTS.',
    );
    return false;
  }
  if (CLOSED.test(request.url ?? '')) {
    refuse(response, 404, 'There is nothing at this address.');
    return false;
  }
  return true;
}

function refuse(response: ServerResponse, status: number, message: string): void {
  response.writeHead(status, { 'Content-Type': 'application/json', Connection: 'close' });
  response.end(JSON.stringify({ message }));
}
