import type { Somebody } from './technician';

/** An answer, or null where nobody answered: whether it was done is not known then. */
export interface Answer {
  status: number;
  json: unknown;
}

/** Statuses that say what is wrong; anything else from 500 on is a fault of the shop. */
const FULL = 507;

export async function ask(
  { url, ledger, calm, mayBeFull }: Somebody,
  what: string,
  path: string,
  method = 'GET',
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answer | null> {
  const wasCalm = calm();
  const started = performance.now();
  try {
    const answer = await fetch(url + path, {
      method,
      headers,
      signal: AbortSignal.timeout(240_000),
      ...(body === undefined
        ? {}
        : { body: body instanceof Uint8Array ? new Uint8Array(body) : JSON.stringify(body) }),
    });
    const text = await answer.text();
    const { status } = answer;
    if (method === 'GET' && wasCalm && calm()) {
      ledger.times.push({ what, ms: performance.now() - started });
    }
    ledger.answered(what, status);
    if (status >= 500 && !(status === FULL && mayBeFull())) {
      ledger.fault(`${what}: ${status} ${text.slice(0, 200)}`);
    }
    return { status, json: parsed(text) };
  } catch (error) {
    if (error instanceof DOMException && error.name === 'TimeoutError') {
      ledger.fault(`${what}: no answer for four minutes`);
    }
    return null;
  }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
