import { createHash } from 'node:crypto';
import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { PrintOrder } from '@/core/device/protocol';
import { DeviceClient, DeviceRefusal, NoAnswer } from '@/server/devices/client';
import { testPixels } from '@/server/testing/shop';
import { Device } from './device';
import { MODELS, type Model } from './models';
import { serveDevice } from './serve-device';

const MODEL: Model = { ...MODELS.roll, pace: 500 };
const key = (n: number) => n.toString(16).padStart(64, '0');

let folder: string;
let server: Server | undefined;
let device: Device;
let client: DeviceClient;
let address: string;
let powerWent = 0;

async function switchOn(): Promise<void> {
  device = await Device.open(MODEL, folder);
  server = serveDevice(device, () => powerWent++);
  await new Promise<void>((resolve) => server!.listen(0, '127.0.0.1', resolve));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  client = new DeviceClient(address);
}

/** It loses its power: nothing is written down, and nobody answers. */
async function switchOff(): Promise<void> {
  server?.closeAllConnections();
  await new Promise((resolve) => (server ? server.close(resolve) : resolve(null)));
  server = undefined;
}

beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-device-'));
  await switchOn();
});
afterEach(async () => {
  await switchOff();
  await rm(folder, { recursive: true, force: true });
});

/** A picture of 80 × 50 cm at 100 ppi: 3150 × 1969 pixels. */
const picture = (width = 3150, height = 1969) =>
  testPixels(width, height).withMetadata({ density: 100 }).tiff({ compression: 'none' }).toBuffer();

function orderOf(n: number, bytes: Uint8Array, more: Partial<PrintOrder> = {}): PrintOrder {
  return {
    ...{ key: key(n), title: `Print ${n}`, fileName: 'dome.tif', bytes: bytes.length },
    digest: createHash('sha256').update(bytes).digest('hex'),
    ...{ material: 'Photo paper, satin', copies: 1, ...more },
  };
}

const PART = 1 << 20;
async function send(n: number, bytes: Buffer, more: Partial<PrintOrder> = {}, from = 0) {
  await client.order(orderOf(n, bytes, more));
  for (let at = from; at < bytes.length; at += PART) {
    await client.send(key(n), at, Uint8Array.from(bytes.subarray(at, at + PART)));
  }
  return client.whole(key(n));
}

