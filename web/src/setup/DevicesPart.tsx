/** Devices the bench has over a cable or the air: added by their address or given a key, spoken to, and tried whether they switch off. */
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { BAUDS, profileNamed, type Device, type DevicePlace } from '@cork-ember/core/devices/device.ts';
import { GENERIC_PROFILES } from '@cork-ember/core/devices/genericProfiles.ts';
import type { DeviceProfile } from '@cork-ember/core/devices/profile.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { Button } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';
import { Combobox } from '../ui/Combobox.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { Named } from '../ui/Named.tsx';
import { Notice } from '../ui/Notice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { sayTrouble } from '../ui/say.ts';
import { TextBox } from '../ui/TextBox.tsx';
import { DeviceCard } from './DeviceCard.tsx';
import { freeId } from './freeId.ts';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';

/** Where instruments that speak SCPI over TCP listen. @see IANA service name scpi-raw */
const USUAL_PORT = 5025;
const USUAL_BAUD = 9600;

type Cabled = 'tcp' | 'serial';
const CABLES: Readonly<Record<Cabled, string>> = { tcp: 'The network', serial: 'A serial port' };

function NewDevice({
  profiles,
  onAdd,
}: {
  profiles: readonly DeviceProfile[];
  onAdd: (device: Omit<Device, 'id'>) => void;
}) {
  const [name, setName] = useState('');
  const [profile, setProfile] = useState('');
  const [host, setHost] = useState('');
  const [port, setPort] = useState<number | undefined>(USUAL_PORT);
  const [cable, setCable] = useState<Cabled>('tcp');
  const [path, setPath] = useState('');
  const [baud, setBaud] = useState(USUAL_BAUD);
  const [bay, setBay] = useState<number>();
  const [round, setRound] = useState(0);
  // One that sends by itself is asked nowhere.
  const isPushed = profiles.find(({ id }) => id === profile)?.speech.protocol === 'push';
  const isSerial = !isPushed && cable === 'serial';
  const isFound = isSerial ? path.trim() !== '' : host.trim() !== '' && port !== undefined;
  const isWhole = name.trim() !== '' && profile !== '' && (isPushed || isFound);
  const place: DevicePlace = isPushed
    ? { kind: 'push' }
    : isSerial
      ? { kind: 'serial', path: path.trim(), baud }
      : { kind: 'tcp', host: host.trim(), port: port ?? 0 };
  return (
    <section aria-labelledby="new-device" className={card({ className: 'mt-4' })}>
      <h3 id="new-device" className="font-bold">
        Another device
      </h3>
      <p className="text-soft">
        {isPushed
          ? 'It comes to the shop by itself, with a key it is given once it is in force.'
          : 'It is found by its address, or by the port it hangs on; nothing looks for it.'}
      </p>
      <div key={round} className="mt-3 grid items-start gap-3 sm:grid-cols-2 xl:grid-cols-3">
        <TextBox label="Name" value={name} onChange={setName} most={60} placeholder="Supply of bay 3" />
        <Named label="How it is spoken to">
          <Combobox
            label="How it is spoken to"
            className="w-full"
            value={profile}
            placeholder="Choose a profile"
            choices={profiles.map(({ id, name: label }) => ({ value: id, label }))}
            onChoose={setProfile}
          />
        </Named>
        {!isPushed && (
          <Named label="It hangs on">
            <Combobox
              label="It hangs on"
              className="w-full"
              value={cable}
              choices={Object.entries(CABLES).map(([value, label]) => ({ value, label }))}
              onChoose={(value) => setCable(value as Cabled)}
            />
          </Named>
        )}
        {isSerial && (
          <>
            <TextBox
              label="Port of this machine"
              value={path}
              onChange={setPath}
              most={80}
              placeholder="/dev/ttyUSB0"
              isReading
            />
            <Named label="Speed">
              <Combobox
                label="Speed"
                className="w-full"
                value={String(baud)}
                choices={BAUDS.map((value) => ({ value: String(value), label: `${value} baud` }))}
                onChoose={(value) => setBaud(Number(value))}
              />
            </Named>
          </>
        )}
        {!isPushed && !isSerial && (
          <>
            <TextBox
              label="Address"
              value={host}
              onChange={setHost}
              most={45}
              placeholder="192.168.1.50"
              isReading
            />
            <NumberField label="Port" unit="" value={port} onChange={setPort} />
          </>
        )}
        <NumberField label="Bay, where it is wired to one" unit="" value={bay} onChange={setBay} />
      </div>
      <Button
        className="mt-3"
        disabled={!isWhole}
        onClick={() => {
          onAdd({
            name: name.trim(),
            profile,
            place,
            ...(bay === undefined ? {} : { bay }),
          });
          setName('');
          setHost('');
          setPath('');
          setRound(round + 1);
        }}
      >
        <Plus aria-hidden className="size-5" /> Add it
      </Button>
    </section>
  );
}

