import { formatNumber } from '@/core/measure/format';
import { nestRow, type Bed } from '@/core/device/nest';
import {
  INKS,
  type Act,
  type DeviceDescription,
  type DeviceMaterial,
  type Failure,
  type PrintOrder,
  type PrintState,
  type PrintStatus,
  type Trouble,
} from '@/core/device/protocol';
import type { Memory, PageRead, Print } from './memory';
import type { Model } from './models';

/** The most pages of an order, copies counted. */
const MOST_ITEMS = 500;
/** Prints that are over and still spoken of. */
const REMEMBERED = 200;
const EVENTS = 500;
/** A machine that is free waits so long for further prints to lay beside the first. */
export const GATHERS_MS = 800;
/** What counts as nothing left of an ink. */
const DRY = 1e-9;

/** What a person wanted of a machine that it can't do now, in words for them. */
export class Refused extends Error {}

/** A machine as it is delivered. */
export function newMemory({ materials }: Model): Memory {
  return {
    prints: [],
    row: null,
    loaded: fresh(materials[0]!),
    used: 0,
    inks: { cyan: 1, magenta: 1, yellow: 1, black: 1 },
    trouble: null,
    events: [],
  };
}

/** What is left of a material that was just loaded: millimetres of a roll, pieces of anything else. */
const fresh = ({ name, length, pieces }: DeviceMaterial): Memory['loaded'] => ({
  material: name,
  left: pieces > 1 ? pieces : length,
});

/**
 * A printing machine: prints wait in it, are laid beside each other, and printed line by line while time passes. It knows
 * neither files nor the network.
 */
export class Machine {
  private free = 0;

  /** @param now milliseconds since 1970, for its events */
  constructor(
    private readonly model: Model,
    readonly memory: Memory,
    private readonly now: () => number = Date.now,
  ) {}

  /** What lay half printed in it when its power went stands still until somebody has looked at it. */
  powerIsBack(): void {
    const { row } = this.memory;
    if (!row) return;
    this.stop({
      kind: 'power',
      words: `The power was lost at ${cm(row.done)} of ${cm(row.length)} cm. Look at what lies in it: print it again, or is it whole?`,
      acts: ['again', 'whole'],
    });
  }

  /** Takes an order; one that is known already changes nothing. */
  order(order: PrintOrder): Print {
    const known = this.find(order.key);
    if (known) return known;
    if (!this.model.materials.some(({ name }) => name === order.material)) {
      throw new Refused(`${this.model.name} can't be loaded with ${order.material}.`);
    }
    const print: Print = {
      ...{ order, state: 'receiving', received: 0, pages: [], items: [], spoilt: 0, words: null },
    };
    this.memory.prints.push(print);
    this.forget();
    this.tell(`${order.title} is announced`, order.key);
    return print;
  }

  /** Its file was read: it waits to be printed, unless it can't be. */
  ready(print: Print, pages: readonly PageRead[]): void {
    if (print.state !== 'reading') return;
    if (pages.length * print.order.copies > MOST_ITEMS) {
      return this.refuse(print, `It takes at most ${MOST_ITEMS} pages in one order.`);
    }
    const material = this.materialOf(print);
    const [across, along] = [this.across(material), this.along(material)];
    const tooLarge = pages.find(
      ({ width, height }) =>
        !nestRow([{ id: '', width, height }], { width: across, length: along, gap: 0 }),
    );
    if (tooLarge) {
      const { width, height } = tooLarge;
      return this.refuse(
        print,
        `${cm(width)} × ${cm(height)} cm does not fit on ${material.name}, of which ${cm(across)} × ${cm(along)} cm can be printed.`,
      );
    }
    print.pages = [...pages];
    print.items = Array.from({ length: print.order.copies }, (_, copy) =>
      pages.map(({ width, height }, page) => ({
        ...{ page: page + 1, copy: copy + 1, width, height },
        ...{ state: 'waiting' as const, lies: null },
      })),
    ).flat();
    print.state = 'ready';
    this.free = 0;
    // It may be for what is loaded.
    if (this.memory.trouble?.kind === 'other material') this.memory.trouble = null;
    this.tell(`${print.order.title} waits to be printed`, print.order.key);
  }

  refuse(print: Print, words: string): void {
    Object.assign(print, { state: 'refused', words });
    this.tell(`${print.order.title} was refused: ${words}`, print.order.key);
  }

  /** Takes a print out of the queue. @throws Refused where it is on the material, at least in part */
  cancel(print: Print): void {
    const state = this.stateOf(print);
    if (state === 'cancelled' || state === 'refused') return;
    if (state === 'printed' || print.items.some((item) => item.state !== 'waiting')) {
      throw new Refused(`${print.order.title} is printed, or in part: it can't be taken back.`);
    }
    print.state = 'cancelled';
    if (this.memory.trouble?.kind === 'other material') this.memory.trouble = null;
    this.tell(`${print.order.title} was taken out of the queue`, print.order.key);
  }

