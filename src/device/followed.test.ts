import { rm } from 'node:fs/promises';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { testPaper } from '@/core/testing';
import type { Sending, SendRequest } from '@/core/shop/sending';
import { artifactOf, Run } from '@/core/shop/task';
import { Device } from './device';
import { MODELS } from './models';
import { serveDevice } from './serve-device';
import { endPictureProcesses } from '@/server/codecs/pictures';
import { approve } from '@/server/db/approving';
import { markGone } from '@/server/db/artifacts';
import {
  devicesToFollow,
  listDevices,
  readDevice,
  removeDevice,
  standInListens,
} from '@/server/db/devices';
import { deleteJob } from '@/server/db/deleting';
import { beginJob, readJob } from '@/server/db/jobs';
import { askToCancel, readSending, sendingsOfPiece } from '@/server/db/sendings';
import { artifactPath, claimTask, readTask } from '@/server/db/tasks';
import { openLookedAt } from '@/server/files/looked-at';
import { store } from '@/server/files/store';
import { takeIn } from '@/server/files/take-in';
import { requestRun } from '@/server/tasks/request-run';
import { doTask } from '@/server/tasks/task-process';
import { openTestShop, streamOf, testJpeg, type TestShop } from '@/server/testing/shop';
import { followDevice } from '@/server/devices/follow';
import { actAt, failAt, meetDevice } from '@/server/devices/meet';
import { requestSend } from '@/server/devices/request-send';

let shop: TestShop;
let device: Device;
let server: Server;
let id: number;
let run: Run;

const MODEL = { ...MODELS.roll, pace: 500 };

/** Switches the stand-in on, with what it remembers. */
async function switchOn(): Promise<void> {
  device = await Device.open(MODEL, join(shop.folder, 'device'));
  server = serveDevice(device, () => {});
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await standInListens(shop.db, 'roll', `http://127.0.0.1:${port}`);
}

async function switchOff(): Promise<void> {
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
}

beforeAll(async () => {
  shop = await openTestShop();
  await switchOn();
  id = (await listDevices(shop.db)).find(({ name }) => name === 'Wide inkjet, latex')!.id;
});
afterAll(async () => {
  await switchOff();
  await endPictureProcesses();
  await shop.close();
});

/** A job whose trial was run. */
async function finished(): Promise<Run> {
  const { digest, fileName } = await takeIn(shop.db, streamOf(await testJpeg(90, 60)), 'dome.jpg');
  const paper = testPaper({ width: { value: 30, unit: 'cm' } });
  const ordered = { title: 'The dome', customer: '', due: null, distance: 2, device: null, paper };
  const pictures = [{ digest, fileName, page: 1 }];
  const job = { ...ordered, material: 'Photo paper, satin', pictures };
  const { piece } = await readJob(shop.db, await beginJob(shop.db, job));
  const [trial] = piece.work.trials;
  const asked = { revision: piece.revision, trialId: trial!.id };
  const { id: task } = await requestRun(shop.db, piece.id, asked);
  await doTask(shop.db, (await claimTask(shop.db, 'me'))!, 'me');
  return Run.parse(await readTask(shop.db, task));
}

beforeEach(async () => {
  await follow();
  run = await finished();
});

const request = (more: Partial<SendRequest> = {}): SendRequest => ({
  ...{ device: id, material: 'Photo paper, satin', initials: 'mk', why: 'a test strip', ...more },
});
const send = (more?: Partial<SendRequest>) => requestSend(shop.db, run.id, request(more));

/** One look at the device. */
async function follow(signal = new AbortController().signal): Promise<void> {
  const [followed] = (await devicesToFollow(shop.db)).filter((one) => one.id === id);
  if (followed) await followDevice(shop.db, followed, signal);
}

