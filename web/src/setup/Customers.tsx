/** What is kept of each customer: given to them as a file, or their name deleted. */
import { useQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import type { Customer, Forgotten } from '@cork-ember/core/contract/customers.ts';
import { ask } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';
import { useMay } from '../api/session.ts';
import { Button, buttonClass } from '../ui/Button.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { useProblem } from '../ui/useProblem.ts';

const CUSTOMERS = ['customers'] as const;

const counted = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`;

export function Customers() {
  const mayForget = useMay('forget');
  const { data: customers = [] } = useQuery({
    queryKey: CUSTOMERS,
    queryFn: () => ask<readonly Customer[]>('/api/customers'),
    enabled: mayForget,
    staleTime: 0,
  });
  const [name, setName] = useState('');
  const [isAsking, setAsking] = useState(false);
  const chosen = customers.find((one) => one.name === name);
  return (
    <section aria-labelledby="customers-title" className="mb-6 max-w-prose">
      <h2 id="customers-title" className="text-lg font-bold">
        Customers
      </h2>
      <p className="text-soft">
        Of a customer the shop keeps the name: with their batteries and machines, and beside the record, which
        holds a mark in its place. Who asks for it gets all of it as a file. A name that is deleted is gone
        for good; what was done to the battery, its seals and its papers stay.
      </p>
      {!mayForget && <p className="mt-2 text-soft">A lead gives it out or deletes it.</p>}
      {mayForget && customers.length === 0 && <p className="mt-2 text-soft">There is none yet.</p>}
      {mayForget && customers.length > 0 && (
        <div className="mt-2 grid gap-3">
          <Combobox
            label="Customer"
            value={name}
            choices={customers.map((one) => ({ value: one.name, label: one.name }))}
            onChoose={setName}
            placeholder="Whose …"
            empty="No customer is called so."
          />
          {chosen && (
            <div className="flex flex-wrap gap-3">
              <a
                href={`/api/customers/data?name=${encodeURIComponent(chosen.name)}`}
                download
                className={buttonClass({ className: 'min-h-14' })}
              >
                <Download aria-hidden className="size-5" /> All that is kept, as a file
              </a>
              <Button tone="danger" className="min-h-14" onClick={() => setAsking(true)}>
                Delete the name
              </Button>
            </div>
          )}
        </div>
      )}
      {isAsking && chosen && (
        <Forget
          customer={chosen}
          onClose={() => {
            setAsking(false);
            void queryClient.invalidateQueries();
          }}
        />
      )}
    </section>
  );
}

function Forget({ customer, onClose }: { customer: Customer; onClose: () => void }) {
  const [why, setWhy] = useState('');
  const [done, setDone] = useState<Forgotten>();
  const { problem, attempt } = useProblem();
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const { went, failed } = attempt();
    ask<Forgotten>('/api/customers/forget', { name: customer.name, why }).then((forgotten) => {
      went();
      setDone(forgotten);
    }, failed);
  };
  if (done) return <Done done={done} onClose={onClose} />;
  return (
    <Dialog
      title={`Delete the name ${customer.name}?`}
      said={`It stands on ${counted(customer.batteries, 'battery', 'batteries')} and ${counted(customer.machines, 'machine', 'machines')}. Nobody can bring it back but from a copy of before.`}
      onClose={onClose}
    >
      <form onSubmit={submit} className="mt-4 space-y-4">
        <TextBox label="Why" most={400} value={why} onChange={setWhy} placeholder="asked for it by letter" />
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        <div className="flex flex-wrap gap-3">
          <Button type="submit" tone="danger" disabled={why.trim() === ''}>
            Delete the name
          </Button>
          <Button tone="quiet" onClick={onClose}>
            Keep it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function Done({ done, onClose }: { done: Forgotten; onClose: () => void }) {
  const { batteries, machines, jobs, stillSaid } = done;
  return (
    <Dialog
      title="The name is deleted"
      said={`From ${counted(batteries, 'battery', 'batteries')}, ${counted(machines, 'machine', 'machines')} and ${counted(jobs, 'run sheet', 'run sheets')}.`}
      onClose={onClose}
    >
      <div className="mt-4 space-y-3">
        {stillSaid.length > 0 && (
          <Notice tone="caution">
            <p>
              Somebody wrote the name by hand on {stillSaid.join(', ')}: what was recorded is not rewritten.
            </p>
          </Notice>
        )}
        <p className="text-soft">
          Nightly copies of before still hold it until they are let go, after fourteen nights; copies that
          were taken away do until somebody deletes them. A copy that is brought back brings the name back.
        </p>
        <Button tone="go" onClick={onClose}>
          Understood
        </Button>
      </div>
    </Dialog>
  );
}
