import { describe, expect, it } from 'vitest';
import { LIMITS, LONGER_MEMORY, nextTurn, SHORT_AT_ONCE, turnFor } from './limits';
import { Waiting, type Entry } from './waiting';

type Named = Entry & { name: string };
const entry = (name: string, turn: Entry['turn'] = 'short', kind: Entry['kind'] = 'pixels') =>
  ({ name, turn, kind }) satisfies Named;

/** Gives turns until nothing more can begin; names in the order in which they begin. */
function begin(waiting: Waiting<Named>, running: Named[]): string[] {
  const begun: string[] = [];
  for (let next = waiting.next(running); next; next = waiting.next(running)) {
    running.push(next);
    begun.push(next.name);
  }
  return begun;
}

const waitingOf = (...entries: Named[]) => {
  const waiting = new Waiting<Named>();
  entries.forEach((one) => waiting.add(one));
  return waiting;
};

describe('turns', () => {
  it('are given to the newest and to who waits longest, by turns', () => {
    const waiting = waitingOf(...['a', 'b', 'c', 'd', 'e'].map((name) => entry(name)));
    const order: string[] = [];
    for (let next = waiting.next([]); next; next = waiting.next([])) order.push(next.name);
    expect(order).toEqual(['e', 'a', 'd', 'b', 'c']);
  });

  it('run beside each other as far as there is room', () => {
    const many = Array.from({ length: 40 }, (_, i) => entry(`s${i}`));
    expect(begin(waitingOf(...many), [])).toHaveLength(SHORT_AT_ONCE);
    const longer = [entry('p', 'long'), entry('s', 'long', 'shapes'), entry('t', 'long', 'shapes')];
    expect(begin(waitingOf(...longer), [])).toEqual(['t', 'p', 's']);
  });

  it('are short for a newcomer, however many long ones there are', () => {
    const long = Array.from({ length: 40 }, (_, i) => entry(`l${i}`, 'long', 'shapes'));
    const waiting = waitingOf(...long);
    const running: Named[] = [];
    begin(waiting, running);
    waiting.add(entry('new'));
    expect(begin(waiting, running)).toEqual(['new']);
  });

  it('of pixels begin beside shapes that take long', () => {
    const waiting = waitingOf(...Array.from({ length: 9 }, () => entry('s', 'long', 'shapes')));
    const running: Named[] = [];
    begin(waiting, running);
    waiting.add(entry('picture', 'long', 'pixels'));
    expect(begin(waiting, running)).toEqual(['picture']);
  });

  it('that need all the room get it when they wait longest', () => {
    const running = [entry('s', 'long', 'shapes')];
    const waiting = waitingOf(entry('whole', 'heavy'), entry('p', 'long'));
    expect(begin(waiting, running)).toEqual([]);
    running.length = 0;
    expect(begin(waiting, running)).toEqual(['p']);
    waiting.add(entry('q', 'long'));
    expect(begin(waiting, running)).toEqual([]);
    running.length = 0;
    expect(begin(waiting, running)).toEqual(['whole']);
    expect(running.filter(({ turn }) => turn !== 'short')).toHaveLength(1);
  });

  it('never use more memory together than they may', () => {
    const turns = ['short', 'long', 'heavy'] as const;
    const kinds = ['pixels', 'shapes'] as const;
    for (let seed = 1; seed <= 200; seed++) {
      let state = seed;
      const random = (n: number) => (state = (state * 48271) % 2147483647) % n;
      const waiting = new Waiting<Named>();
      const running: Named[] = [];
      let left = 12;
      let turn = 0;
      while (left > 0 || running.length > 0) {
        if (left > 0 && random(2)) {
          left--;
          waiting.add(entry(`${left}`, turns[random(3)]!, kinds[random(2)]!));
        }
        begin(waiting, running);
        const longer = running.filter((one) => one.turn !== 'short');
        const used = longer.reduce((sum, one) => sum + LIMITS[one.kind][one.turn].memory, 0);
        expect(used).toBeLessThanOrEqual(LONGER_MEMORY);
        if (running.length > 0 && random(2)) {
          running.splice(random(running.length), 1);
          begin(waiting, running);
        }
        expect(++turn).toBeLessThan(500);
      }
      expect(waiting.next([])).toBeNull();
    }
  });

  it('do not wait any more once they are taken out', () => {
    const one = entry('a');
    const waiting = waitingOf(one);
    expect(waiting.remove(one)).toBe(true);
    expect(waiting.remove(one)).toBe(false);
    expect(waiting.next([])).toBeNull();
  });
});

describe('limits', () => {
  it('lead from a short turn to a longer one, and end', () => {
    expect(nextTurn('short', 'time')).toBe('long');
    expect(nextTurn('short', 'memory')).toBe('heavy');
    expect(nextTurn('long', 'memory')).toBe('heavy');
    expect([nextTurn('long', 'time'), nextTurn('heavy', 'memory')]).toEqual([null, null]);
  });

  it('tell the turn that a file needs', () => {
    expect(turnFor('pixels', { memory: 2e8, cpu: 1000 })).toBe('short');
    expect(turnFor('pixels', { memory: 2e8, cpu: 20_000 })).toBe('long');
    expect(turnFor('pixels', { memory: 8e8, cpu: 10 })).toBe('heavy');
    expect(turnFor('pixels', { memory: 2e9, cpu: 10 })).toBeNull();
  });
});
