import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, statfsSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A small disk of its own that can be filled; null where this user can't mount one. */
export interface SmallDisk {
  folder: string;
  /** fills it but for so many bytes */
  fill(left: number): void;
  /** gives the room back */
  release(): void;
  close(): void;
}

export function smallDisk(megabytes: number): SmallDisk | null {
  const folder = mkdtempSync(join(tmpdir(), 'lontano-torture-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m`, 'lontano-torture', folder], {
      stdio: 'ignore',
    });
  } catch {
    rmSync(folder, { recursive: true, force: true });
    return null;
  }
  const ballast = join(folder, 'ballast');
  return {
    folder,
    fill: (left) => {
      const { bavail, bsize } = statfsSync(folder);
      const bytes = Math.max(0, bavail * bsize - left);
      try {
        writeFileSync(ballast, Buffer.alloc(1));
        execFileSync('fallocate', ['-l', String(bytes), ballast], { stdio: 'ignore' });
      } catch {
        // somebody wrote meanwhile: it is full enough
      }
    },
    release: () => {
      try {
        truncateSync(ballast, 0);
      } catch {
        // it was never filled
      }
    },
    close: () => {
      execFileSync('umount', ['-l', folder]);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
