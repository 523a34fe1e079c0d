import { X } from 'lucide-react';
import { useId, useState } from 'react';
import { Button, Dropdown } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { INKS, type DeviceDescription, type Failure } from '@/core/device/protocol';
import { DeviceAddress, type ShopDevice } from '@/core/shop/device';
import { useDeviceActs, useDevices } from '../data/devices';
import { DeviceTrouble } from '../parts/DeviceTrouble';
import { say } from '@/core/words/say';

/** What the shop prints with: how each device stands, what is in it, and what it waits for. */
export function Devices() {
  const { data: devices = [] } = useDevices();
  const connected = devices.filter(({ description }) => description !== null);
  const others = devices.filter(({ description }) => description === null);
  return (
    <section aria-labelledby="shop-devices" className="devices">
      <h2 id="shop-devices">{say`Devices`}</h2>
      <ul className="shop-list">
        {connected.map((device) => (
          <li key={device.id}>
            <Device device={device} description={device.description!} />
          </li>
        ))}
        {others.map((device) => (
          <li key={device.id} className="unconnected">
            <span>{device.name}</span>
            <span className="soft">
              {say`up to ${formatNumber(device.ppi)} ppi; files are downloaded for it`}
            </span>
            <Remove device={device} />
          </li>
        ))}
      </ul>
      <AddDevice />
    </section>
  );
}

const KINDS = { roll: say`roll`, flatbed: say`flatbed`, sheet: say`sheets` } as const;

function Device({ device, description }: { device: ShopDevice; description: DeviceDescription }) {
  const { act } = useDeviceActs();
  const { loaded, materials, inks, trouble, printing, kind, standIn } = description;
  const known = materials.find(({ name }) => name === loaded.material);
  const left =
    known && known.pieces > 1
      ? say`${formatNumber(loaded.left)} left`
      : say`${formatNumber(loaded.left / 1000, 1)} m left`;
  const state = !device.answers
    ? say`does not answer`
    : trouble
      ? say`stands still`
      : printing
        ? say`prints`
        : say`ready`;
  return (
    <article className="device" aria-label={device.name}>
      <header>
        <b>{device.name}</b>
        <span className={trouble || !device.answers ? 'trouble' : 'soft'}>{state}</span>
        {standIn && <Failures device={device} />}
        <Remove device={device} />
      </header>
      <p className="soft">
        {say`${KINDS[kind]}, up to ${formatNumber(device.ppi)} ppi`}
        {standIn && say`; stands in for a machine`}
      </p>
      {trouble && device.answers && (
        <DeviceTrouble device={device.id} trouble={trouble} material={undefined} />
      )}
      <div className="stock">
        <select
          className="list-choice"
          aria-label={say`Loaded in ${device.name}`}
          value={loaded.material}
          disabled={!device.answers || printing || act.isPending}
          onChange={(event) =>
            act.mutate({ id: device.id, act: 'load', material: event.target.value })
          }
        >
          {materials.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
        <span className="figure">{left}</span>
        <ul className="inks" aria-label={say`Ink left`}>
          {INKS.map((ink) => (
            <li key={ink} title={`${ink} ${Math.round(inks[ink] * 100)} %`} data-ink={ink}>
              <i style={{ height: `${inks[ink] * 100}%` }} />
              <span className="visually-hidden">{`${ink} ${Math.round(inks[ink] * 100)} %`}</span>
            </li>
          ))}
        </ul>
      </div>
    </article>
  );
}

const FAILURES: { failure: Failure['failure']; words: string }[] = [
  { failure: 'jam', words: say`It jams` },
  { failure: 'no material', words: say`The material runs out` },
  { failure: 'no ink', words: say`The ink runs out` },
  { failure: 'offline', words: say`It goes off the network` },
  { failure: 'online', words: say`It is back on the network` },
  { failure: 'power', words: say`Its power goes` },
];

/** What a stand-in can be told to do wrong, to see what becomes of a print. */
function Failures({ device }: { device: ShopDevice }) {
  const { fail } = useDeviceActs();
  return (
    <Dropdown align="end">
      <Dropdown.Toggle variant="quiet" size="sm">
        {say`What if …`}
      </Dropdown.Toggle>
      <Dropdown.Menu>
        {FAILURES.map(({ failure, words }) => (
          <Dropdown.Item key={failure} onClick={() => fail.mutate({ id: device.id, failure })}>
            {words}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}

function Remove({ device: { id, name } }: { device: ShopDevice }) {
  const { remove } = useDeviceActs();
  return (
    <Button
      variant="quiet"
      size="sm"
      aria-label={say`Take ${name} off the list`}
      disabled={remove.isPending}
      onClick={() => remove.mutate({ id, name })}
    >
      <X size={14} aria-hidden />
    </Button>
  );
}

/** Where a further device listens. */
function AddDevice() {
  const { add } = useDeviceActs();
  const [address, setAddress] = useState('');
  const id = useId();
  const read = DeviceAddress.safeParse(address);
  const wrong = address !== '' && !read.success;
  return (
    <form
      className="add-device"
      onSubmit={(event) => {
        event.preventDefault();
        if (read.success) add.mutate({ address: read.data }, { onSuccess: () => setAddress('') });
      }}
    >
      <label className="field-label" htmlFor={id}>
        {say`Add a device that listens at`}
      </label>
      <div>
        <input
          id={id}
          className="form-control form-control-sm"
          placeholder={say`http://127.0.0.1:9100`}
          value={address}
          aria-describedby={`${id}-words`}
          onChange={(event) => setAddress(event.target.value)}
        />
        <Button type="submit" variant="quiet" size="sm" disabled={!read.success || add.isPending}>
          {say`Add`}
        </Button>
      </div>
      <p id={`${id}-words`} className={wrong ? 'field-trouble mb-0' : 'soft mb-0'}>
        {wrong
          ? say`An address on this machine, as http://127.0.0.1:9100`
          : say`It speaks the protocol of docs/devices.md.`}
      </p>
    </form>
  );
}