export function DevicesPart({
  shop,
}: {
  shop: Required<Pick<Shop, 'devices' | 'profiles' | 'alarmsTo' | 'readingsMonths'>>;
}) {
  const [draft, setDraft] = useState(shop);
  const change = useShopChange();
  const { devices, profiles } = draft;
  const isChanged = JSON.stringify(draft) !== JSON.stringify(shop);
  const readProfile = async (file: File | undefined): Promise<void> => {
    try {
      const read = JSON.parse((await file?.text()) ?? '') as DeviceProfile;
      setDraft({ ...draft, profiles: [...profiles.filter(({ id }) => id !== read.id), read] });
    } catch {
      sayTrouble(`${file?.name ?? 'This file'} is no JSON: a profile is written as its schema says.`);
    }
  };
  return (
    <div>
      <Notice tone="caution">
        <p>
          Fire and local rules and the makers’ instructions come first. An unattended charge needs a cut-off
          that works without this program, a ventilated room and the house’s leave, under{' '}
          <Link className="underline" to="/setup?part=rules">
            House rules
          </Link>
          .
        </p>
      </Notice>
      <h2 className="mt-5 text-lg font-bold">Devices</h2>
      {devices.length === 0 && (
        <p className="mt-1 text-soft">
          None yet. Supplies, loads, cut-offs, meters and stop buttons on this network or a serial port can be
          added, and probes that send by themselves.
        </p>
      )}
      <ul className="mt-3 space-y-3">
        {devices.map((device) => (
          <DeviceCard
            key={device.id}
            device={device}
            profile={profileNamed(device.profile, profiles)}
            isKept={shop.devices.some((kept) => JSON.stringify(kept) === JSON.stringify(device))}
            onChange={(next) =>
              setDraft({ ...draft, devices: devices.map((one) => (one.id === next.id ? next : one)) })
            }
            onRemove={() => setDraft({ ...draft, devices: devices.filter(({ id }) => id !== device.id) })}
          />
        ))}
      </ul>
      <NewDevice
        profiles={[...profiles, ...GENERIC_PROFILES]}
        onAdd={(device) =>
          setDraft({ ...draft, devices: [...devices, { id: freeId('device', devices), ...device }] })
        }
      />
      <h2 className="mt-6 text-lg font-bold">Profiles of your own</h2>
      <p className="text-soft">
        A device no profile fits is added by writing one: a file, and no program.{' '}
        <a className="underline" href="/api/devices/profile.schema.json" download="profile.schema.json">
          What such a file holds
        </a>
      </p>
      <ul className="mt-2 space-y-2">
        {profiles.map((profile) => (
          <li key={profile.id} className="flex items-center gap-3">
            <span className="min-w-0 flex-1 break-words">
              {verbatim(profile.name)} <span className="text-soft">({verbatim(profile.id)})</span>
            </span>
            <Button
              aria-label={`Remove profile ${profile.name}`}
              onClick={() => setDraft({ ...draft, profiles: profiles.filter(({ id }) => id !== profile.id) })}
            >
              <Trash2 aria-hidden className="size-5" />
            </Button>
          </li>
        ))}
      </ul>
      <FileButton
        name="Profile of a device"
        accept="application/json,.json"
        className="mt-2"
        onFiles={([file]) => void readProfile(file)}
      >
        Take in a profile
      </FileButton>
      <h2 className="mt-6 text-lg font-bold">Alarms</h2>
      <p className="text-soft">
        A bay that goes off by itself calls on every open page. It can call elsewhere too: a siren, a
        telephone gateway, on the shop’s own network.
      </p>
      <div className="mt-2 max-w-md">
        <TextBox
          label="Where alarms go, empty for nowhere"
          value={draft.alarmsTo}
          onChange={(alarmsTo) => setDraft({ ...draft, alarmsTo })}
          most={200}
          placeholder="http://192.168.1.60/alarm"
          isReading
        />
      </div>
      <h2 className="mt-6 text-lg font-bold">Readings of each second</h2>
      <p className="text-soft">
        What is older keeps its shape: of each minute the first, and what stood out in it. What stands on run
        sheets stays.
      </p>
      <div className="mt-2 max-w-md">
        <NumberField
          label="Kept whole for"
          unit="months"
          value={draft.readingsMonths}
          onChange={(months) => setDraft({ ...draft, readingsMonths: months ?? shop.readingsMonths })}
        />
      </div>
      {isChanged && (
        <WhyBar
          summary="Devices, profiles, alarms or readings changed."
          problem={change.error}
          isPending={change.isPending}
          onSave={(why) => change.mutate({ why, ...draft })}
          onDrop={() => setDraft(shop)}
        />
      )}
    </div>
  );
}
