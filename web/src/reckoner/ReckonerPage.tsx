/** Reckoner: the arithmetic of the trade, each with its working, for whoever needs one number now. */
import { Printer } from 'lucide-react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { startOf, type Given } from '@cork-ember/core/reckoner/calculator.ts';
import { CALCULATORS } from '@cork-ember/core/reckoner/calculators.ts';
import { Button } from '../ui/Button.tsx';
import { CalculatorCard } from './CalculatorCard.tsx';
import { useShopDefaults } from './useShopDefaults.ts';
import { Title } from '../ui/Title.tsx';
import { box } from '../ui/box.ts';

export function ReckonerPage() {
  const [params, setParams] = useSearchParams();
  const [sought, setSought] = useState('');
  const { fields, gassingA } = useShopDefaults();
  const calculator = CALCULATORS.find(({ id }) => id === params.get('c')) ?? CALCULATORS[0];
  if (!calculator) return null;
  const wanted = sought.trim().toLowerCase();
  const listed = CALCULATORS.filter(({ title, question, group }) =>
    `${title} ${question} ${group}`.toLowerCase().includes(wanted),
  );
  const groups = [...new Set(listed.map(({ group }) => group))];
  const choose = (id: string): void => setParams({ c: id }, { replace: true });
  const asked = new Set(calculator.asks.map(({ id }) => id));
  const start: Given = {
    ...startOf(calculator),
    ...Object.fromEntries(Object.entries(fields).filter(([id]) => asked.has(id))),
    ...(calculator.id === 'hydrogen' && gassingA !== undefined ? { amps: gassingA, cells: '6' } : {}),
  };
  return (
    <div className="flex min-h-full flex-col lg:h-full lg:flex-row">
      <nav
        aria-label="Calculators"
        className="shrink-0 border-b border-line bg-panel p-4 lg:w-76 lg:overflow-auto lg:border-r lg:border-b-0 print:hidden"
      >
        <Title>Reckoner</Title>
        <input
          aria-label="Find a calculator"
          placeholder="Find: soda, frost, load …"
          value={sought}
          onChange={(event) => setSought(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' || !listed[0]) return;
            // It is found: the keyboard goes on to what is asked there.
            event.currentTarget.blur();
            choose(listed[0].id);
          }}
          className={box({ fit: 'inline', className: 'mt-3 w-full' })}
        />
        {listed.length === 0 && <p className="mt-3 text-soft">None by that word.</p>}
        <div className="max-lg:max-h-56 max-lg:overflow-auto">
          {groups.map((group) => (
            <section key={group} aria-label={group}>
              <h2 className="mt-4 mb-1 text-sm font-semibold text-soft">{group}</h2>
              <ul>
                {listed
                  .filter((one) => one.group === group)
                  .map(({ id, title }) => (
                    <li key={id}>
                      <button
                        type="button"
                        aria-current={id === calculator.id}
                        onClick={() => choose(id)}
                        className="min-h-12 w-full rounded-lg border-l-4 border-transparent px-3 text-left hover:bg-paper aria-[current=true]:border-ember aria-[current=true]:bg-paper aria-[current=true]:font-semibold"
                      >
                        {title}
                      </button>
                    </li>
                  ))}
              </ul>
            </section>
          ))}
        </div>
      </nav>
      <div className="min-w-0 flex-1 p-5 lg:overflow-auto">
        <CalculatorCard key={calculator.id} calculator={calculator} start={start} />
        <Button className="mt-4 print:hidden" onClick={() => window.print()}>
          <Printer aria-hidden className="size-5" /> Print
        </Button>
      </div>
    </div>
  );
}
