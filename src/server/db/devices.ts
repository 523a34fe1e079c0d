import type { Knex } from 'knex';
import { DeviceDescription } from '@/core/device/protocol';
import { ShopDevice } from '@/core/shop/device';
import { Problem } from '../problem';

/** A device that is followed, removed or not: something may still be on its way to it. */
export interface FollowedDevice {
  id: number;
  name: string;
  address: string;
  answers: boolean;
  /** as it is kept */
  description: string | null;
}

/** The number of the last change of any device. Whoever writes is alone, so numbers follow the order of writing. */
export async function lastDeviceChange(db: Knex): Promise<number> {
  const [row] = await db('devices').max({ last: 'change' });
  return Number(row?.last ?? 0);
}

const changedNow = (db: Knex) => ({
  change: db.raw('(select coalesce(max(change), 0) + 1 from devices)'),
});

const toDevice = (row: Record<string, unknown>): ShopDevice => {
  const kept = DeviceDescription.safeParse(parsed(row.description as string | null));
  return ShopDevice.parse({
    ...{ id: row.id, name: row.name, ppi: row.ppi, connected: row.address !== null },
    ...{ answers: row.address !== null && Boolean(row.answers) },
    ...{ since: row.since === null ? null : Number(row.since) },
    description: kept.success ? kept.data : null,
  });
};

function parsed(text: string | null): unknown {
  try {
    return text === null ? null : JSON.parse(text);
  } catch {
    return null;
  }
}

/** The shop's devices, in the order in which they came. */
export async function listDevices(db: Knex): Promise<ShopDevice[]> {
  const rows = await db('devices').whereNull('removed_at').orderBy('id');
  return rows.map(toDevice);
}

/** @throws Problem where the shop has no such device, or not any more */
export async function readDevice(
  db: Knex,
  id: number,
): Promise<ShopDevice & { address: string | null }> {
  const row = await db('devices').where({ id, removed_at: null }).first();
  if (!row) throw new Problem('missing', 'The shop has no such device any more.');
  return { ...toDevice(row), address: row.address };
}

/** Devices that can be asked how they stand. */
export const devicesToFollow = async (db: Knex): Promise<FollowedDevice[]> => {
  const rows = await db('devices')
    .whereNotNull('address')
    .where((of) =>
      of
        .whereNull('removed_at')
        .orWhereIn('id', db('sendings').whereNull('finished_at').select('device_id')),
    )
    .select('id', 'name', 'address', 'answers', 'description');
  return rows.map((row) => ({ ...row, answers: Boolean(row.answers) }));
};

/** Keeps what a device said of itself, or that it does not answer; nothing where that is known already. */
export async function keepHeard(
  db: Knex,
  { id, answers, description }: FollowedDevice,
  heard: DeviceDescription | null,
): Promise<void> {
  const text = heard ? JSON.stringify(heard) : description;
  if (answers === (heard !== null) && text === description) return;
  await db('devices')
    .where({ id })
    .update({
      ...{ answers: heard !== null, description: text },
      ...(answers !== (heard !== null) && { since: Date.now() }),
      ...changedNow(db),
    });
}

/** Stand-ins that were started say where they listen; before that they listen nowhere. */
export async function standInsAreOff(db: Knex): Promise<void> {
  await db('devices')
    .whereNotNull('stand_in')
    .update({ address: null, answers: false, ...changedNow(db) });
}

export async function standInListens(db: Knex, standIn: string, address: string): Promise<void> {
  await db('devices')
    .where({ stand_in: standIn })
    .update({ address, ...changedNow(db) });
}

/**
 * Adds a device by what it says of itself; one of that address that was taken off comes back.
 * @throws Problem where the shop has one of its name already
 */
export async function addDevice(db: Knex, address: string, said: DeviceDescription): Promise<void> {
  const known = await db('devices').where({ address }).first('id');
  const added = {
    ...{ address, description: JSON.stringify(said), answers: true, since: Date.now() },
    ...{ removed_at: null, ...changedNow(db) },
  };
  if (known) {
    await db('devices').where({ id: known.id }).update(added);
    return;
  }
  const { name, ppi } = said;
  if (await db('devices').where({ name }).first('id')) {
    throw new Problem('conflict', `The shop has a device called ${name} already.`);
  }
  await db('devices').insert({ name, ppi, ...added });
}

/** Takes a device off the list. What is on its way to it is seen to its end. */
export async function removeDevice(db: Knex, id: number): Promise<void> {
  const removed = await db('devices')
    .where({ id })
    .whereNull('removed_at')
    .update({ removed_at: Date.now(), ...changedNow(db) });
  if (removed === 0) throw new Problem('missing', 'The shop has no such device any more.');
}

/** Puts a device that was taken off back on the list. */
export async function returnDevice(db: Knex, id: number): Promise<void> {
  const back = await db('devices')
    .where({ id })
    .update({ removed_at: null, ...changedNow(db) });
  if (back === 0) throw new Problem('missing', 'There is no such device.');
}
