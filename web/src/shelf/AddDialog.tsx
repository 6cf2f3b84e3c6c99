/** A battery that never was on the bench comes to stand on the shelf: a box that is not filled yet, or one that is charged. */
import { useMemo, useState } from 'react';
import { cameFilled, isTaken, type ListedType } from '@cork-ember/core/battery/types.ts';
import { ownerFrom } from '@cork-ember/core/battery/owner.ts';
import type { Place } from '@cork-ember/core/shelf/places.ts';
import { sentenceOf } from '../api/client.ts';
import { BATTERIES, queryClient, useNextTag } from '../api/queries.ts';
import { typeChoices } from '../label/typeChoices.ts';
import { useEnterOnShelf } from '../api/enterOnShelf.ts';
import { Combobox } from '../ui/Combobox.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { say } from '../ui/say.ts';
import { TextBox } from '../ui/TextBox.tsx';
import { Tick } from '../ui/Tick.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { PlaceForm } from './PlaceForm.tsx';

interface AddDialogProps {
  readonly types: readonly ListedType[];
  readonly known: readonly Place[];
  readonly onClose: () => void;
}

const DATE_CODE = /^(\d{4}-(0[1-9]|1[0-2]))?$/;

export function AddDialog({ types, known, onClose }: AddDialogProps) {
  const next = useNextTag();
  const enter = useEnterOnShelf();
  const [typedTag, setTag] = useState<string>();
  const [typeId, setType] = useState('');
  const [dateCode, setDateCode] = useState('');
  const [owner, setOwner] = useState('stock');
  const [isDry, setDry] = useState(true);
  const [problem, setProblem] = useState('');
  const choices = useMemo(() => typeChoices(types.filter(isTaken)), [types]);
  if (!next.data)
    return (
      <Dialog title="Add one" onClose={onClose}>
        <Waiting on={[next]} />
      </Dialog>
    );
  const tag = (typedTag ?? next.data.tag).trim().toUpperCase();
  const type = types.find(({ id }) => id === typeId);
  const mayBeDry = type !== undefined && isTaken(type) && !cameFilled(type);
  const put = async (place: Place): Promise<void> => {
    if (!type) return setProblem('Type: choose it from the list.');
    if (!DATE_CODE.test(dateCode.trim()))
      return setProblem(`Date code “${dateCode}” is no month: year and month, such as 2026-01, or nothing.`);
    try {
      await enter(
        tag,
        { kind: 'placed', payload: { place: mayBeDry && isDry ? { ...place, isDry } : place } },
        {
          tag,
          typeId,
          serial: '',
          dateCode: dateCode.trim(),
          owner: ownerFrom(owner),
        },
      );
      say(`${tag} stands on the shelf.`);
      void queryClient.invalidateQueries({ queryKey: BATTERIES });
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <Dialog
      title="Add one"
      said="A battery that comes onto the shelf without a job on the bench."
      onClose={onClose}
      className="w-[min(40rem,94vw)]"
    >
      <div className="mt-4 space-y-4">
        <div className="grid gap-3 sm:grid-cols-2">
          <TextBox label="Tag" value={typedTag ?? next.data.tag} onChange={setTag} most={12} />
          <TextBox label="Date code" value={dateCode} onChange={setDateCode} placeholder="2026-01" most={7} />
        </div>
        <Combobox
          label="Type"
          value={typeId}
          choices={choices}
          onChoose={setType}
          placeholder="Its type, as on the label"
          className="w-full"
        />
        <TextBox label="Owner" value={owner} onChange={setOwner} most={80} />
        {mayBeDry && (
          <Tick label="Not filled yet: a dry-charged box, filled to order" isOn={isDry} onChange={setDry} />
        )}
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        <PlaceForm known={known} was={undefined} onPlace={(place) => void put(place)} />
      </div>
    </Dialog>
  );
}
