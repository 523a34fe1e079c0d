import { describe, expect, it } from 'vitest';
import { propose } from '@/core/recipe/propose';
import type { Work } from '@/core/recipe/work';
import { patched } from '@/core/shop/change';
import type { Piece } from '@/core/shop/job';
import type { Run } from '@/core/shop/task';
import { random, testFindings, testPaper } from '@/core/testing';
import { PieceQueue, type Dropped } from './piece-queue';

class Unanswered extends Error {}

class Conflict extends Error {
  constructor(readonly piece: Piece) {
    super('changed meanwhile');
  }
}

/** A server of one piece that answers when it is told to. */
function setUp() {
  const findings = testFindings({ width: 60, height: 40 });
  const { work } = propose(findings, { paper: testPaper(), distance: 2 });
  const works = [work];
  let now: Piece = {
    ...{ id: 7, jobId: 1, digest: 'd', fileName: 'p', findings, work, takenOut: [], reasons: [] },
    ...{ revision: 0, author: null, current: 0 },
    history: [{ id: 0, label: 'First', at: 0, author: null }],
  };
  const calls: string[] = [];
  const waiting: (() => void)[] = [];
  /** how many calls are not answered: never heard, or only the answer lost */
  const line = { down: 0, deaf: 0 };
  /** what the next call that is heard is refused with */
  let refusal: Error | null = null;
  const refuse = (with_: Error) => (refusal = with_);
  const answered = <T>(answer: () => T) =>
    new Promise<T>((resolve, reject) =>
      waiting.push(() => {
        try {
          if (line.down-- > 0) throw new Unanswered('nobody');
          if (refusal) throw refusal;
          const found = answer();
          if (line.deaf-- > 0) throw new Unanswered('nobody');
          resolve(found);
        } catch (error) {
          if (error === refusal) refusal = null;
          reject(error as Error);
        }
      }),
    );
  const based = (revision: number) => {
    if (revision !== now.revision) throw new Conflict(now);
  };
  const put = (changed: Work, label: string) => {
    const history = now.history.slice(0, now.history.findIndex(({ id }) => id === now.current) + 1);
    works.push(changed);
    const id = works.length - 1;
    now = {
      ...now,
      ...{ work: changed, revision: now.revision + 1, current: id },
      history: [...history, { id, label, at: id, author: null }],
    };
    return now;
  };
  const failures: Error[] = [];
  const met: { revision: number; dropped: readonly Dropped[] }[] = [];
  const waits: (number | string)[] = [];
  const queue = new PieceQueue(
    now,
    {
      change: (id, { revision, label, patch }) => {
        calls.push(`${id} ${label} on ${revision}`);
        return answered(() => {
          based(revision);
          return put(patched(now.work, patch) as Work, label);
        });
      },
      move: (id, { revision, to }) => {
        calls.push(`${id} to ${to} on ${revision}`);
        return answered(() => {
          based(revision);
          now = { ...now, current: to, work: works[to]!, revision: revision + 1 };
          return now;
        });
      },
      run: (id, { revision, trialId }) => {
        calls.push(`${id} run ${trialId} on ${revision}`);
        return answered(() => {
          based(revision);
          return { id: 'r' } as Run;
        });
      },
    },
    {
      queued: () => {},
      failed: (error) => void failures.push(error),
      met: (_, { revision }, dropped) => void met.push({ revision, dropped }),
      pieceIn: (error) => (error instanceof Conflict ? error.piece : null),
      unanswered: (error) => error instanceof Unanswered,
      waits: (count) => void waits.push(count),
      answers: (kept) => void waits.push(kept ? 'kept' : 'not kept'),
      pause: () => Promise.resolve(),
    },
  );
  const answer = async () => {
    waiting.shift()?.();
    await new Promise((resolve) => setTimeout(resolve));
  };
  const all = async () => {
    while (waiting.length > 0) await answer();
  };
  const elsewhere = (change: (work: Work) => void) => {
    const work_ = structuredClone(now.work);
    change(work_);
    return put(work_, 'elsewhere');
  };
  return {
    queue,
    calls,
    failures,
    met,
    waits,
    line,
    answer,
    all,
    elsewhere,
    refuse,
    server: () => now,
  };
}

