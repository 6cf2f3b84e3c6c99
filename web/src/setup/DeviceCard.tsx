/** One device as it is set up: spoken to, tried whether it switches off, or given the key it sends by. */
import { useMutation } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import type { DeviceSaid } from '@cork-ember/core/contract/answers.ts';
import { placeText, type Device } from '@cork-ember/core/devices/device.ts';
import { DEVICE_KINDS, type DeviceProfile } from '@cork-ember/core/devices/profile.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';
import { figureOf } from '../ui/figureOf.ts';
import { Notice } from '../ui/Notice.tsx';
import { sayTrouble } from '../ui/say.ts';
import { CalibrationPart } from './CalibrationPart.tsx';
import { FailingPart } from './FailingPart.tsx';
import { WiringPart } from './WiringPart.tsx';
import { ProbeKeyPart } from './ProbeKeyPart.tsx';

/** What it showed, in the order a technician reads a supply. */
function saidWords({ figures }: DeviceSaid): string {
  const { volts, amps, isOn, isFree, tempC, massG, setVolts, setAmps, mostVolts, mostAmps, leastVolts } =
    figures;
  const pair = (word: string, ofVolts: number | undefined, ofAmps: number | undefined): string[] => {
    const both = [...figureOf(ofVolts, 2, 'V'), ...figureOf(ofAmps, 2, 'A')];
    return both.length === 0 ? [] : [`${word} ${both.join(' and ')}`];
  };
  return [
    ...(isOn === undefined ? [] : [isOn === 0 ? 'off' : 'on']),
    ...figureOf(volts, 2, 'V'),
    ...figureOf(amps, 2, 'A'),
    ...figureOf(tempC, 1, '°C'),
    ...figureOf(massG, 0, 'g'),
    ...(isFree === undefined ? [] : [isFree === 0 ? 'pressed' : 'free']),
    ...pair('set to', setVolts, setAmps),
    ...pair('trips at', mostVolts, mostAmps),
    ...pair('lets go at', leastVolts, undefined),
  ].join(' · ');
}

function bayWords({ bay, channel }: Device, profile: DeviceProfile | undefined): string {
  const where =
    bay === undefined ? (profile?.kind === 'stop' ? 'for all bays' : 'wired to no bay') : `bay ${bay}`;
  return channel === undefined ? where : `${where}, channel ${channel}`;
}

export function DeviceCard({
  device,
  profile,
  isKept,
  onChange,
  onRemove,
}: {
  device: Device;
  profile: DeviceProfile | undefined;
  /** Whether the shop has it already: what is only typed is spoken to by nobody. */
  isKept: boolean;
  onChange: (device: Device) => void;
  onRemove: () => void;
}) {
  const { id, name, place } = device;
  const talk = useMutation({
    mutationFn: (what: 'talk' | 'off') => ask<DeviceSaid>(`/api/devices/${id}/${what}`, {}),
    onError: (error) => sayTrouble(sentenceOf(error)),
  });
  const said = talk.data;
  const isPushed = place.kind === 'push';
  const switches = profile?.speech.protocol === 'scpi' && profile.speech.tells.off !== undefined;
  const talkWords = isPushed ? 'What it sent last' : 'Talk to it';
  return (
    <li className={card()}>
      <div className="flex flex-wrap items-center gap-3">
        <div className="min-w-0 flex-1 basis-60">
          <p className="font-semibold break-words">{verbatim(name)}</p>
          <p className="text-sm text-soft">
            {profile ? `${DEVICE_KINDS[profile.kind]} · ${verbatim(profile.name)}` : 'its profile is gone'} ·{' '}
            {placeText(place)} · {bayWords(device, profile)}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Button
            aria-label={`${talkWords}: ${name}`}
            disabled={!isKept || talk.isPending}
            onClick={() => talk.mutate('talk')}
          >
            {talkWords}
          </Button>
          {switches && (
            <Button
              aria-label={`Test its off: ${name}`}
              disabled={!isKept || talk.isPending}
              onClick={() => talk.mutate('off')}
            >
              Test its off
            </Button>
          )}
          <Button aria-label={`Remove ${name}`} onClick={onRemove}>
            <Trash2 aria-hidden className="size-5" />
          </Button>
        </div>
      </div>
      {!isKept && (
        <p className="mt-2 text-sm text-soft">
          {isPushed ? 'It gets its key once it is in force.' : 'It can be spoken to once it is in force.'}
        </p>
      )}
      <div role="status">
        {said && (
          <div className="mt-3 space-y-2">
            {said.says !== undefined && (
              <p className="break-words">
                It says it is “{said.says}”.
                {saidWords(said) !== '' && (
                  <span className="reading block whitespace-pre-wrap">{saidWords(said)}</span>
                )}
              </p>
            )}
            {said.says === undefined && saidWords(said) !== '' && (
              <p className="reading whitespace-pre-wrap">{saidWords(said)}</p>
            )}
            {said.trouble !== undefined && <Notice tone="stop">{said.trouble}</Notice>}
            {said.trouble === undefined && talk.variables === 'off' && (
              <p className="font-semibold text-verdigris">It was told to be off, and is.</p>
            )}
          </div>
        )}
      </div>
      {profile && <WiringPart device={device} profile={profile} onChange={onChange} />}
      {profile && <CalibrationPart device={device} profile={profile} onChange={onChange} />}
      {place.kind === 'simulated' && isKept && <FailingPart id={id} name={name} part={place.part} />}
      {isPushed && isKept && profile && <ProbeKeyPart device={device} profile={profile} />}
    </li>
  );
}
