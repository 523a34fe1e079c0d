import { closeSync, mkdtempSync, openSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { readWhole, writeWhole } from './whole-io';

const folder = mkdtempSync(join(tmpdir(), 'lontano-io-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it('writes and reads all bytes at their place', () => {
  const path = join(folder, 'file');
  writeFileSync(path, Buffer.alloc(20));
  const file = openSync(path, 'r+');
  writeWhole(file, Uint8Array.of(1, 2, 3), 7);
  const back = new Uint8Array(5);
  readWhole(file, back, 6);
  expect([...back]).toEqual([0, 1, 2, 3, 0]);
  expect(() => readWhole(file, new Uint8Array(8), 15)).toThrow('ends too soon');
  closeSync(file);
});

it('says so where the disk is full, rather than leaving a hole', () => {
  const full = openSync('/dev/full', 'r+');
  expect(() => writeWhole(full, new Uint8Array(10), 0)).toThrow(/ENOSPC/);
  closeSync(full);
});