/** Follows until a sending is in a state, while time passes in the machine. */
async function until({ key }: Sending, state: Sending['state']): Promise<Sending> {
  for (let i = 0; i < 300; i++) {
    await follow();
    const now = await readSending(shop.db, key);
    if (now.state === state) return now;
    device.advance(80);
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  throw new Error(`never ${state}: ${JSON.stringify(await readSending(shop.db, key))}`);
}

const job = () => readJob(shop.db, run.jobId, run.pieceId);
const kinds = async () => (await job()).events.map(({ kind }) => kind).reverse();

describe('sending a file to a device', () => {
  it('brings it there, onto the material, and the job to its end', async () => {
    const sending = await send();
    expect(sending).toMatchObject({ state: 'waiting', material: 'Photo paper, satin', copies: 1 });
    await until(sending, 'queued');
    expect((await job()).state).toBe('sent');
    await until(sending, 'printing');
    const printed = await until(sending, 'printed');
    expect(printed).toMatchObject({ progress: 1, spoilt: 0, trouble: null });
    expect((await job()).state).toBe('printed');
    expect(await kinds()).toEqual(['state', 'sent', 'state', 'printed', 'state']);
    const look = await openLookedAt(shop.db, printed.key, 1, 2);
    expect(look.size.width).toBe(Math.round(printed.dots!.width / 4));
    expect(await look.samples({ x: 10, y: 10, width: 20, height: 10 })).toHaveLength(600);
  });

  it('asks why, where nobody signed for the file', async () => {
    await expect(send({ why: '' })).rejects.toThrow(/Nobody signed for/);
    const piece = (await job()).piece;
    const signed = { revision: piece.revision, trialId: run.payload.trialId, initials: 'ab' };
    await approve(shop.db, piece.id, { ...signed, note: '', unseen: 0 });
    const sending = await send({ why: '' });
    const [event] = (await job()).events;
    expect(event).toMatchObject({ kind: 'sent', why: null, initials: 'MK', key: sending.key });
    await until(sending, 'printed');
  });

  it('refuses what can’t be printed there, and writes nothing down', async () => {
    await expect(send({ material: 'Rigid board' })).rejects.toThrow(/can't be loaded/);
    const other = (await listDevices(shop.db)).find(({ name }) => name === 'Banner printer')!;
    await expect(send({ device: other.id })).rejects.toThrow(/not connected/);
    expect(await sendingsOfPiece(shop.db, run.pieceId)).toEqual([]);
  });

  it('prints once, however often it is pressed and whatever ends meanwhile', async () => {
    const sending = await send();
    await expect(send()).rejects.toThrow(/on its way/);
    const before = device.describe().loaded.left;
    // The process of devices is killed again and again, at another point each time.
    for (let i = 0; i < 6; i++) {
      const killed = new AbortController();
      setTimeout(() => killed.abort(), i);
      await follow(killed.signal).catch(() => {});
    }
    await until(sending, 'printed');
    expect(before - device.describe().loaded.left).toBeCloseTo(200 + MODEL.gap, 0);
  });

  it('shows a jam, goes on once it is cleared, and says what was spoilt', async () => {
    const sending = await send();
    await until(sending, 'printing');
    device.advance(100);
    await failAt(shop.db, id, { failure: 'jam' });
    await follow();
    expect(await readSending(shop.db, sending.key)).toMatchObject({
      ...{ state: 'printing', trouble: { kind: 'jam', acts: ['clear'] } },
    });
    await expect(actAt(shop.db, id, { act: 'ink' })).rejects.toThrow(/does not wait for that/);
    await actAt(shop.db, id, { act: 'clear' });
    const printed = await until(sending, 'printed');
    expect(printed.spoilt).toBeGreaterThan(0);
    expect(printed.trouble).toBeNull();
    expect(await kinds()).toEqual(['state', 'sent', 'state', 'device stopped', 'printed', 'state']);
  });

  it('waits for a device that does not answer, and finds what was printed meanwhile', async () => {
    const sending = await send();
    await until(sending, 'printing');
    await failAt(shop.db, id, { failure: 'offline' });
    await follow();
    expect((await readDevice(shop.db, id)).answers).toBe(false);
    expect((await readSending(shop.db, sending.key)).state).toBe('printing');
    await expect(actAt(shop.db, id, { act: 'clear' })).rejects.toThrow(/does not answer/);
    for (let i = 0; i < 50; i++) device.advance(100);
    await failAt(shop.db, id, { failure: 'online' });
    await until(sending, 'printed');
    expect((await readDevice(shop.db, id)).answers).toBe(true);
  });

  it('has a person decide on what lay in a device that lost its power', async () => {
    const sending = await send();
    await until(sending, 'printing');
    device.advance(100);
    await switchOff();
    await follow();
    await switchOn();
    await follow();
    const held = await readSending(shop.db, sending.key);
    expect(held).toMatchObject({ state: 'printing', trouble: { acts: ['again', 'whole'] } });
    for (let i = 0; i < 50; i++) device.advance(100);
    await follow();
    expect((await readSending(shop.db, sending.key)).state).toBe('printing');
    await actAt(shop.db, id, { act: 'whole' });
    expect(await until(sending, 'printed')).toMatchObject({ spoilt: 0 });
  });

  it('is taken back as long as nothing is on the material', async () => {
    const sending = await send();
    await askToCancel(shop.db, sending.key);
    await until(sending, 'cancelled');
    const second = await send();
    await until(second, 'queued');
    await askToCancel(shop.db, second.key);
    await until(second, 'cancelled');
    const third = await send();
    await until(third, 'printing');
    await askToCancel(shop.db, third.key);
    await until(third, 'printed');
    await expect(askToCancel(shop.db, third.key)).rejects.toThrow(/can’t be taken back/);
    expect((await kinds()).filter((kind) => kind === 'not printed')).toHaveLength(2);
  });

  it('is not made twice for a device that has forgotten it', async () => {
    const sending = await send();
    await until(sending, 'printing');
    await switchOff();
    await rm(join(shop.folder, 'device'), { recursive: true });
    await switchOn();
    const failed = await until(sending, 'failed');
    expect(failed.words).toMatch(/Look whether it was printed/);
    expect(device.prints()).toEqual([]);
  });

  it('fails in words where its file went, and keeps files that are on their way', async () => {
    const file = artifactOf(run, 'result')!;
    const path = (await artifactPath(shop.db, run.id, 'result'))!;
    const sending = await send();
    expect(await markGone(shop.db, run.id, path)).toBe(false);
    await rm(store.named(path));
    const failed = await until(sending, 'failed');
    expect(failed.words).toBe(
      `${file.fileName} is not there any more. Run the trial again and send that.`,
    );
    expect(await markGone(shop.db, run.id, path)).toBe(true);
    await expect(send()).rejects.toThrow(/cleared away/);
  });

  it('is seen to its end on a device that is taken off the list meanwhile', async () => {
    const sending = await send();
    await until(sending, 'printing');
    await removeDevice(shop.db, id);
    await until(sending, 'printed');
    await expect(send()).rejects.toThrow(/no such device/);
    expect(await devicesToFollow(shop.db)).toEqual([]);
    const { address } = await shop.db('devices').where({ id }).first('address');
    await meetDevice(shop.db, { address });
    expect((await listDevices(shop.db)).map((one) => one.id)).toContain(id);
  });

  it('ends with its job, where that is deleted', async () => {
    const sending = await send();
    await deleteJob(shop.db, run.jobId);
    await until(sending, 'cancelled');
  });
});

describe('a device that is added', () => {
  it('listens on this machine and speaks the protocol', async () => {
    await expect(meetDevice(shop.db, { address: 'http://192.0.2.1:80' })).rejects.toThrow(
      /this machine/,
    );
    await expect(meetDevice(shop.db, { address: 'http://127.0.0.1:9' })).rejects.toThrow(
      /does not answer/,
    );
  });
});