  /** What a person does at it. @throws Refused where that is not what it stands still for */
  act(act: Act, material?: string): void {
    const { memory } = this;
    const { trouble } = memory;
    // Rolls and boards are changed at any time but while it prints.
    const loads = act === 'load' && !memory.row;
    if (!loads && !trouble?.acts.includes(act)) {
      throw new Refused(`${this.model.name} does not wait for that.`);
    }
    if (act === 'load') {
      const name = material ?? memory.loaded.material;
      const known = this.model.materials.find((one) => one.name === name);
      if (!known) throw new Refused(`${this.model.name} can't be loaded with ${name}.`);
      this.spoil();
      memory.loaded = fresh(known);
      memory.used = 0;
      this.tell(`${name} was loaded`);
    }
    if (act === 'ink') {
      for (const ink of INKS) if (memory.inks[ink] <= DRY) memory.inks[ink] = 1;
      this.tell('Ink was changed');
    }
    if (act === 'clear' || act === 'again') {
      this.spoil();
      this.tell(act === 'clear' ? 'The jam was cleared' : 'What lay in it is printed again');
    }
    if (act === 'whole') this.finishRow();
    if (trouble?.acts.includes(act)) memory.trouble = null;
    this.free = 0;
  }

  /** Has something go wrong, as it may at any time. What the network and the power do is no matter of the machine. */
  fail(failure: Exclude<Failure['failure'], 'offline' | 'online' | 'power'>): void {
    const { memory } = this;
    if (failure === 'no ink') memory.inks.black = 0;
    if (failure === 'no material') {
      memory.loaded.left = 0;
      memory.used = 0;
      if (memory.row) this.stopForMaterial();
    }
    if (failure === 'jam') {
      const at = memory.row ? ` at ${cm(memory.row.done)} of ${cm(memory.row.length)} cm` : '';
      const kept = memory.row ? ' What it was printing begins anew once it is cleared.' : '';
      this.stop({ kind: 'jam', words: `It jammed${at}.${kept}`, acts: ['clear'] });
    }
  }

  /** Time passes. @returns whether anything changed */
  advance(ms: number): boolean {
    const { memory } = this;
    if (memory.trouble) return false;
    if (!memory.row) {
      this.free += ms;
      return this.free >= GATHERS_MS && this.beginRow();
    }
    const { row } = memory;
    const step = Math.min(row.length - row.done, (ms / 1000) * this.model.pace);
    const lines = this.withInk(step);
    row.done += lines;
    if (lines < step) {
      const dry = INKS.filter((ink) => memory.inks[ink] <= DRY);
      this.stop({
        kind: 'no ink',
        words: `Out of ${dry.join(' and ')} at ${cm(row.done)} of ${cm(row.length)} cm. It goes on there once the ink is changed.`,
        acts: ['ink'],
      });
    } else if (row.done >= row.length) this.finishRow();
    return true;
  }

  find(key: string): Print | undefined {
    return this.memory.prints.find(({ order }) => order.key === key);
  }

  stateOf({ state, items }: Print): PrintState {
    if (state !== 'ready') return state;
    if (items.every((item) => item.state === 'printed')) return 'printed';
    return items.some((item) => item.state === 'printing') ? 'printing' : 'waiting';
  }

  status(print: Print): PrintStatus {
    const { row, trouble } = this.memory;
    const state = this.stateOf(print);
    const share = row ? row.done / row.length : 0;
    const done = print.items.map((item) =>
      item.state === 'printed' ? 1 : item.state === 'printing' ? share : 0,
    );
    const progress = done.length > 0 ? done.reduce((sum, one) => sum + one, 0) / done.length : 0;
    const waits = state === 'waiting' || state === 'printing';
    const { items, received, spoilt, pages, words } = print;
    return {
      ...{ key: print.order.key, state, received, progress, items, spoilt },
      dots: pages[0]?.dots ?? null,
      words: words ?? (waits ? (trouble?.words ?? null) : null),
    };
  }

  describe(): Pick<DeviceDescription, 'loaded' | 'inks' | 'printing' | 'trouble'> {
    const { loaded, inks, row, trouble } = this.memory;
    return { loaded, inks, printing: row !== null && trouble === null, trouble };
  }

  /** Lays what waits for the loaded material into a row, or stops where it wants another. */
  private beginRow(): boolean {
    const { memory } = this;
    const waiting = memory.prints
      .filter(({ state }) => state === 'ready')
      .flatMap((print) => print.items.map((item, index) => ({ print, item, index })))
      .filter(({ item }) => item.state === 'waiting');
    if (waiting.length === 0) return false;
    const on = waiting.filter(({ print }) => print.order.material === memory.loaded.material);
    if (on.length === 0) return this.stopForOther(waiting[0]!.print);
    const material = this.materialOf(on[0]!.print);
    const pieces = on.map(({ item: { width, height } }, i) => ({ id: `${i}`, width, height }));
    const row = this.nested(pieces, material);
    if (!row) {
      this.stopForMaterial();
      return true;
    }
    memory.row = { items: [], length: row.length, done: 0 };
    for (const { id, x, y, turned } of row.lying) {
      const { print, item, index } = on[Number(id)]!;
      Object.assign(item, { state: 'printing', lies: { x, y, turned } });
      memory.row.items.push({ key: print.order.key, index });
    }
    const names = new Set(row.lying.map(({ id }) => on[Number(id)]!.print.order.title));
    this.tell(`It prints ${[...names].join(', ')}`, on[0]!.print.order.key);
    return true;
  }

