import { describe, expect, it } from 'vitest';
import type { PrintOrder } from '@/core/device/protocol';
import { GATHERS_MS, Machine, newMemory, Refused } from './machine';
import { Memory, type PageRead } from './memory';
import { MODELS, type Model } from './models';

const ROLL: Model = { ...MODELS.roll, pace: 100 };
const key = (n: number) => n.toString(16).padStart(64, '0');
const order = (n: number, more: Partial<PrintOrder> = {}): PrintOrder => ({
  ...{ key: key(n), title: `Print ${n}`, fileName: 'a.tif', bytes: 10, digest: key(99) },
  ...{ material: 'Photo paper, satin', copies: 1, ...more },
});
const page = (width: number, height: number, black = 0.2): PageRead => ({
  ...{ width, height, dots: { width: 100, height: 100 } },
  coverage: { cyan: 0.1, magenta: 0.1, yellow: 0.1, black },
});

function begun(model: Model = ROLL) {
  const memory = newMemory(model);
  return new Machine(model, memory, () => 0);
}

function put(machine: Machine, n: number, pages: PageRead[], more: Partial<PrintOrder> = {}) {
  const print = machine.order(order(n, more));
  print.state = 'reading';
  machine.ready(print, pages);
  return () => machine.status(machine.find(key(n))!);
}

/** Time passes in small steps. */
function pass(machine: Machine, ms: number): void {
  for (let t = 0; t < ms; t += 50) machine.advance(50);
}

