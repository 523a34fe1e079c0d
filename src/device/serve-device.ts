import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { z } from 'zod';
import { ActRequest, Failure, PrintKey, PrintOrder, type Refusal } from '@/core/device/protocol';
import { LEVELS, TILE } from '@/core/raster/tiles';
import { isDiskFull } from '@/server/problem';
import { OutOfPlace, Unknown, type Device } from './device';
import { Refused } from './machine';

/** Largest JSON body. */
const JSON_BYTES = 64 << 10;
/** Events are waited for at most so long. */
const MOST_WAIT_S = 25;
const LOOK_MS = 200;

/** Trouble with a call itself. */
class BadCall extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

interface Call {
  device: Device;
  query: URLSearchParams;
  /** what stands in the path's place of a key */
  key: string;
  json<T>(schema: z.ZodType<T>): Promise<T>;
  bytes(limit: number): Promise<Uint8Array>;
  gone(): boolean;
}

const whole = (text: string | null): number => {
  if (!text || !/^\d{1,15}$/.test(text)) throw new BadCall(400, 'A whole number is missing.');
  return Number(text);
};

/** What a device answers to: by method and path. docs/devices.md describes them. */
const ROUTES: Record<string, (call: Call) => unknown> = {
  'GET /v1/device': ({ device }) => device.describe(),
  'GET /v1/prints': ({ device }) => device.prints(),
  'POST /v1/prints': async ({ device, json }) => device.order(await json(PrintOrder)),
  'GET /v1/prints/:key': ({ device, key }) => device.status(key),
  'PUT /v1/prints/:key/file': async ({ device, key, query, bytes }) =>
    device.receive(key, whole(query.get('from')), await bytes(device.describe().partBytes)),
  'POST /v1/prints/:key/whole': ({ device, key }) => device.whole(key),
  'DELETE /v1/prints/:key': ({ device, key }) => device.cancel(key),
  'GET /v1/prints/:key/look': ({ device, key, query }) => {
    const [x, y] = [whole(query.get('x')), whole(query.get('y'))];
    const [width, height] = [whole(query.get('width')), whole(query.get('height'))];
    const level = whole(query.get('level'));
    if (level > LEVELS || width > TILE || height > TILE)
      throw new BadCall(400, 'That is too much.');
    return device.look(key, level, { x, y, width, height });
  },
  'GET /v1/events': async ({ device, query, gone }) => {
    const after = whole(query.get('after'));
    const until = Date.now() + 1000 * Math.min(MOST_WAIT_S, whole(query.get('wait') ?? '0'));
    for (;;) {
      const events = device.eventsAfter(after);
      if (events.length > 0 || Date.now() >= until || gone()) return events;
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    }
  },
  'POST /v1/act': async ({ device, json }) => device.act(await json(ActRequest)),
};

const FAILURE = 'POST /v1/failure';
const NAMES = ['127.0.0.1', 'localhost', '[::1]'];

/** Serves a device on this machine, and nobody else. @param onPower what happens when its power goes */
export function serveDevice(device: Device, onPower: () => void): Server {
  let offline = false;
  return createServer((request, response) => {
    const { pathname, searchParams } = new URL(request.url ?? '/', 'http://device');
    const key = /^\/v1\/prints\/([^/]+)/.exec(pathname)?.[1] ?? '';
    const name = `${request.method} ${key ? pathname.replace(key, ':key') : pathname}`;
    // What stands for its own panel answers though its network is gone.
    if (offline && name !== FAILURE) return void request.socket.destroy();
    const call: Call = {
      ...{ device, query: searchParams, key },
      json: async (schema) => parsed(await bytesOf(request, JSON_BYTES), schema),
      bytes: (limit) => bytesOf(request, limit),
      gone: () => response.destroyed,
    };
    const answer = async () => {
      refuseForeign(request);
      if (name === FAILURE) {
        const { failure } = await call.json(Failure);
        if (failure === 'power') return onPower();
        if (failure === 'offline' || failure === 'online') offline = failure === 'offline';
        else device.fail(failure);
        return device.describe();
      }
      if (!ROUTES[name]) throw new BadCall(404, 'There is nothing at this address.');
      if (key && !PrintKey.safeParse(key).success) throw new BadCall(404, 'That names no print.');
      return ROUTES[name](call);
    };
    answer().then(
      (value) => send(response, 200, value),
      // Who called may have gone in the middle of a part.
      (error: unknown) => response.destroyed || send(response, ...refusal(error)),
    );
  });
}

/** Pages in a browser have no business here, whatever name they come by. */
function refuseForeign(request: IncomingMessage): void {
  const name = (request.headers.host ?? '').replace(/:\d+$/, '');
  if (!NAMES.includes(name) || request.headers.origin !== undefined) {
    throw new BadCall(403, 'It answers to programs on this machine alone.');
  }
}

function parsed<T>(bytes: Uint8Array, schema: z.ZodType<T>): T {
  let value: unknown;
  try {
    value = JSON.parse(Buffer.from(bytes).toString());
  } catch {
    throw new BadCall(400, 'The call is not JSON.');
  }
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  throw new BadCall(400, `${issue!.path.join('.')}: ${issue!.message}`.slice(0, 300));
}

async function bytesOf(request: IncomingMessage, limit: number): Promise<Uint8Array> {
  const parts: Buffer[] = [];
  let total = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    total += part.length;
    if (total > limit) throw new BadCall(413, 'That is too much at once.');
    parts.push(part);
  }
  return Buffer.concat(parts);
}

function refusal(error: unknown): [status: number, Refusal] {
  const message = error instanceof Error ? error.message : String(error);
  if (error instanceof BadCall) return [error.status, { message }];
  if (error instanceof Unknown) return [404, { message }];
  if (error instanceof OutOfPlace) return [409, { message, received: error.received }];
  if (error instanceof Refused) return [422, { message }];
  if (isDiskFull(error)) return [507, { message: 'Its disk is full.' }];
  console.error(error);
  return [500, { message: 'Something in the device went wrong.' }];
}

function send(response: ServerResponse, status: number, value: unknown): void {
  if (response.destroyed) return;
  const plain = value instanceof Uint8Array;
  response.writeHead(status, {
    'Content-Type': plain ? 'application/octet-stream' : 'application/json',
    'X-Content-Type-Options': 'nosniff',
    // What was not read of a call that was refused must not be taken for the next one.
    ...(status >= 400 && { Connection: 'close' }),
  });
  response.end(plain ? value : JSON.stringify(value ?? null));
}
