import { canBeSent, checkForDevice, type FileToPrint } from '../device/check';
import type { DeviceDescription } from '../device/protocol';
import type { Work } from '../recipe/work';
import type { ShopDevice } from './device';

/** A device that can be sent to. */
export type Connected = ShopDevice & { description: DeviceDescription };

/** What was chosen, else where the file fits: on what was ordered if it does, a proof on sheets first. */
export function placeFor(
  file: FileToPrint,
  devices: readonly Connected[],
  {
    device: id,
    material: name,
    proof,
    work,
  }: {
    device?: number;
    material?: string;
    proof: boolean;
    work: Pick<Work, 'device' | 'material'>;
  },
): { device: Connected; material: string } | null {
  const sheets = proof ? devices.filter(({ description }) => description.kind === 'sheet') : [];
  const ordered = proof ? [] : devices.filter((one) => one.name === work.device);
  const own = devices.filter((one) => one.id === id);
  const ways = (own.length > 0 ? own : [...sheets, ...ordered, ...devices]).flatMap((device) => {
    const { materials, loaded } = device.description;
    const names = [work.material, loaded.material, ...materials.map((one) => one.name)];
    const known = names.filter((one) => materials.some((of) => of.name === one));
    return (name ? [name] : known).map((material) => ({ device, material: material! }));
  });
  const fits = ({ device, material }: (typeof ways)[number]) =>
    canBeSent(checkForDevice(file, device.description, { material, ordered: work.material }));
  return ways.find(fits) ?? ways[0] ?? null;
}