  /** A row on what is left of the material, or on the next board or sheet; null where neither is long enough. */
  private nested(pieces: Parameters<typeof nestRow>[0], material: DeviceMaterial) {
    const { loaded, used } = this.memory;
    const bed = (length: number): Bed => ({
      width: this.across(material),
      length,
      gap: this.model.gap,
    });
    if (material.pieces === 1) return nestRow(pieces, bed(loaded.left));
    const whole = this.along(material);
    if (used > 0) {
      const beside = nestRow(pieces, bed(whole - used));
      if (beside) return beside;
    }
    if (loaded.left < 1) return null;
    loaded.left--;
    this.memory.used = 0;
    // A sheet holds what was laid on it; a board has room for further rows.
    return nestRow(this.model.kind === 'sheet' ? pieces.slice(0, 1) : pieces, bed(whole));
  }

  private across = ({ width }: DeviceMaterial): number => width - 2 * this.model.margins.side;
  private along = ({ length }: DeviceMaterial): number => length - 2 * this.model.margins.end;

  private materialOf = ({ order }: Print): DeviceMaterial =>
    this.model.materials.find(({ name }) => name === order.material)!;

  private rowItems() {
    return (this.memory.row?.items ?? []).flatMap(({ key, index }) => {
      const print = this.find(key);
      const item = print?.items[index];
      return print && item ? [{ print, item }] : [];
    });
  }

  /** So many millimetres of the row as there is ink for. */
  private withInk(step: number): number {
    const { inks } = this.memory;
    const perMm = Object.fromEntries(INKS.map((ink) => [ink, 0])) as Record<
      (typeof INKS)[number],
      number
    >;
    for (const { print, item } of this.rowItems()) {
      const width = item.lies?.turned ? item.height : item.width;
      const { coverage } = print.pages[item.page - 1]!;
      for (const ink of INKS) perMm[ink] += (coverage[ink] * width) / 1e6 / this.model.inkArea;
    }
    const lines = Math.min(
      step,
      ...INKS.map((ink) => (perMm[ink] > 0 ? inks[ink] / perMm[ink] : step)),
    );
    for (const ink of INKS) inks[ink] = Math.max(0, inks[ink] - perMm[ink] * lines);
    return lines;
  }

  private finishRow(): void {
    for (const { print, item } of this.rowItems()) {
      item.state = 'printed';
      if (this.stateOf(print) === 'printed')
        this.tell(`${print.order.title} is printed`, print.order.key);
    }
    this.takeMaterial(this.memory.row?.length ?? 0);
    this.memory.row = null;
  }

  /** What is half printed is thrown away, and waits to be printed anew. */
  private spoil(): void {
    const { row } = this.memory;
    if (!row) return;
    for (const { print, item } of this.rowItems()) {
      Object.assign(item, { state: 'waiting', lies: null });
      print.spoilt += row.done;
    }
    this.takeMaterial(row.done);
    this.memory.row = null;
  }

  private takeMaterial(length: number): void {
    const { memory, model } = this;
    const known = model.materials.find(({ name }) => name === memory.loaded.material);
    if (known && known.pieces > 1) {
      memory.used = model.kind === 'sheet' ? known.length : memory.used + length + model.gap;
    } else memory.loaded.left = Math.max(0, memory.loaded.left - length - model.gap);
  }

  private stopForMaterial(): void {
    const { loaded, row } = this.memory;
    const kept = row
      ? ` What it was printing, ${cm(row.done)} of ${cm(row.length)} cm, begins anew.`
      : '';
    this.stop({
      kind: 'no material',
      words: `${loaded.material} has run out.${kept} Load it.`,
      acts: ['load'],
    });
  }

  private stopForOther({ order }: Print): boolean {
    this.stop({
      kind: 'other material',
      words: `${order.title} waits for ${order.material}; ${this.memory.loaded.material} is loaded.`,
      acts: ['load'],
    });
    return true;
  }

  private stop(trouble: Trouble): void {
    this.memory.trouble = trouble;
    this.tell(trouble.words, this.memory.row?.items[0]?.key ?? null);
  }

  private tell(words: string, key: string | null = null): void {
    const { events } = this.memory;
    events.push({
      number: (events.at(-1)?.number ?? 0) + 1,
      at: this.now(),
      key,
      words: words.slice(0, 500),
    });
    if (events.length > EVENTS) events.splice(0, events.length - EVENTS);
  }

  /** Forgets the oldest prints that are over. */
  private forget(): void {
    const over = this.memory.prints.filter((print) =>
      ['printed', 'refused', 'cancelled'].includes(this.stateOf(print)),
    );
    const gone = new Set(over.slice(0, Math.max(0, over.length - REMEMBERED)));
    if (gone.size > 0) this.memory.prints = this.memory.prints.filter((print) => !gone.has(print));
  }
}

const cm = (mm: number): string => formatNumber(mm / 10, 1);