const distance = (metres: number) => (work: Work) => void (work.distance = metres);
const ppi = (value: number) => (work: Work) => void (work.trials[0]!.ppi = value);

describe('what is written to a piece', () => {
  it('goes one after the other, each on what the one before left, and shows at once', async () => {
    const { queue, calls, answer, all, server } = setUp();
    queue.change('3 m', distance(3));
    queue.change('90 ppi', ppi(90));
    queue.run('a');
    expect(queue.snapshot()).toMatchObject({ changing: 2, asking: 1 });
    expect(queue.snapshot().shown.work).toMatchObject({ distance: 3, trials: [{ ppi: 90 }] });
    expect(calls).toEqual(['7 3 m on 0']);
    await answer();
    await all();
    expect(calls).toEqual(['7 3 m on 0', '7 90 ppi on 1', '7 run a on 2']);
    expect(queue.snapshot()).toMatchObject({ changing: 0, asking: 0 });
    expect(queue.snapshot().shown).toEqual(server());
  });

  it('is patches: what nobody changed is not sent, and nothing at all where nothing changed', async () => {
    const { queue, calls, all } = setUp();
    queue.change('nothing', () => {});
    await new Promise((resolve) => setTimeout(resolve));
    await all();
    expect(calls).toEqual([]);
    expect(queue.snapshot().changing).toBe(0);
  });

  it('holds for what the work has become: an undo that is on its way is not undone', async () => {
    const { queue, all, server } = setUp();
    queue.change('3 m', distance(3));
    await all();
    queue.move({ by: -1 });
    queue.change('90 ppi', ppi(90));
    await all();
    expect(server().work).toMatchObject({ distance: 2, trials: [{ ppi: 90 }] });
  });

  it('goes together with what somebody else changed, but for runs: nobody saw what those would make', async () => {
    const { queue, calls, failures, met, all, elsewhere, server } = setUp();
    queue.change('3 m', distance(3));
    queue.change('4 m', distance(4));
    queue.run('a');
    elsewhere(ppi(77));
    await all();
    expect(calls).toEqual(['7 3 m on 0', '7 3 m on 1', '7 4 m on 2']);
    expect(failures).toEqual([]);
    expect(met).toMatchObject([{ revision: 1, dropped: [{ label: 'The run', again: null }] }]);
    expect(server().work).toMatchObject({ distance: 4, trials: [{ ppi: 77 }] });
    expect(queue.snapshot().shown).toEqual(server());
  });

  it('is not done where somebody else set the same, and is offered once more', async () => {
    const { queue, met, all, elsewhere, server } = setUp();
    queue.change('90 ppi', ppi(90));
    queue.change('3 m', distance(3));
    queue.move({ by: -1 });
    queue.change('4 m', distance(4));
    elsewhere(distance(8));
    await all();
    expect(server().work).toMatchObject({ distance: 8, trials: [{ ppi: 90 }] });
    const [{ dropped }] = met as [(typeof met)[number]];
    expect(dropped.map(({ label }) => label)).toEqual(['3 m', 'Undo or redo', '4 m']);
    for (const { again } of dropped) again?.();
    await all();
    expect(server().work.distance).toBe(4);
    expect(server().history.map(({ label }) => label)).toEqual(
      ['First', 'elsewhere', '90 ppi', '3 m', '4 m'], // prettier-ignore
    );
  });

  it('is not offered where it would hit another step than it was meant for', async () => {
    const { queue, met, all, elsewhere, server } = setUp();
    const { strength } = server().work.trials[0]!.treatment[1]!;
    queue.change('weaker', (work) => void (work.trials[0]!.treatment[1]!.strength = 7));
    elsewhere((work) => void work.trials[0]!.treatment.splice(0, 1));
    await all();
    expect(met).toMatchObject([{ dropped: [{ label: 'weaker', again: null }] }]);
    expect(server().work.trials[0]!.treatment[0]!.strength).toBe(strength);
  });

  it('hears of what was changed elsewhere while it was busy', async () => {
    const { queue, met, all, elsewhere, server } = setUp();
    queue.run('a');
    queue.adopt(elsewhere(distance(8)));
    expect(queue.snapshot().shown.work.distance).toBe(2);
    await all();
    expect(queue.snapshot().shown).toEqual(server());
    expect(met).toHaveLength(1);
  });

  it('takes what was read anew, unless something is on its way or it is older', async () => {
    const { queue, all, elsewhere, server } = setUp();
    const first = server();
    const next = elsewhere(distance(8));
    queue.adopt(next);
    expect(queue.snapshot().shown.work.distance).toBe(8);
    queue.adopt(first);
    expect(queue.snapshot().shown.work.distance).toBe(8);
    queue.change('3 m', distance(3));
    queue.adopt(next);
    expect(queue.snapshot().shown.work.distance).toBe(3);
    await all();
    expect(server().work.distance).toBe(3);
  });

  it('shows in the end what the server has, after any walk', async () => {
    for (let seed = 1; seed <= 40; seed++) {
      const { queue, all, answer, elsewhere, server } = setUp();
      const next = random(seed);
      for (let step = 0; step < 30; step++) {
        const dice = next();
        if (dice < 0.4) queue.change('d', distance(1 + Math.floor(next() * 9)));
        else if (dice < 0.55) queue.move({ by: next() < 0.5 ? -1 : 1 });
        else if (dice < 0.6) elsewhere(ppi(50 + step));
        else if (dice < 0.7) queue.run('a');
        else await answer();
      }
      await all();
      expect(queue.snapshot()).toEqual({ shown: expect.anything(), changing: 0, asking: 0 });
      queue.adopt(server());
      expect(queue.snapshot().shown).toEqual(server());
    }
  });
});

