import { v4 as newId } from 'uuid';
import type { Work } from '@/core/recipe/work';
import { zonePart, type Zone } from '@/core/zone/zone';
import { say } from '@/core/words/say';

/** A name that no zone has yet. */
function freeName(zones: readonly Zone[], wanted: string): string {
  const names = new Set(zones.map(({ name }) => name));
  if (!names.has(wanted)) return wanted;
  let number = 2;
  while (names.has(`${wanted} ${number}`)) number++;
  return `${wanted} ${number}`;
}

/** The longest name that leaves room for what is put behind it. */
const NAME_MOST = 44;

/** A zone with nothing in it, under a name that no other has: the wanted one, or the next number. */
export function newZone(zones: readonly Zone[], wanted?: string): Zone {
  const names = new Set(zones.map(({ name }) => name));
  let number = zones.length + 1;
  while (names.has(`Zone ${number}`)) number++;
  return {
    id: newId(),
    name: wanted ? freeName(zones, wanted) : say`Zone ${number}`,
    parts: [],
    painted: null,
    feather: 0,
    inverted: false,
  };
}

/** The same zone once more, to be changed without the first. */
export const copyOf = (zone: Zone, zones: readonly Zone[]): Zone => ({
  ...structuredClone(zone),
  id: newId(),
  name: freeName(zones, say`${zone.name.slice(0, NAME_MOST)}, copied`),
});

/** All that is in one zone or in another. */
export const joinedZone = (one: Zone, other: Zone, zones: readonly Zone[]): Zone => ({
  ...newZone(
    zones,
    say`${one.name.slice(0, NAME_MOST / 2)} and ${other.name.slice(0, NAME_MOST / 2)}`,
  ),
  parts: [zonePart(one.id), zonePart(other.id)],
});

/** A change to one zone of a work. */
export const ofZone =
  (id: string, change: (zone: Zone) => void) =>
  (work: Work): void => {
    const zone = work.zones.find((one) => one.id === id);
    if (zone) change(zone);
  };
