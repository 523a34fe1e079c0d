import { PROPOSED_PPI } from '@/core/recipe/propose';
import { useLists } from '../../../data/queries';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** Printer and material, which set the useful resolution and the usual distance. */
export function PrintedWith({ bench }: { bench: WorkBench }) {
  const { work, change } = bench;
  const { data: lists } = useLists();
  if (!lists) return null;
  return (
    <div className="printed-with">
      <div>
        <label className="field-label" htmlFor="device">
          {say`Printed with`}
        </label>
        <select
          id="device"
          className="list-choice"
          value={work.device ?? ''}
          onChange={(event) => {
            const device = lists.devices.find((one) => one.name === event.target.value);
            change(device?.name ?? say`No printer`, (next, trial) => {
              next.device = device?.name ?? null;
              if (device) trial.ppi = device.ppi;
            });
          }}
        >
          <option value="">{say`assumed, ${PROPOSED_PPI} ppi`}</option>
          {named(lists.devices, work.device).map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </div>
      <div>
        <label className="field-label" htmlFor="material">
          {say`Printed on`}
        </label>
        <select
          id="material"
          className="list-choice"
          value={work.material ?? ''}
          onChange={(event) => {
            const material = lists.materials.find((one) => one.name === event.target.value);
            change(material?.name ?? say`No material`, (next) => {
              next.material = material?.name ?? null;
              if (material) next.distance = material.distance;
            });
          }}
        >
          <option value="">{say`not yet chosen`}</option>
          {named(lists.materials, work.material).map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </div>
    </div>
  );
}

/** The list's names, and the chosen one though it has left the list. */
const named = (list: readonly { name: string }[], chosen: string | null): string[] => {
  const names = list.map(({ name }) => name);
  return chosen && !names.includes(chosen) ? [chosen, ...names] : names;
};
