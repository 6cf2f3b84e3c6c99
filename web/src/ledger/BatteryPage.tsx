/** One battery: what it is, what was done with it, its papers. */
import { Link, useParams } from 'react-router';
import { kindName, nominalV, type ListedType } from '@cork-ember/core/battery/types.ts';
import { useNow } from '../api/clock.ts';
import { useBattery, useClock, useShop, useTypes } from '../api/queries.ts';
import { Life } from './Life.tsx';
import { LifeLine } from './LifeLine.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { AGE_UNKNOWN } from '@cork-ember/core/battery/dateCode.ts';
import { Title } from '../ui/Title.tsx';

function Facts({
  type,
  dateCode,
  serial,
  owner,
}: {
  type: ListedType | undefined;
  dateCode: string;
  serial: string;
  owner: string;
}) {
  const rows: [string, string][] = [
    ['For', verbatim(owner)],
    ['Made', dateCode === AGE_UNKNOWN ? 'not known' : verbatim(dateCode)],
    ['Serial', serial === '' ? 'none' : verbatim(serial)],
  ];
  if (type) {
    rows.unshift([
      'Type',
      `${verbatim(`${type.maker} ${type.id}`)}, ${kindName(type)}, ${nominalV(type)} V ${type.capacityAh} Ah (${type.hourRate} h)`,
    ]);
    if (type.cranking) rows.push(['Cranking', `${type.cranking.amps} A (${type.cranking.standard})`]);
    if (type.pack)
      rows.push([
        'Acid pack',
        `${verbatim(type.pack.code)}, ${type.pack.volumeMl} mL at ${type.pack.densityKgPerL.toFixed(3)} kg/L`,
      ]);
  }
  return (
    <dl className="grid max-w-3xl grid-cols-[7rem_1fr] gap-y-1">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-soft">{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}

export function BatteryPage() {
  const { tag = '' } = useParams();
  const { data: battery, error, refetch } = useBattery(tag.toUpperCase());
  const [shops, listed, clock] = [useShop(), useTypes(), useClock()];
  const { data: shop } = shops;
  const { data: types } = listed;
  const now = useNow();
  if (!battery || !shop || !types || now === 0)
    return <Waiting on={[{ data: battery, error, refetch }, shops, listed, clock]} />;
  const isFree = battery.jobs.every((job) => job.outcome !== null);
  return (
    <div className="space-y-5 p-5">
      <div className="flex flex-wrap items-center gap-4">
        <Title>{battery.tag}</Title>
        {(['pdf', 'svg'] as const).map((format) => (
          <a
            key={format}
            href={`/api/batteries/${battery.tag}/label.${format}`}
            download
            className="inline-flex min-h-12 items-center rounded-lg border-2 border-cork px-4 font-medium hover:bg-panel"
          >
            Tag ({format.toUpperCase()})
          </a>
        ))}
        {isFree && (
          <Link
            to={`/intake?tag=${battery.tag}`}
            className="inline-flex min-h-12 items-center rounded-lg border-2 border-cork px-4 font-medium hover:bg-panel"
          >
            Take it in again
          </Link>
        )}
      </div>
      <Facts
        type={types.find((type) => type.id === battery.typeId)}
        dateCode={battery.dateCode}
        serial={battery.serial}
        owner={battery.owner}
      />
      <Life
        findings={battery.findings}
        type={types.find((type) => type.id === battery.typeId)}
        timeZone={shop.hours.timeZone}
      />
      <LifeLine battery={battery} timeZone={shop.hours.timeZone} />
    </div>
  );
}