describe('a machine', () => {
  it('prints line by line, and uses up material and ink', () => {
    const machine = begun();
    const status = put(machine, 1, [page(1000, 500)]);
    expect(status().state).toBe('waiting');
    pass(machine, GATHERS_MS + 2500);
    expect(status()).toMatchObject({ state: 'printing', items: [{ state: 'printing' }] });
    expect(status().progress).toBeCloseTo(0.5, 1);
    pass(machine, 3000);
    expect(status()).toMatchObject({ state: 'printed', progress: 1, spoilt: 0 });
    const { loaded, inks } = machine.describe();
    expect(loaded.left).toBeCloseTo(30_000 - 500 - ROLL.gap, 6);
    expect(1 - inks.black).toBeCloseTo((0.2 * 0.5) / ROLL.inkArea, 9);
    expect(1 - inks.cyan).toBeCloseTo((0.1 * 0.5) / ROLL.inkArea, 9);
  });

  it('lays prints that wait beside each other, each with its own progress', () => {
    const machine = begun();
    const one = put(machine, 1, [page(500, 300)]);
    const two = put(machine, 2, [page(400, 200)]);
    const three = put(machine, 3, [page(900, 300)]);
    pass(machine, GATHERS_MS + 200);
    expect([one(), two(), three()].map(({ state }) => state)).toEqual([
      'printing',
      'printing',
      'waiting',
    ]);
    expect(one().items[0]!.lies).toEqual({ x: 0, y: 0, turned: false });
    pass(machine, 60_000);
    expect([one(), two(), three()].map(({ state }) => state)).toEqual(Array(3).fill('printed'));
  });

  it('prints as many copies of every page as were ordered', () => {
    const machine = begun();
    const status = put(machine, 1, [page(500, 300), page(300, 300)], { copies: 3 });
    expect(status().items).toHaveLength(6);
    pass(machine, 60_000);
    expect(status().items.every(({ state }) => state === 'printed')).toBe(true);
  });

  it('takes an order that it knows already for the same', () => {
    const machine = begun();
    const status = put(machine, 1, [page(500, 300)]);
    pass(machine, 60_000);
    machine.order(order(1));
    pass(machine, 60_000);
    expect(status().state).toBe('printed');
    expect(machine.memory.prints).toHaveLength(1);
    expect(machine.describe().loaded.left).toBeCloseTo(30_000 - 300 - ROLL.gap, 6);
  });

  it('begins anew after a jam, and says what was spoilt', () => {
    const machine = begun();
    const status = put(machine, 1, [page(1000, 500)]);
    pass(machine, GATHERS_MS + 2500);
    machine.fail('jam');
    const { done } = machine.memory.row!;
    pass(machine, 5000);
    expect(status()).toMatchObject({ state: 'printing' });
    expect(status().words).toMatch(/^It jammed at 25 of 50 cm/);
    machine.act('clear');
    expect(status()).toMatchObject({ state: 'waiting', spoilt: done });
    pass(machine, 60_000);
    expect(status().state).toBe('printed');
    expect(machine.describe().loaded.left).toBeCloseTo(30_000 - 500 - done - 2 * ROLL.gap, 6);
  });

  it('goes on at the same line once its ink is changed', () => {
    const machine = begun();
    machine.memory.inks.magenta = (0.1 * 0.25) / ROLL.inkArea;
    const status = put(machine, 1, [page(1000, 500)]);
    pass(machine, 60_000);
    expect(machine.describe().trouble).toMatchObject({ kind: 'no ink', acts: ['ink'] });
    expect(status().words).toMatch(/^Out of magenta at 25 of 50 cm/);
    machine.act('ink');
    pass(machine, 60_000);
    expect(status()).toMatchObject({ state: 'printed', spoilt: 0 });
  });

  it('waits where there is too little material, and begins anew where it ran out on the way', () => {
    const machine = begun();
    machine.memory.loaded.left = 300;
    const status = put(machine, 1, [page(1000, 500)]);
    pass(machine, 5000);
    expect(machine.describe().trouble?.kind).toBe('no material');
    expect(status().state).toBe('waiting');
    machine.act('load');
    pass(machine, GATHERS_MS + 2500);
    machine.fail('no material');
    expect(status().words).toMatch(/has run out.*begins anew/);
    machine.act('load');
    expect(machine.describe().loaded.left).toBe(30_000);
    pass(machine, 60_000);
    expect(status()).toMatchObject({ state: 'printed', spoilt: 250 });
  });

  it('asks for the material that is ordered', () => {
    const machine = begun();
    const status = put(machine, 1, [page(300, 200)], { material: 'Canvas' });
    const other = put(machine, 2, [page(300, 200)]);
    pass(machine, 10_000);
    expect(other().state).toBe('printed');
    expect(status().words).toBe('Print 1 waits for Canvas; Photo paper, satin is loaded.');
    expect(() => machine.act('load', 'Velvet')).toThrow(/can't be loaded with Velvet/);
    machine.act('load', 'Canvas');
    pass(machine, 10_000);
    expect(status().state).toBe('printed');
  });

  it('has what lay in it looked at after its power went, and prints nothing twice by itself', () => {
    const machine = begun();
    put(machine, 1, [page(1000, 500)]);
    pass(machine, GATHERS_MS + 2500);
    const kept = JSON.stringify(machine.memory);
    const after = (act: 'again' | 'whole') => {
      const woken = new Machine(ROLL, Memory.parse(JSON.parse(kept)), () => 0);
      woken.powerIsBack();
      pass(woken, 20_000);
      expect(woken.describe().trouble?.kind).toBe('power');
      expect(woken.status(woken.find(key(1))!).state).toBe('printing');
      woken.act(act);
      pass(woken, 20_000);
      return woken;
    };
    const [again, whole] = [after('again'), after('whole')];
    for (const one of [again, whole]) expect(one.status(one.find(key(1))!).state).toBe('printed');
    expect(again.memory.prints[0]!.spoilt).toBeGreaterThan(200);
    expect(whole.memory.prints[0]!.spoilt).toBe(0);
  });

  it('lays several rows on a board, and takes the next where it is full', () => {
    const machine = begun({ ...MODELS.flatbed, pace: 1000 });
    const more = { material: 'Rigid board' };
    for (let n = 0; n < 4; n++) put(machine, n, [page(2000, 1400)], more);
    pass(machine, 60_000);
    // Two rows of 1.4 m lie on a board of 3.04 m.
    expect(machine.describe().loaded.left).toBe(8);
    const sheets = begun({ ...MODELS.sheet, pace: 1000 });
    put(sheets, 1, [page(100, 100)], { copies: 3 });
    pass(sheets, 60_000);
    expect(sheets.describe().loaded.left).toBe(247);
  });

  it('refuses what is too large for it, and a material that it doesn’t take', () => {
    const machine = begun();
    const status = put(machine, 1, [page(1300, 1200)]);
    expect(status()).toMatchObject({ state: 'refused' });
    expect(status().words).toMatch(/^130 × 120 cm does not fit on Photo paper, satin/);
    expect(() => machine.order(order(2, { material: 'Velvet' }))).toThrow(Refused);
    const many = put(machine, 3, Array(60).fill(page(10, 10)), { copies: 9 });
    expect(many().words).toMatch(/at most 500 pages/);
  });

  it('takes what waits out of its queue, and nothing that is on the material', () => {
    const machine = begun();
    const status = put(machine, 1, [page(1000, 500)]);
    machine.cancel(machine.find(key(1))!);
    expect(status().state).toBe('cancelled');
    put(machine, 2, [page(1000, 500)]);
    pass(machine, GATHERS_MS + 1000);
    expect(() => machine.cancel(machine.find(key(2))!)).toThrow(/can't be taken back/);
  });

  it('does nothing that it doesn’t wait for', () => {
    const machine = begun();
    expect(() => machine.act('clear')).toThrow(Refused);
    put(machine, 1, [page(1000, 500)]);
    pass(machine, GATHERS_MS + 1000);
    machine.fail('jam');
    expect(() => machine.act('load')).toThrow(Refused);
    expect(() => machine.act('whole')).toThrow(Refused);
    expect(machine.describe().trouble?.kind).toBe('jam');
  });

  it('forgets only what is over, and keeps its events in order', () => {
    const machine = begun({ ...ROLL, pace: 1e6 });
    const waiting = put(machine, 0, [page(100, 100)], { material: 'Canvas' });
    for (let n = 1; n <= 260; n++) {
      put(machine, n, [page(100, 100)]);
      pass(machine, GATHERS_MS + 200);
    }
    expect(machine.memory.prints.length).toBeLessThan(210);
    expect(waiting().state).toBe('waiting');
    const numbers = machine.memory.events.map(({ number }) => number);
    expect(numbers).toEqual(numbers.map((_, i) => numbers[0]! + i));
    expect(numbers).toHaveLength(500);
  });
});
