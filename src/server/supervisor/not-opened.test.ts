import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { describe, expect, it } from 'vitest';
import { Problem } from '../problem';
import { notOpened } from './not-opened';

const coded = (code: string) => Object.assign(new Error('disk I/O error'), { code });

describe('a shop that cannot be opened', () => {
  it('says that the disk is full, whatever the database calls it', () => {
    for (const words of [
      notOpened(coded('SQLITE_FULL'), '/srv/shop', 5e9),
      notOpened(coded('ENOSPC'), '/srv/shop', 5e9),
      notOpened(coded('SQLITE_IOERR_SHMSIZE'), '/srv/shop', 20_000),
    ]) {
      expect(words).toMatch(/disk that holds \/srv\/shop is full/);
      expect(words).toMatch(/nothing in it was changed.*start again/);
      expect(words).not.toMatch(/SQLITE|I\/O/);
    }
  });

  it('says who may not write, and what is damaged', () => {
    expect(notOpened(coded('EACCES'), '/srv/shop', 5e9)).toMatch(/can't be written by this user/);
    const folder = mkdtempSync(join(tmpdir(), 'lontano-opened-'));
    const file = join(folder, 'lontano.sqlite');
    writeFileSync(file, 'These are no records at all. '.repeat(200));
    let error: unknown;
    try {
      new Database(file).pragma('journal_mode = WAL');
    } catch (thrown) {
      error = thrown;
    }
    expect(notOpened(error, folder)).toMatch(/records in .* are damaged \(SQLITE_NOTADB\)/);
  });

  it('leaves a problem its own words, and gives the reason of anything else', () => {
    expect(notOpened(new Problem('conflict', 'In use.'), '/srv/shop', 0)).toBe('In use.');
    expect(notOpened(new Error('no such migration'), '/srv/shop', 5e9)).toMatch(
      /could not be opened: no such migration\. The shop was not opened/,
    );
  });
});
