import { execFile, spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { entryOf } from '../entry';
import { lockShop } from './lock';
import { refuseTakenPort } from './port';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'lontano-lock-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const owner = (address: string) => ({ pid: process.pid, address, since: Date.now() });

describe('a data folder', () => {
  it('has one supervisor; the second is told who, and touches nothing', () => {
    const data = join(folder, 'one');
    const unlock = lockShop(data, owner('http://127.0.0.1:4310'));
    writeFileSync(join(data, 'work'), 'mine');
    expect(statSync(data).mode & 0o777).toBe(0o700);
    expect(() => lockShop(data, owner('elsewhere'))).toThrow(
      new RegExp(`in use: process ${process.pid} serves it at http://127.0.0.1:4310 since`),
    );
    expect(readFileSync(join(data, 'work'), 'utf8')).toBe('mine');
    unlock();
    expect(readdirSync(data)).not.toContain('owner.json');
    lockShop(data, owner('again'))();
  });

  it('is free when the process that had it was killed, whatever that left', async () => {
    const data = join(folder, 'killed');
    lockShop(data, owner('first'))();
    writeFileSync(join(data, 'owner.json'), JSON.stringify({ ...owner('killed'), pid: 1 }));
    const holder = spawn(process.execPath, [
      '-e',
      `const d = new (require('better-sqlite3'))('${data}/shop.lock'); d.exec('begin exclusive'); console.log('has it'); setInterval(() => d, 1000)`,
    ]);
    await new Promise((resolve) => holder.stdout.once('data', resolve));
    expect(() => lockShop(data, owner('me'))).toThrow(/in use: process 1 serves it at killed/);
    holder.kill('SIGKILL');
    await new Promise((resolve) => holder.once('exit', resolve));
    lockShop(data, owner('me'))();
  });
});

describe('a start', () => {
  it('that finds its port taken names who holds it, and leaves the data alone', async () => {
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    const data = join(folder, 'port');
    const { code, stderr } = await new Promise<{ code: number; stderr: string }>((resolve) => {
      execFile(
        process.execPath,
        [entryOf('server/supervisor/supervisor')],
        { env: { ...process.env, LONTANO_DATA: data, PORT: String(port) } },
        (error, _, stderr) => resolve({ code: Number(error?.code ?? 0), stderr }),
      );
    });
    expect(code).toBe(1);
    expect(stderr).toMatch(`Port ${port} is taken by process ${process.pid} (`);
    expect(readdirSync(data)).not.toContain('lontano.sqlite');
    await expect(refuseTakenPort('127.0.0.1', port)).rejects.toThrow(/is taken by/);
    await new Promise((resolve) => server.close(resolve));
    await expect(refuseTakenPort('127.0.0.1', port)).resolves.toBeUndefined();
    await expect(refuseTakenPort('192.0.2.1', port)).rejects.toThrow(/Nothing can be served/);
  });
});