/** Waits for a print to come to a state, while time passes in its machine. */
async function until(n: number, state: string): Promise<void> {
  for (let i = 0; i < 200; i++) {
    if ((await client.status(key(n))).state === state) return;
    device.advance(state === 'waiting' ? 0 : 100);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  throw new Error(`it never was ${state}: ${JSON.stringify(await client.status(key(n)))}`);
}

describe('a device on the network', () => {
  it('takes a file in parts, prints it, and shows the print', async () => {
    const bytes = await picture();
    expect((await send(1, bytes)).state).toBe('reading');
    await until(1, 'waiting');
    const { items, dots } = await client.status(key(1));
    expect(items).toHaveLength(1);
    expect(items[0]!.width).toBeCloseTo(800.1, 1);
    expect(dots!.width).toBeCloseTo((800.1 / 25.4) * MODEL.screen.dpi, -1);
    await until(1, 'printed');
    expect((await client.describe()).inks.cyan).toBeLessThan(1);
    // What it read is thrown away.
    expect(await readdir(join(folder, 'files'))).toEqual([]);

    const side = 128;
    const look = (level: number, x: number, y: number) =>
      client.look(key(1), { level, x, y, width: side, height: side });
    const near = await look(0, 4000, 4000);
    expect(near).toHaveLength(side * side * 3);
    expect(new Set(near).size).toBeGreaterThan(20);
    // From afar it looks like the picture: darker at its left and top.
    const mean = (samples: Buffer) => samples.reduce((sum, one) => sum + one, 0) / samples.length;
    const [first, last] = [await look(5, 0, 0), await look(5, 500, 300)];
    expect(mean(first)).toBeLessThan(mean(last) - 30);
    const { data } = await sharp(bytes)
      .extract({ left: 3000, top: 1850, width: 40, height: 40 })
      .raw()
      .toBuffer({ resolveWithObject: true });
    const dot = (pixel: number) => Math.round((pixel * dots!.width) / 3150 / 16);
    const part = await client.look(key(1), {
      ...{ level: 4, x: dot(3000), y: dot(1850) },
      ...{ width: dot(3040) - dot(3000), height: dot(1890) - dot(1850) },
    });
    expect(Math.abs(mean(part) - mean(data))).toBeLessThan(12);
  });

  it('goes on with a file where it stopped, and refuses bytes for another place', async () => {
    const bytes = await picture();
    await client.order(orderOf(1, bytes));
    await client.send(key(1), 0, Uint8Array.from(bytes.subarray(0, PART)));
    await switchOff();
    await switchOn();
    const { state, received } = await client.order(orderOf(1, bytes));
    expect({ state, received }).toEqual({ state: 'receiving', received: PART });
    await expect(client.send(key(1), 0, new Uint8Array(4))).rejects.toMatchObject({
      ...{ status: 409, received: PART },
    });
    await expect(client.whole(key(1))).rejects.toMatchObject({ status: 409, received: PART });
    await send(1, bytes, {}, PART);
    await until(1, 'waiting');
  });

  it('answers while it reads a large file', async () => {
    await send(1, await picture(6000, 4000));
    let asked = 0;
    let slowest = 0;
    while ((await client.status(key(1))).state === 'reading') {
      const started = performance.now();
      await client.describe();
      slowest = Math.max(slowest, performance.now() - started);
      asked++;
    }
    expect(asked).toBeGreaterThan(5);
    // Asked to answer within three seconds; reading it takes longer than any answer.
    expect(slowest).toBeLessThan(1500);
    expect((await client.status(key(1))).state).toBe('waiting');
  });

  it('does what it is asked twice once', async () => {
    const bytes = await picture(600, 400);
    await send(1, bytes);
    await until(1, 'printed');
    const { loaded } = await client.describe();
    expect((await client.order(orderOf(1, bytes))).state).toBe('printed');
    expect((await client.whole(key(1))).state).toBe('printed');
    for (let i = 0; i < 40; i++) device.advance(100);
    expect((await client.describe()).loaded).toEqual(loaded);
  });

  it('has lost nothing that it said after its power went, at whatever moment', async () => {
    const bytes = await picture(1575, 985);
    await send(1, bytes, { copies: 3 });
    await until(1, 'waiting');
    const kept: unknown[] = [];
    for (let cut = 0; cut < 8; cut++) {
      for (let i = 0; i < 15 + cut; i++) device.advance(60);
      const before = await client.status(key(1));
      await switchOff();
      await switchOn();
      const after = await client.status(key(1));
      const printed = ({ items }: typeof after) => items.filter(({ state }) => state === 'printed');
      expect(printed(after)).toEqual(printed(before));
      const { trouble } = await client.describe();
      if (trouble) {
        expect(trouble.kind).toBe('power');
        await client.act({ act: 'again' });
      }
      kept.push(trouble);
    }
    expect(kept.some(Boolean)).toBe(true);
    await until(1, 'printed');
  });

  it('refuses a file that is not what was announced, or can’t be printed', async () => {
    const bytes = await picture(300, 200);
    const damaged = Buffer.from(bytes);
    damaged[damaged.length - 1]! ^= 1;
    await client.order(orderOf(1, bytes));
    await client.send(key(1), 0, Uint8Array.from(damaged));
    await client.whole(key(1));
    await until(1, 'refused');
    expect((await client.status(key(1))).words).toMatch(/did not arrive as it was sent/);
    await send(2, Buffer.from('no picture at all'));
    await until(2, 'refused');
    await send(3, await sharp(bytes).png().toBuffer(), { fileName: 'b.png' });
    await until(3, 'waiting');
    await send(4, bytes, { fileName: 'b.doc' });
    await until(4, 'refused');
    await client.order(orderOf(5, bytes.subarray(0, 10)));
    await expect(client.send(key(5), 0, new Uint8Array(11))).rejects.toThrow(/longer than/);
  });

  it('prints every format in every colour', async () => {
    const plain = testPixels(300, 200);
    const files = {
      'a.tif': await plain
        .clone()
        .withMetadata({ density: 100 })
        .tiff({ compression: 'lzw' })
        .toBuffer(),
      'b.png': await plain.clone().withMetadata({ density: 100 }).png().toBuffer(),
      'c.jpg': await plain.clone().withMetadata({ density: 100 }).jpeg().toBuffer(),
      'd.webp': await plain.clone().withMetadata({ density: 100 }).webp().toBuffer(),
      'e.tif': await plain
        .clone()
        .toColourspace('b-w')
        .withMetadata({ density: 100 })
        .tiff({ compression: 'none' })
        .toBuffer(),
      'f.tif': await plain
        .clone()
        .toColourspace('cmyk')
        .withMetadata({ density: 100 })
        .tiff({ compression: 'none' })
        .toBuffer(),
      'g.tif': await plain
        .clone()
        .toColourspace('rgb16')
        .withMetadata({ density: 100 })
        .tiff({ compression: 'deflate' })
        .toBuffer(),
    };
    let n = 0;
    for (const [fileName, bytes] of Object.entries(files)) {
      await send(++n, bytes, { fileName });
      await until(n, 'printed');
    }
  });

  it('answers nobody while it is off the network, and goes on printing', async () => {
    await send(1, await picture(600, 400));
    await until(1, 'waiting');
    await client.fail({ failure: 'offline' });
    await expect(client.describe()).rejects.toBeInstanceOf(NoAnswer);
    for (let i = 0; i < 60; i++) device.advance(100);
    await client.fail({ failure: 'online' });
    expect((await client.status(key(1))).state).toBe('printed');
    await client.fail({ failure: 'power' });
    expect(powerWent).toBe(1);
  });

  it('tells what happens as it happens', async () => {
    const events = fetch(`${address}/v1/events?after=0&wait=5`).then((answer) => answer.json());
    await send(1, await picture(300, 200));
    const [first] = (await events) as { number: number; words: string; key: string }[];
    expect(first).toMatchObject({ number: 1, words: 'Print 1 is announced', key: key(1) });
    await until(1, 'printed');
    const later = (await (await fetch(`${address}/v1/events?after=1`)).json()) as {
      words: string;
    }[];
    expect(later.at(-1)!.words).toBe('Print 1 is printed');
  });

  it('has no answer for pages, other names, and calls that make no sense', async () => {
    const status = async (path: string, init?: RequestInit) =>
      (await fetch(`${address}${path}`, init)).status;
    expect(await status('/v1/device', { headers: { Origin: 'http://elsewhere.example' } })).toBe(
      403,
    );
    expect(await status('/v1/nothing')).toBe(404);
    expect(await status(`/v1/prints/${key(9)}`)).toBe(404);
    expect(await status('/v1/prints/..%2f..%2fmemory.json')).toBe(404);
    expect(await status('/v1/prints', { method: 'POST', body: '{"key":"x"}' })).toBe(400);
    expect(await status('/v1/prints', { method: 'POST', body: 'x'.repeat(1 << 17) })).toBe(413);
    expect(await status('/v1/act', { method: 'POST', body: '{"act":"clear"}' })).toBe(422);
    await expect(client.act({ act: 'clear' })).rejects.toBeInstanceOf(DeviceRefusal);
  });

  it('is as it was delivered where what it remembered can’t be read', async () => {
    await send(1, await picture(300, 200));
    await until(1, 'waiting');
    await switchOff();
    await writeFile(join(folder, 'memory.json'), '{"prints": 7');
    await switchOn();
    expect((await client.describe()).loaded.left).toBe(30_000);
    await expect(client.status(key(1))).rejects.toMatchObject({ status: 404 });
  });
});
