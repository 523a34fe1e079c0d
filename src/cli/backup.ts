import { resolve } from 'node:path';
import { formatBytes } from '@/core/measure/format';
import { MAY_GO, StorageKind } from '@/core/shop/storage';
import { restoreBackup } from '@/server/backup/restore-backup';
import { writeBackup } from '@/server/backup/write-backup';
import { config } from '@/server/config';
import { storageOf } from '@/server/housekeeping/storage';
import { withShop } from './shop';

interface Told {
  json?: boolean;
}

/** Says on stderr how far it is, once for every hundredth. */
function progress(): (share: number) => void {
  let last = -1;
  return (share) => {
    const percent = Math.floor(100 * share);
    if (percent === last) return;
    last = percent;
    process.stderr.write(`${percent} %\n`);
  };
}

/** Writes a shop into one archive, whether it is open or not. */
export async function backup(
  archive: string,
  { data, allResults, json }: Told & { data?: string; allResults?: boolean },
): Promise<void> {
  await withShop(data, async () => {
    const how = { results: allResults ? 'all' : 'needed', told: progress() } as const;
    const made = await writeBackup(config().data, resolve(archive), how);
    console.log(
      json
        ? JSON.stringify(made)
        : `${archive}: ${made.entries} files, ${formatBytes(made.bytes)}${made.leftOut > 0 ? `; ${made.leftOut} results are in it by their recipes` : ''}`,
    );
  });
}

/** Restores a shop from its archive into an empty folder. */
export async function restore(archive: string, folder: string, { json }: Told): Promise<void> {
  const { at, entries, bytes } = await restoreBackup(resolve(archive), resolve(folder), progress());
  console.log(
    json
      ? JSON.stringify({ at, entries, bytes })
      : `${folder}: the shop as it was on ${new Date(at).toISOString().slice(0, 16).replace('T', ' at ')}, ${entries} files, ${formatBytes(bytes)}`,
  );
}

/** Says what takes how much of a shop's disk, and when it may go. */
export async function storage(folder: string | undefined, { json }: Told): Promise<void> {
  await withShop(folder, async (db) => {
    const found = await storageOf(db);
    if (json) return console.log(JSON.stringify(found));
    for (const kind of StorageKind.options) {
      const entry = found.entries.find((one) => one.kind === kind);
      if (!entry) continue;
      const { files, bytes } = entry;
      console.log(
        `${kind.padEnd(24)} ${formatBytes(bytes).padStart(8)}  ${String(files).padStart(7)} files  may go: ${MAY_GO[kind]}`,
      );
    }
    console.log(
      `what can be made again may take ${formatBytes(found.againLimit)}; ${formatBytes(found.free)} are free`,
    );
  });
}
