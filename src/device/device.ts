import {
  closeSync,
  fsyncSync,
  openSync,
  readFileSync,
  renameSync,
  statSync,
  writeSync,
} from 'node:fs';
import { mkdir, open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { printLook } from '@/core/device/print-look';
import type {
  ActRequest,
  DeviceDescription,
  DeviceEvent,
  Failure,
  PrintOrder,
  PrintStatus,
} from '@/core/device/protocol';
import { PROTOCOL } from '@/core/device/protocol';
import type { Region, Size } from '@/core/raster/region';
import { clip } from '@/core/raster/region';
import { toSamples } from '@/core/raster/samples';
import { levelSize } from '@/core/raster/tiles';
import { fromSamples } from '@/core/raster/samples';
import { formOf } from '@/core/colour/form';
import { openRaw, type RawFile } from '@/server/codecs/raw';
import { digestOfFile } from '@/server/files/digest';
import { writeWhole } from '@/server/files/whole-io';
import { Inks } from './inks';
import { Machine, newMemory, Refused } from './machine';
import { Memory, type Print } from './memory';
import type { Model } from './models';
import { FAR_LEVEL, readFileFor, type PageFiles } from './read-file';

const PART_BYTES = 4 << 20;
const MOST_BYTES = 16e9;
/** Files that may be on their way at once. */
const MOST_RECEIVING = 60;
/** Prints that can be looked at, the newest, and bytes that they may take; the last one stays in any case. */
const LOOKED_AT = 12;
const LOOK_BYTES = 2e9;
/** How often what it remembers is written while it prints. */
const SAVE_MS = 500;

/** There is no such print, or nothing of it to look at. */
export class Unknown extends Error {}

/** Bytes came for another place than the next; what is there already. */
export class OutOfPlace extends Error {
  constructor(readonly received: number) {
    super(`${received} bytes are there: go on with the next.`);
  }
}

/**
 * A stand-in for a printing machine with its folder: takes files in parts, reads them, and lets its machine print. What it
 * remembers survives the loss of its power.
 */
export class Device {
  private readonly inks: Inks;
  private saved = '';
  private savedAt = 0;
  private reading: Promise<void> = Promise.resolve();

  private constructor(
    private readonly model: Model,
    private readonly folder: string,
    private readonly machine: Machine,
  ) {
    this.inks = new Inks(model);
  }

  /** Switches it on. */
  static async open(model: Model, folder: string): Promise<Device> {
    await mkdir(join(folder, 'files'), { recursive: true });
    await mkdir(join(folder, 'prints'), { recursive: true });
    const machine = new Machine(model, remembered(join(folder, 'memory.json')) ?? newMemory(model));
    const device = new Device(model, folder, machine);
    machine.powerIsBack();
    for (const print of machine.memory.prints) {
      if (print.state === 'receiving') print.received = bytesOf(device.fileOf(print));
      // It was lost while it read: the file is there, and is read again.
      if (print.state === 'reading') device.read(print);
    }
    device.save();
    return device;
  }

  describe(): DeviceDescription {
    const { name, kind, ppi, margins, formats, spaces, profile, screen, materials } = this.model;
    return {
      ...{
        protocol: PROTOCOL,
        name,
        kind,
        ppi,
        margins,
        formats,
        spaces,
        profile,
        screen,
        materials,
      },
      ...this.machine.describe(),
      ...{ partBytes: PART_BYTES, mostBytes: MOST_BYTES, standIn: true },
    };
  }

  order(order: PrintOrder): PrintStatus {
    const { prints } = this.machine.memory;
    const known = this.machine.find(order.key);
    if (!known && order.bytes > MOST_BYTES) throw new Refused('The file is too large for it.');
    if (!known && prints.filter(({ state }) => state === 'receiving').length >= MOST_RECEIVING) {
      throw new Refused('Too many files are on their way to it; finish some first.');
    }
    return this.done(this.machine.order(order));
  }

  prints(): PrintStatus[] {
    return this.machine.memory.prints.map((print) => this.machine.status(print));
  }

  status(key: string): PrintStatus {
    return this.machine.status(this.print(key));
  }

  /** Takes the next bytes of a file. @throws OutOfPlace where others are the next */
  async receive(key: string, from: number, bytes: Uint8Array): Promise<PrintStatus> {
    const print = this.print(key);
    if (print.state !== 'receiving' || from !== print.received)
      throw new OutOfPlace(print.received);
    if (from + bytes.length > print.order.bytes) {
      throw new Refused('The file is longer than it was announced.');
    }
    const file = await open(this.fileOf(print), from === 0 ? 'w' : 'r+');
    try {
      writeWhole(file.fd, bytes, from);
    } finally {
      await file.close();
    }
    // Another part may have come meanwhile.
    if (print.received === from) print.received = from + bytes.length;
    return this.machine.status(print);
  }

  /** All of a file is there: it is compared with its digest, read, and waits to be printed. */
  async whole(key: string): Promise<PrintStatus> {
    const print = this.print(key);
    if (print.state === 'receiving') {
      if (print.received < print.order.bytes) throw new OutOfPlace(print.received);
      print.state = 'reading';
      this.read(print);
    }
    return this.done(print);
  }

  async cancel(key: string): Promise<PrintStatus> {
    const print = this.print(key);
    this.machine.cancel(print);
    await rm(this.fileOf(print), { force: true });
    return this.done(print);
  }

  act({ act, material }: ActRequest): DeviceDescription {
    this.machine.act(act, material);
    this.save();
    return this.describe();
  }

  fail(failure: Exclude<Failure['failure'], 'offline' | 'online' | 'power'>): void {
    this.machine.fail(failure);
    this.save();
  }

  eventsAfter(number: number): DeviceEvent[] {
    return this.machine.memory.events.filter((event) => event.number > number);
  }

  /** Time passes. */
  advance(ms: number): void {
    const { row, trouble } = this.machine.memory;
    if (!this.machine.advance(ms)) return;
    const { memory } = this.machine;
    // What begins or ends is written before anybody hears of it.
    const turns = memory.row !== row || memory.trouble !== trouble;
    if (turns || Date.now() - this.savedAt >= SAVE_MS) this.save();
  }

  /**
   * What a part of a print's first page looks like, as samples of sRGB.
   * @param region in dots that were halved `level` times
   * @throws Unknown where the print isn't kept any more
   */
  async look(key: string, level: number, region: Region): Promise<Uint8Array> {
    const print = this.print(key);
    const [page] = print.pages;
    if (!page) throw new Unknown('Nothing of it is printed yet.');
    const part = clip(region, levelSize(page.dots, level));
    if (part.width === 0 || part.height === 0) throw new Unknown('There is nothing of it there.');
    const files = this.pageFiles(print, 1);
    const far = level > FAR_LEVEL + 1;
    const ink = await openRaw(far ? files.far : files.near).catch(() => {
      throw new Unknown('The print is too old to be looked at.');
    });
    try {
      const { screen } = this.model;
      const read = (wanted: Region) => inkAmounts(ink, wanted);
      const printed = { dots: page.dots, pixels: ink.size, screen, read };
      const seen = await printLook({ ...printed, colours: await this.inks.look() }, part, level);
      return toSamples(seen, 8);
    } finally {
      await ink.close();
    }
  }

  /** Reads files one after the other, and throws away those that were read. */
  private read(print: Print): void {
    this.reading = this.reading.then(async () => {
      const path = this.fileOf(print);
      const { digest, fileName } = print.order;
      try {
        if ((await digestOfFile(path)) !== digest) {
          throw new Refused(`${fileName} did not arrive as it was sent.`);
        }
        const pages = await readFileFor(this.model, this.inks, { path, fileName }, (page) =>
          this.pageFiles(print, page),
        );
        this.machine.ready(print, pages);
      } catch (error) {
        if (!(error instanceof Refused)) console.error(error);
        const words = error instanceof Refused ? error.message : `${fileName} can't be printed.`;
        this.machine.refuse(print, words);
      }
      // Whoever asks hears of it only once it is written.
      this.save();
      await rm(path, { force: true });
      await this.forgetLooks();
    });
  }

  /** Only the newest prints can be looked at. */
  private async forgetLooks(): Promise<void> {
    const read = this.machine.memory.prints.filter(({ pages }) => pages.length > 0).reverse();
    let bytes = 0;
    for (const [i, print] of read.entries()) {
      const files = print.pages.map((_, page) => this.pageFiles(print, page + 1));
      for (const { near, far } of files) bytes += bytesOf(near) + bytesOf(far);
      if (i === 0 || (i < LOOKED_AT && bytes <= LOOK_BYTES)) continue;
      for (const { near, far } of files) {
        await Promise.all([rm(near, { force: true }), rm(far, { force: true })]);
      }
    }
  }

  private print(key: string): Print {
    const print = this.machine.find(key);
    if (!print) throw new Unknown('It does not know this print.');
    return print;
  }

  private done(print: Print): PrintStatus {
    this.save();
    return this.machine.status(print);
  }

  private fileOf = ({ order }: Print): string => join(this.folder, 'files', order.key);

  private pageFiles({ order }: Print, page: number): PageFiles {
    const path = join(this.folder, 'prints', `${order.key}-${page}`);
    return { near: `${path}.v`, far: `${path}.far.v` };
  }

  /** Writes what it remembers beside, and puts it in its place whole. */
  private save(): void {
    const text = JSON.stringify(this.machine.memory);
    this.savedAt = Date.now();
    if (text === this.saved) return;
    const path = join(this.folder, 'memory.json');
    const file = openSync(`${path}.part`, 'w');
    try {
      const bytes = Buffer.from(text);
      for (let done = 0; done < bytes.length;) done += writeSync(file, bytes, done);
      fsyncSync(file);
    } finally {
      closeSync(file);
    }
    renameSync(`${path}.part`, path);
    this.saved = text;
  }
}

/** What a machine remembers; null where it is new, or that can't be read. */
function remembered(path: string): Memory | null {
  try {
    return Memory.parse(JSON.parse(readFileSync(path, 'utf8')));
  } catch {
    return null;
  }
}

function bytesOf(path: string): number {
  try {
    return statSync(path).size;
  } catch {
    return 0;
  }
}

async function inkAmounts(ink: RawFile, region: Region & Size) {
  const samples = await ink.samples(region);
  const { planes, ...raster } = fromSamples(samples, region.width, region.height, ink.channels, 8);
  return { ...raster, planes, form: formOf('cmyk', false) };
}
