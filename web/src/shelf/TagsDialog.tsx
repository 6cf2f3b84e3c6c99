/** New tags, in a run, for what was charged since its tag was printed. */
import { useState } from 'react';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { byPlace, whereOf } from '@cork-ember/core/shelf/words.ts';
import { sentenceOf } from '../api/client.ts';
import { useEnterOnShelf } from '../api/enterOnShelf.ts';
import { Button, buttonClass } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { say } from '../ui/say.ts';

interface TagsDialogProps {
  readonly all: readonly Shelved[];
  readonly onClose: () => void;
}

export function TagsDialog({ all, onClose }: TagsDialogProps) {
  const enter = useEnterOnShelf();
  const [problem, setProblem] = useState('');
  const [isEntering, setEntering] = useState(false);
  // Those that stood here when it was opened: what is printed is what is put on.
  const [tags] = useState(() => all.toSorted(byPlace));
  const putOn = async (): Promise<void> => {
    setEntering(true);
    try {
      for (const { tag } of tags) await enter(tag, { kind: 'tagged', payload: {} });
      say(tags.length === 1 ? 'The new tag is on.' : `${tags.length} new tags are on.`);
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
    } finally {
      setEntering(false);
    }
  };
  return (
    <Dialog
      title="New tags"
      said="Charged since their tag was printed. Each says when it was charged, at what it rested, and what is next."
      onClose={onClose}
    >
      <div className="mt-4 space-y-4">
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        <ul className="max-h-72 overflow-auto">
          {tags.map((one) => (
            <li key={one.tag} className="flex flex-wrap gap-x-3 border-b border-line py-1 last:border-0">
              <b>{one.tag}</b>
              <span className="text-soft">{whereOf(one)}</span>
            </li>
          ))}
        </ul>
        <div className="flex flex-wrap gap-3">
          <a
            href={`/api/labels.pdf?tags=${tags.map(({ tag }) => tag).join(',')}`}
            download
            className={buttonClass({ tone: 'go' })}
          >
            Print {tags.length === 1 ? 'it' : `all ${tags.length}`}
          </a>
          <Button disabled={isEntering} onClick={() => void putOn()}>
            They are on
          </Button>
          <Button tone="quiet" onClick={onClose}>
            Close
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
