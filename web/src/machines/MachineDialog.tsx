/** A machine put down, or changed: what it is called, whose it is, and what it carries. */
import { useMemo, useState } from 'react';
import { MOST_CARRIED, type Machine } from '@cork-ember/core/battery/machines.ts';
import { ownerFrom } from '@cork-ember/core/battery/owner.ts';
import { isTaken } from '@cork-ember/core/battery/types.ts';
import { sentenceOf } from '../api/client.ts';
import { keepMachine } from '../api/machines.ts';
import { usePerson } from '../api/person.ts';
import { useTypes } from '../api/queries.ts';
import { typeChoices } from '../label/typeChoices.ts';
import { Button } from '../ui/Button.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { TextBox } from '../ui/TextBox.tsx';

interface MachineDialogProps {
  /** The one that is changed; none for a new one. */
  readonly machine?: Machine;
  readonly onKept: (machine: Machine) => void;
  readonly onClose: () => void;
}

export function MachineDialog({ machine, onKept, onClose }: MachineDialogProps) {
  const types = useTypes().data;
  const [by] = usePerson();
  const [name, setName] = useState(machine?.name ?? '');
  const [owner, setOwner] = useState(machine?.owner ?? '');
  const [carries, setCarries] = useState<number | undefined>(machine?.carries ?? 1);
  const [typeId, setType] = useState(machine?.typeId ?? '');
  const [problem, setProblem] = useState('');
  const choices = useMemo(
    () => typeChoices((types ?? []).filter(isTaken), machine?.typeId),
    [types, machine?.typeId],
  );
  const keep = async (): Promise<void> => {
    if (by === '') return setProblem('Say who is at the bench first, at the top right.');
    if (name.trim() === '') return setProblem('Machine: what is it called?');
    if (carries === undefined || !Number.isInteger(carries) || carries < 1 || carries > MOST_CARRIED)
      return setProblem(`Batteries in it: from 1 to ${MOST_CARRIED}.`);
    if (typeId === '') return setProblem('Type: choose what it carries.');
    try {
      onKept(
        await keepMachine({ name: name.trim(), owner: ownerFrom(owner), carries, typeId }, by, machine?.tag),
      );
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <Dialog
      title={machine ? `Change ${machine.tag}` : 'A machine'}
      said="What carries one battery, or several that work as one."
      onClose={onClose}
      className="w-[min(36rem,94vw)]"
    >
      <form
        className="mt-4 space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <TextBox
          label="What it is called"
          value={name}
          onChange={setName}
          placeholder="Scissor lift 3"
          most={60}
        />
        <TextBox label="Whose it is" value={owner} onChange={setOwner} placeholder="stock" most={80} />
        <Combobox
          label="What it carries"
          value={typeId}
          choices={choices}
          onChoose={setType}
          placeholder="Type of its batteries"
          className="w-full"
        />
        <div className="max-w-48">
          <NumberField label="Batteries in it" unit="" value={carries} onChange={setCarries} />
        </div>
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        <Button type="submit" tone="go" className="min-h-16 w-full text-lg">
          {machine ? 'Change it' : 'Put it down'}
        </Button>
      </form>
    </Dialog>
  );
}
