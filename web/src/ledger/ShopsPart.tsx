/** Ledgers of several shops beside this one: read from the files they give out, kept nowhere. */
import { useQuery } from '@tanstack/react-query';
import { Download, Upload } from 'lucide-react';
import { useMemo, useState } from 'react';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import { joined, newestOfEach, type Branch, type LedgerFile } from '@cork-ember/core/ledger/branches.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { sentenceOf } from '../api/client.ts';
import { askKnown } from '../api/known.ts';
import { buttonClass } from '../ui/Button.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Table, type Column } from '../ui/Table.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { BringIn } from './BringIn.tsx';
import { WAY_COLUMNS, wayKey } from './WaysPart.tsx';

const NO_FILES: readonly LedgerFile[] = [];

const figure = (id: string, head: string, of: (branch: Branch) => number | undefined): Column<Branch> => ({
  id,
  head,
  cell: (branch) => of(branch)?.toFixed(0) ?? '–',
  sortBy: of,
  text: (branch) => of(branch)?.toFixed(0) ?? '',
  isFigure: true,
});

const columnsIn = (timeZone: string): readonly Column<Branch>[] => [
  {
    id: 'shop',
    head: 'Shop',
    cell: ({ shop, at }) => (
      <>
        <span className="font-bold">{shop}</span>
        <span className="block text-sm font-normal text-soft">
          {at === undefined ? 'this one' : `as of ${dateText(at, timeZone)}`}
        </span>
      </>
    ),
    sortBy: ({ shop }) => shop,
    text: ({ shop }) => shop,
  },
  figure('batteries', 'Batteries', ({ batteries }) => batteries),
  figure('jobs', 'Jobs', ({ jobs }) => jobs),
  figure('certified', 'Certified new', ({ certified }) => certified),
  figure('good', 'As A or B', ({ good }) => good),
  figure('usable', 'As C', ({ usable }) => usable),
  figure('retired', 'Retired', ({ retired }) => retired),
  figure('hands', 'Hands a job, min', ({ handsMin }) => handsMin),
];

export function ShopsPart({ shop }: { shop: Shop }) {
  const own = useQuery({
    queryKey: ['ledger', 'file'],
    queryFn: () => askKnown<LedgerFile>('/api/ledger/file'),
  });
  const [files, setFiles] = useState(NO_FILES);
  const [problems, setProblems] = useState<readonly string[]>([]);
  const columns = useMemo(() => columnsIn(shop.hours.timeZone), [shop.hours.timeZone]);
  const { data } = own;
  const held = useMemo(
    () => data && joined(data, files, { ...shop.costs, pricePerKwh: shop.room.pricePerKwh }),
    [data, files, shop],
  );
  if (!held) return <Waiting on={[own]} />;
  const read = async (chosen: readonly File[]): Promise<void> => {
    const { ledgerFileIn } = await import('@cork-ember/core/contract/ledgerFile.ts');
    const [taken, refused]: [LedgerFile[], string[]] = [[], []];
    for (const file of chosen)
      try {
        taken.push(ledgerFileIn(await file.text()));
      } catch (error) {
        refused.push(`${file.name}: ${sentenceOf(error)}`);
      }
    setFiles((before) => newestOfEach([...before, ...taken]));
    setProblems(refused);
  };
  return (
    <>
      <p className="max-w-3xl text-soft">
        A second branch is a shop of its own, with its own server. Batteries go from one to the other with
        their job’s file; ledgers are read side by side here, from the files shops give out. No customer’s
        name is in one. What is read stays in this view until it is left.
      </p>
      <div className="mt-3 flex flex-wrap gap-3">
        <FileButton
          name="Ledgers of other shops"
          accept=".json,application/json"
          isSeveral
          onFiles={(chosen) => void read(chosen)}
          className="min-h-14"
        >
          <Upload aria-hidden className="size-5" /> Read other shops’ ledgers
        </FileButton>
        <a href="/api/ledger/file" download className={buttonClass({ className: 'min-h-14' })}>
          <Download aria-hidden className="size-5" /> Give this one out
        </a>
        <BringIn />
      </div>
      {problems.map((problem) => (
        <Notice key={problem} tone="stop">
          {problem}
        </Notice>
      ))}
      <Table
        name="Shops"
        rows={held.branches}
        columns={columns}
        keyOf={({ shop: name }) => name}
        file="shops.csv"
        className="mt-4"
      />
      {held.ways.length > 0 && (
        <>
          <h2 className="mt-6 text-lg font-bold">Ways that worked, in all of them</h2>
          <Table
            name="Ways that worked in all shops"
            rows={held.ways}
            columns={WAY_COLUMNS}
            keyOf={wayKey}
            file="ways-of-all.csv"
            className="mt-3"
          />
        </>
      )}
    </>
  );
}