describe('while nobody answers', () => {
  it('changes wait, show, and are kept in their order once somebody does', async () => {
    const { queue, line, all, server, failures, waits } = setUp();
    line.down = 3;
    queue.change('3 m', distance(3));
    queue.change('90 ppi', ppi(90));
    await all();
    expect(queue.snapshot()).toMatchObject({ changing: 0 });
    expect(server().history.map(({ label }) => label)).toEqual(['First', '3 m', '90 ppi']);
    expect(queue.snapshot().shown).toEqual(server());
    expect(failures).toEqual([]);
    expect(waits).toEqual([2, 2, 2, 'kept']);
  });

  it('a change of which only the answer was lost is not made twice, nor taken for another’s', async () => {
    const { queue, line, all, server, failures } = setUp();
    line.deaf = 1;
    queue.change('3 m', distance(3));
    queue.change('90 ppi', ppi(90));
    await all();
    expect(server().history.map(({ label }) => label)).toEqual(['First', '3 m', '90 ppi']);
    line.deaf = 1;
    queue.move({ by: -1 });
    await all();
    expect(queue.snapshot().shown).toEqual(server());
    expect(server().work).toMatchObject({ distance: 3, trials: [{ ppi: 160 }] });
    expect(failures).toEqual([]);
  });

  it('another’s change meanwhile is still a conflict', async () => {
    const { queue, line, answer, all, elsewhere, met, waits } = setUp();
    line.down = 1;
    queue.change('3 m', distance(3));
    await answer();
    elsewhere(distance(5));
    await all();
    expect(met).toMatchObject([{ dropped: [{ label: '3 m' }] }]);
    expect(queue.snapshot().shown.work.distance).toBe(5);
    // Somebody answered, though nothing was kept of it.
    expect(waits).toEqual([1, 'not kept']);
  });

  it('what is refused once somebody does waits no more', async () => {
    const { queue, line, answer, all, refuse, failures, waits } = setUp();
    line.down = 1;
    queue.change('3 m', distance(3));
    queue.change('90 ppi', ppi(90));
    await answer();
    refuse(new Error('The disk is full.'));
    await all();
    expect(failures).toEqual([new Error('The disk is full.')]);
    expect(waits).toEqual([2, 'not kept']);
    expect(queue.snapshot()).toMatchObject({ changing: 0, shown: { work: { distance: 2 } } });
  });

  it('a run is not asked for again: it may have been queued', async () => {
    const { queue, calls, line, all, failures } = setUp();
    line.deaf = 1;
    queue.run('a');
    await all();
    expect(calls).toEqual(['7 run a on 0']);
    expect(failures).toHaveLength(1);
  });
});
