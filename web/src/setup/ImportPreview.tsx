/** What a file of types would change, line by line; each is taken or left. */
import { useState } from 'react';
import { typeDifferences } from '@cork-ember/core/battery/typeDifferences.ts';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import { Button } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';

interface ImportPreviewProps {
  readonly types: readonly ListedType[];
  /** Those of the file that are new, or say something else. */
  readonly offered: readonly ListedType[];
  readonly onTake: (taken: readonly ListedType[]) => void;
  readonly onDrop: () => void;
}

export function ImportPreview({ types, offered, onTake, onDrop }: ImportPreviewProps) {
  const [left, setLeft] = useState<readonly string[]>([]);
  const taken = offered.filter(({ id }) => !left.includes(id));
  if (offered.length === 0)
    return (
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <p>The file says nothing that the list does not say already.</p>
        <Button onClick={onDrop}>Close</Button>
      </div>
    );
  return (
    <section aria-label="What the file would change" className={card({ edge: 'asking', className: 'mt-4' })}>
      <h2 className="font-semibold">What the file would change</h2>
      <ul className="mt-2 space-y-3">
        {offered.map((type) => {
          const was = types.find(({ id }) => id === type.id);
          return (
            <li key={type.id} className="rounded-lg border border-line bg-card p-3">
              <label className="flex min-h-12 items-center gap-3 font-semibold">
                <input
                  type="checkbox"
                  className="size-6 accent-(--verdigris)"
                  checked={!left.includes(type.id)}
                  onChange={(event) =>
                    setLeft(event.target.checked ? left.filter((id) => id !== type.id) : [...left, type.id])
                  }
                />
                {type.id} <span className="font-normal text-soft">{was ? 'changes' : 'is new'}</span>
              </label>
              <ul className="reading mt-1 space-y-0.5 pl-9 text-sm">
                {typeDifferences(was, type).map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            </li>
          );
        })}
      </ul>
      <div className="mt-4 flex flex-wrap gap-3">
        <Button tone="go" disabled={taken.length === 0} onClick={() => onTake(taken)}>
          Take {taken.length} of {offered.length}
        </Button>
        <Button onClick={onDrop}>Take none</Button>
      </div>
    </section>
  );
}
