import type { Knex } from 'knex';
import type { ActRequest, Failure } from '@/core/device/protocol';
import { NewDevice } from '@/core/shop/device';
import { addDevice, devicesToFollow, keepHeard, readDevice } from '../db/devices';
import { Problem } from '../problem';
import { DeviceClient, DeviceRefusal, NoAnswer } from './client';

/** Asks a device who it is and adds it to the shop's. @throws Problem where nobody answers there */
export async function meetDevice(db: Knex, device: NewDevice): Promise<void> {
  const { address } = NewDevice.parse(device);
  const said = await new DeviceClient(address).describe().catch(inWords(address));
  await addDevice(db, address, said);
}

/** Says to a device what somebody did at it. @throws Problem where it does not wait for that */
export async function actAt(db: Knex, id: number, act: ActRequest): Promise<void> {
  const { name, address } = await connected(db, id);
  const said = await new DeviceClient(address).act(act).catch(inWords(name));
  const followed = (await devicesToFollow(db)).find((one) => one.id === id);
  if (followed) await keepHeard(db, followed, said);
}

/** Has something go wrong at a stand-in. @throws Problem where it is a machine, which needs no help with that */
export async function failAt(db: Knex, id: number, failure: Failure): Promise<void> {
  const { name, address, description } = await connected(db, id);
  if (!description?.standIn) throw new Problem('usage', `${name} is no stand-in.`);
  await new DeviceClient(address).fail(failure).catch((error: unknown) => {
    // Nobody answers whose power just went.
    if (failure.failure !== 'power' || !(error instanceof NoAnswer)) return inWords(name)(error);
  });
}

async function connected(db: Knex, id: number) {
  const device = await readDevice(db, id);
  if (!device.address) throw new Problem('usage', `${device.name} is not connected.`);
  return { ...device, address: device.address };
}

const inWords =
  (who: string) =>
  (error: unknown): never => {
    if (error instanceof NoAnswer) {
      throw new Problem(
        'conflict',
        `${who} does not answer. Nothing was changed; look at the device.`,
      );
    }
    if (error instanceof DeviceRefusal) throw new Problem('conflict', error.message);
    throw error;
  };
