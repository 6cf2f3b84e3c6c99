/** Machines that batteries work in: found by name, tag or owner. */
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useMachines } from '../api/machines.ts';
import { Button } from '../ui/Button.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Title } from '../ui/Title.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { MachineDialog } from './MachineDialog.tsx';

export function MachinesPage() {
  const machines = useMachines();
  const navigate = useNavigate();
  const [search, setSearch] = useState('');
  const [isAdding, setAdding] = useState(false);
  if (!machines.data) return <Waiting on={[machines]} />;
  const words = search.toLowerCase().trim();
  const found = machines.data.filter(({ tag, name, owner }) =>
    `${tag} ${name} ${owner}`.toLowerCase().includes(words),
  );
  return (
    <div className="mx-auto max-w-4xl p-5">
      <div className="flex flex-wrap items-end gap-4">
        <div className="mr-auto">
          <Title>Machines</Title>
          <p className="text-soft">What carries one battery, or several that work as a set.</p>
        </div>
        {machines.data.length > 0 && (
          <div className="w-56 max-sm:w-full">
            <TextBox label="Find" value={search} onChange={setSearch} placeholder="Tag, name, owner" />
          </div>
        )}
        <Button tone={machines.data.length === 0 ? 'go' : 'plain'} onClick={() => setAdding(true)}>
          <Plus aria-hidden className="size-5" /> A machine
        </Button>
      </div>
      {found.length === 0 && (
        <p className="mt-6 text-soft">
          {machines.data.length === 0
            ? 'None yet. Put one down that carries several batteries, or one you want to find by its own tag.'
            : 'None is found so.'}
        </p>
      )}
      <ul className="mt-4">
        {found.map(({ tag, name, owner, carries, typeId }) => (
          <li key={tag} className="border-b border-line">
            <Link
              to={`/shelf/machines/${tag}`}
              className="flex min-h-16 flex-wrap items-center gap-x-4 py-2 hover:text-char"
            >
              <b className="w-20 shrink-0">{tag}</b>
              <span className="min-w-40 flex-1 truncate font-semibold">{name}</span>
              <span className="text-soft">
                {carries} × {typeId}
              </span>
              <span className="w-48 truncate text-soft max-sm:w-full">{owner}</span>
            </Link>
          </li>
        ))}
      </ul>
      {isAdding && (
        <MachineDialog
          onKept={({ tag }) => void navigate(`/shelf/machines/${tag}`)}
          onClose={() => setAdding(false)}
        />
      )}
    </div>
  );
}
