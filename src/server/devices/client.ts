import { z } from 'zod';
import {
  DeviceDescription,
  PrintStatus,
  Refusal,
  type ActRequest,
  type Failure,
  type PrintOrder,
} from '@/core/device/protocol';

/** A device answered, and it said no. */
export class DeviceRefusal extends Error {
  constructor(
    readonly status: number,
    message: string,
    /** bytes of the file that it has, where it says so */
    readonly received?: number,
  ) {
    super(message);
  }
}

/** It did not answer, or not as the protocol has it. */
export class NoAnswer extends Error {}

const ANSWER_MS = 3000;
/** Bytes go to the disk before they are answered. */
const PART_MS = 30_000;
/** No answer but a picture is larger. */
const MOST_ANSWER = 1 << 20;

interface Asking {
  method?: string;
  json?: object;
  bytes?: Uint8Array<ArrayBuffer>;
  timeout?: number;
  signal?: AbortSignal;
}

/** Speaks to a device by the protocol of docs/devices.md. */
export class DeviceClient {
  constructor(private readonly address: string) {}

  describe = () => this.ask('/v1/device', DeviceDescription);
  status = (key: string) => this.ask(`/v1/prints/${key}`, PrintStatus);
  order = (order: PrintOrder) =>
    this.ask('/v1/prints', PrintStatus, { method: 'POST', json: order });
  whole = (key: string) => this.ask(`/v1/prints/${key}/whole`, PrintStatus, { method: 'POST' });
  cancel = (key: string) => this.ask(`/v1/prints/${key}`, PrintStatus, { method: 'DELETE' });
  act = (act: ActRequest) => this.ask('/v1/act', DeviceDescription, { method: 'POST', json: act });
  fail = (failure: Failure) =>
    this.ask('/v1/failure', z.unknown(), { method: 'POST', json: failure });

  send(key: string, from: number, bytes: Uint8Array<ArrayBuffer>, signal?: AbortSignal) {
    return this.ask(`/v1/prints/${key}/file?from=${from}`, PrintStatus, {
      ...{ method: 'PUT', bytes, timeout: PART_MS },
      ...(signal && { signal }),
    });
  }

  /** Samples of a part of a print. */
  async look(
    key: string,
    at: { level: number; x: number; y: number; width: number; height: number },
  ): Promise<Buffer> {
    const words = Object.entries(at).map(([name, value]) => `${name}=${value}`);
    const answer = await this.call(`/v1/prints/${key}/look?${words.join('&')}`, {
      timeout: PART_MS,
    });
    return bounded(answer);
  }

  private async ask<T>(path: string, schema: z.ZodType<T>, asking: Asking = {}): Promise<T> {
    const text = (await bounded(await this.call(path, asking))).toString();
    const answer = schema.safeParse(json(text));
    if (!answer.success) throw new NoAnswer('It does not speak the protocol.');
    return answer.data;
  }

  private async call(path: string, asking: Asking): Promise<Response> {
    const { method = 'GET', json: value, bytes, timeout = ANSWER_MS, signal } = asking;
    const late = AbortSignal.timeout(timeout);
    let answer: Response;
    try {
      answer = await fetch(`${this.address}${path}`, {
        ...{ method, redirect: 'error', signal: signal ? AbortSignal.any([signal, late]) : late },
        ...(value && {
          body: JSON.stringify(value),
          headers: { 'Content-Type': 'application/json' },
        }),
        ...(bytes && { body: bytes }),
      });
    } catch (error) {
      signal?.throwIfAborted();
      throw new NoAnswer(String(error));
    }
    if (answer.ok) return answer;
    const said = Refusal.safeParse(json((await bounded(answer)).toString()));
    if (!said.success) throw new NoAnswer(`It answered ${answer.status}.`);
    throw new DeviceRefusal(answer.status, said.data.message, said.data.received);
  }
}

function json(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** An answer's bytes, as far as they are bearable. */
async function bounded(answer: Response): Promise<Buffer> {
  const parts: Uint8Array[] = [];
  let total = 0;
  try {
    for await (const part of (answer.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
      total += part.length;
      if (total > MOST_ANSWER) throw new NoAnswer('It says too much.');
      parts.push(part);
    }
  } catch (error) {
    throw error instanceof NoAnswer ? error : new NoAnswer(String(error));
  }
  return Buffer.concat(parts);
}
