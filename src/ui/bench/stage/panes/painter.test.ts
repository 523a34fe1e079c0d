import { describe, expect, it } from 'vitest';
import { random } from '@/core/testing';
import type { Pixels } from '@/preview/client';
import { Painter, type PainterPorts, type Wanted } from './painter';

const wanted = (key: string) => ({ key, layer: {}, region: {} }) as unknown as Wanted;

interface Request {
  key: string;
  mayDraft: boolean;
  signal: AbortSignal;
  answer(draft: boolean): Promise<void>;
  fail(): Promise<void>;
}

/** A painter whose requests are answered by hand. */
function setUp() {
  const requests: Request[] = [];
  const seen = { painted: '', draft: false, busy: false, finished: '', failures: 0 };
  /** of what all pixels are at hand */
  const hand = new Set<string>();
  const settle = () => new Promise<void>((resolve) => setTimeout(resolve));
  const ports: PainterPorts<Pixels> = {
    held: ({ key }) => (hand.has(key) ? ({ draft: false, milliseconds: 0 } as Pixels) : null),
    ask: ({ key }, mayDraft, signal) =>
      new Promise((resolve, reject) => {
        signal.addEventListener('abort', () => reject(new Error('aborted')));
        requests.push({
          ...{ key, mayDraft, signal },
          answer: (draft) => {
            resolve({ draft, milliseconds: 1 } as Pixels);
            return settle();
          },
          fail: () => {
            reject(new Error('no tile'));
            return settle();
          },
        });
      }),
    paint: ({ key }, { draft }) => Object.assign(seen, { painted: key, draft }),
    busy: (busy) => void (seen.busy = busy),
    finished: ({ key }) => void (seen.finished = key),
    failed: () => void seen.failures++,
  };
  return { painter: new Painter(ports), requests, seen, hand };
}

describe('a pane', () => {
  it('shows a draft at once and is finished with the final pixels alone', async () => {
    const { painter, requests, seen } = setUp();
    painter.want(wanted('a'));
    expect(seen.busy).toBe(true);
    await requests[0]!.answer(true);
    expect(seen).toMatchObject({ painted: 'a', draft: true, busy: true, finished: '' });
    await requests[1]!.answer(false);
    expect(seen).toMatchObject({ draft: false, busy: false, finished: 'a' });
  });

  it('is not taken for finished where what is wanted was only drafted before', async () => {
    const { painter, requests, seen } = setUp();
    painter.want(wanted('a'));
    await requests[0]!.answer(true);
    painter.want(wanted('b'));
    await new Promise((resolve) => setTimeout(resolve));
    await requests.at(-1)!.answer(true);
    painter.want(wanted('a'));
    await new Promise((resolve) => setTimeout(resolve));
    expect(seen.busy).toBe(true);
    await requests.at(-1)!.answer(true);
    await requests.at(-1)!.answer(false);
    expect(seen).toMatchObject({ painted: 'a', finished: 'a', busy: false });
  });

  it('gives a network’s pixels up for something newer, but lets what is quick end', async () => {
    const { painter, requests, seen } = setUp();
    painter.want(wanted('a'));
    painter.want(wanted('b'));
    expect(requests[0]!.signal.aborted).toBe(false);
    await requests[0]!.answer(true);
    expect(requests.map(({ key }) => key)).toEqual(['a', 'b']);
    await requests[1]!.answer(true);
    painter.want(wanted('c'));
    expect(requests[2]!.signal.aborted).toBe(true);
    await new Promise((resolve) => setTimeout(resolve));
    await requests.at(-1)!.answer(false);
    expect(seen).toMatchObject({ painted: 'c', finished: 'c', busy: false });
  });

  it('asks for nothing that is at hand, and what comes late is not painted over it', async () => {
    const { painter, requests, seen, hand } = setUp();
    hand.add('b');
    painter.want(wanted('a'));
    painter.want(wanted('b'));
    expect(seen).toMatchObject({ painted: 'b', draft: false, busy: false, finished: 'b' });
    await requests[0]!.answer(false);
    expect(requests).toHaveLength(1);
    expect(seen).toMatchObject({ painted: 'b', busy: false });
    painter.want(wanted('c'));
    await requests.at(-1)!.answer(false);
    expect(seen).toMatchObject({ painted: 'c', finished: 'c', busy: false });
  });

  it('says once that something could not be computed, and goes on with what comes', async () => {
    const { painter, requests, seen } = setUp();
    painter.want(wanted('a'));
    await requests[0]!.fail();
    expect(seen).toMatchObject({ failures: 1, busy: false });
    painter.want(wanted('b'));
    await requests.at(-1)!.answer(false);
    expect(seen).toMatchObject({ painted: 'b', failures: 1 });
  });

  it('paints nothing any more once it is closed', async () => {
    const { painter, requests, seen } = setUp();
    painter.want(wanted('a'));
    painter.close();
    await requests[0]!.answer(false);
    expect(seen).toMatchObject({ painted: '', failures: 0 });
  });

  it('always ends with what was wanted last, whatever came in between', async () => {
    for (let seed = 1; seed <= 60; seed++) {
      const next = random(seed);
      const { painter, requests, seen, hand } = setUp();
      let last = '';
      let answered = 0;
      const answerOne = async () => {
        if (answered >= requests.length) return;
        const request = requests[answered++]!;
        await request.answer(request.mayDraft && next() < 0.6);
      };
      for (let move = 0; move < 40; move++) {
        if (next() < 0.6) painter.want(wanted((last = 'abc'[Math.floor(next() * 3)]!)));
        else await answerOne();
        if (next() < 0.1) hand.clear();
        if (next() < 0.1 && last) hand.add(last);
        // What is called final is what is wanted.
        if (!seen.busy && last) expect(seen).toMatchObject({ painted: last, draft: false });
      }
      for (let i = 0; i < 60; i++) {
        await new Promise((resolve) => setTimeout(resolve));
        await answerOne();
      }
      expect(seen).toMatchObject({ painted: last, draft: false, busy: false });
    }
  });
});
