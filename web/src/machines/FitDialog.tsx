/** Batteries of the shelf go into a machine: a kept set for one that carries several, the oldest good one for one that carries one. */
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { MachineAnswer } from '@cork-ember/core/contract/answers.ts';
import { isStock } from '@cork-ember/core/battery/owner.ts';
import { isTaken } from '@cork-ember/core/battery/types.ts';
import { picksFor, shelvedSets } from '@cork-ember/core/shelf/picking.ts';
import { isGone, isOnBench } from '@cork-ember/core/ledger/togetherInMachine.ts';
import { PLACES, type Place } from '@cork-ember/core/shelf/places.ts';
import { sentenceOf } from '../api/client.ts';
import { shopNow } from '../api/clock.ts';
import { useEnterOnShelf } from '../api/enterOnShelf.ts';
import { useShelf } from '../api/shelf.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { FittingCaution } from '../ui/FittingCaution.tsx';
import { Notice } from '../ui/Notice.tsx';
import { say } from '../ui/say.ts';
import { TextBox } from '../ui/TextBox.tsx';
import { Waiting } from '../ui/Waiting.tsx';

const KINDS = ['customer', 'lent', 'laidUp'] as const;

interface FitDialogProps {
  readonly machine: MachineAnswer;
  readonly onClose: () => void;
}

export function FitDialog({ machine, onClose }: FitDialogProps) {
  const { shelved, types, asked } = useShelf();
  const enter = useEnterOnShelf();
  const [kind, setKind] = useState<(typeof KINDS)[number]>(isStock(machine.owner) ? 'laidUp' : 'customer');
  const [rack, setRack] = useState('');
  const [problem, setProblem] = useState('');
  const [isFitting, setFitting] = useState(false);
  const { carries, typeId, batteries } = machine;
  const byId = useMemo(() => new Map((types ?? []).map((type) => [type.id, type])), [types]);
  const type = byId.get(typeId);
  const offers = useMemo(() => {
    if (!shelved || !type || !isTaken(type)) return [];
    if (carries === 1)
      return picksFor(shelved, byId, type, shopNow())
        .filter(({ chargeFirstH, fillFirstH }) => chargeFirstH === undefined && fillFirstH === undefined)
        .slice(0, 3)
        .map(({ one }) => ({ name: one.tag, tags: [one.tag], isReady: true }));
    return shelvedSets(shelved)
      .filter(({ members }) => members.length === carries && members[0]?.typeId === typeId)
      .map(({ name, members, isReady }) => ({ name, tags: members.map(({ tag }) => tag), isReady }));
  }, [shelved, type, byId, carries, typeId]);
  // One on the bench stays there, one at the recycler too.
  const moving = batteries.filter((one) => !isGone(one) && !isOnBench(one));
  const place: Place = {
    kind,
    name: kind === 'laidUp' ? machine.name : '',
    machine: machine.tag,
    ...(PLACES[kind].names === 'person' ? { to: machine.owner } : {}),
  };
  const fit = async (tags: readonly string[]): Promise<void> => {
    setFitting(true);
    try {
      for (const one of batteries)
        await enter(
          one.tag,
          moving.includes(one)
            ? { kind: 'placed', payload: { place: { kind: 'shelf', name: rack.trim() } } }
            : { kind: 'parted', payload: {} },
        );
      for (const tag of tags)
        await enter(tag, { kind: 'placed', payload: { place, why: `fitted in ${machine.tag}` } });
      say(`${tags.join(', ')} ${tags.length === 1 ? 'works' : 'work'} in ${machine.name} from now on.`);
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
      setFitting(false);
    }
  };
  if (!shelved || !types)
    return (
      <Dialog title="Fit batteries" onClose={onClose}>
        <Waiting on={asked} />
      </Dialog>
    );
  return (
    <Dialog
      title={carries === 1 ? 'Fit a battery' : 'Fit a set'}
      said={
        carries === 1
          ? 'The oldest good one goes first.'
          : 'All of it is replaced: one old among new ones drags them down.'
      }
      onClose={onClose}
      className="w-[min(38rem,94vw)]"
    >
      <div className="mt-4 space-y-4">
        <FittingCaution />
        <Choice
          legend="Where does the machine stand?"
          kind="pill"
          options={KINDS.map((id) => ({ id, label: PLACES[id].name }))}
          chosen={kind}
          onChoose={setKind}
        />
        {moving.length > 0 && (
          <TextBox
            label={`Where ${moving.map(({ tag }) => tag).join(', ')} go`}
            value={rack}
            onChange={setRack}
            placeholder="Rack"
            most={60}
          />
        )}
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        {offers.length === 0 && (
          <p className="text-soft">
            {carries === 1 ? (
              'None of its type stands there charged.'
            ) : (
              <>
                No set of {carries} stands together there.{' '}
                <Link to="/ledger/sets" className="underline underline-offset-4">
                  Match one
                </Link>
              </>
            )}
          </p>
        )}
        <ul>
          {offers.map(({ name, tags, isReady }) => (
            <li key={name} className="flex items-center gap-3 border-b border-line py-2 last:border-0">
              <div className="min-w-0 flex-1">
                <p className="font-bold">{name}</p>
                <p className="text-sm text-soft">
                  {tags.join(', ')}
                  {isReady ? '' : '; not all of them are charged and at hand'}
                </p>
              </div>
              <Button tone="go" disabled={!isReady || isFitting} onClick={() => void fit(tags)}>
                Fit {name}
              </Button>
            </li>
          ))}
        </ul>
      </div>
    </Dialog>
  );
}
