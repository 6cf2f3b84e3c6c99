/** The battery in question: which, and in what condition. */
import { priceText } from '@cork-ember/core/advice/worth.ts';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import { CONSTRUCTION, CONSTRUCTIONS } from '@cork-ember/core/battery/construction.ts';
import {
  DUTY_NAMES,
  nominalV,
  shortName,
  USUAL_CELLS,
  type ListedType,
} from '@cork-ember/core/battery/types.ts';
import { sentenceCase } from '@cork-ember/core/units/inSentence.ts';
import {
  FAULT_NAMES,
  type Condition,
  type FaultChoice,
  type Room,
} from '@cork-ember/core/whatif/question.ts';
import { useState } from 'react';
import type { LabelAnswers } from '@cork-ember/core/battery/labelledType.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Slide } from '../ui/Slide.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { typeChoices } from '../label/typeChoices.ts';
import { Named } from '../ui/Named.tsx';
import type { ByHand, Known } from './choice.ts';
import { later } from '../ui/later.tsx';

const LabelForm = later(async () => (await import('../label/LabelForm.tsx')).LabelForm);

const KINDS = CONSTRUCTIONS.map((value) => ({ value, label: CONSTRUCTION[value].name }));
const DUTIES = (['starter', 'deep-cycle', 'standby'] as const).map((value) => ({
  value,
  label: sentenceCase(DUTY_NAMES[value]),
}));
const VOLTAGES = USUAL_CELLS.map((cells) => ({ value: String(cells), label: `${nominalV({ cells })} V` }));

export interface BatteryPanelProps {
  readonly known: Known;
  readonly chosen: string;
  readonly onChoose: (value: string) => void;
  /** Of the shop's batteries those that were found last. */
  readonly batteries: readonly BatteryRecord[];
  readonly onFind: (words: string) => void;
  readonly types: readonly ListedType[];
  readonly byHand: ByHand;
  readonly onByHand: (next: ByHand) => void;
  readonly answers: LabelAnswers;
  readonly onAnswers: (next: LabelAnswers) => void;
  readonly condition: Condition;
  readonly onCondition: (next: Condition) => void;
  readonly room: Room;
  readonly onRoom: (next: Room) => void;
}

function HandFields({ byHand, onByHand }: Pick<BatteryPanelProps, 'byHand' | 'onByHand'>) {
  return (
    <div className="grid grid-cols-2 gap-2">
      <Named label="Kind">
        <Combobox
          label="Kind"
          className="w-full"
          value={byHand.construction}
          choices={KINDS}
          onChoose={(kind) => onByHand({ ...byHand, construction: kind as ByHand['construction'] })}
        />
      </Named>
      <Named label="Voltage">
        <Combobox
          label="Voltage"
          className="w-full"
          value={String(byHand.cells)}
          choices={VOLTAGES}
          onChoose={(cells) => onByHand({ ...byHand, cells: Number(cells) })}
        />
      </Named>
      <Named label="Made for">
        <Combobox
          label="Made for"
          className="w-full"
          value={byHand.duty}
          choices={DUTIES}
          onChoose={(duty) => onByHand({ ...byHand, duty: duty as ByHand['duty'] })}
        />
      </Named>
      <NumberField
        label="Capacity at 20 h"
        unit="Ah"
        value={byHand.capacityAh}
        onChange={(capacityAh) => onByHand({ ...byHand, capacityAh: capacityAh ?? Number.NaN })}
      />
    </div>
  );
}

/** The label's form is wider than the panel: it opens in a pane of its own. */
function LabelPane({
  types,
  answers,
  onAnswers,
}: Pick<BatteryPanelProps, 'types' | 'answers' | 'onAnswers'>) {
  const [isOpen, setOpen] = useState(Object.keys(answers).length === 0);
  return (
    <>
      <Button className="w-full" onClick={() => setOpen(true)}>
        Its label
      </Button>
      <Dialog
        isOpen={isOpen}
        onClose={() => setOpen(false)}
        title="Read off the label"
        className="w-3xl max-w-[96vw]"
      >
        <div className="mt-3">
          <LabelForm types={types} mark="as labelled" answers={answers} onAnswers={onAnswers} />
        </div>
        <Button tone="go" className="sticky bottom-0 mt-4 min-h-14 w-full" onClick={() => setOpen(false)}>
          Try charges on it
        </Button>
      </Dialog>
    </>
  );
}

export function BatteryPanel(props: BatteryPanelProps) {
  const { known, chosen, onChoose, batteries, types, byHand, onByHand, condition, onCondition } = props;
  const typeOf = (id: string): ListedType | undefined => types.find((type) => type.id === id);
  const set = (part: Partial<Condition>): void => onCondition({ ...condition, ...part });
  return (
    <section aria-label="The battery" className="space-y-1.5">
      <Named label="Battery">
        <Combobox
          label="Battery"
          className="w-full"
          value={chosen}
          empty="Nothing here is called so."
          onSearch={props.onFind}
          choices={[
            { value: 'hand', label: 'Described by hand' },
            { value: 'label', label: 'Read off a label' },
            ...batteries.map(({ tag, typeId, owner, serial }) => {
              const type = typeOf(typeId);
              return {
                value: `tag:${tag}`,
                label: `${tag} · ${type ? shortName(type) : typeId}`,
                group: 'In the shop',
                words: [owner, serial, type?.maker ?? ''],
              };
            }),
            ...typeChoices(types).map((type) => ({
              ...type,
              value: `type:${type.value}`,
              group: 'Types',
            })),
          ]}
          onChoose={onChoose}
        />
      </Named>
      {chosen === 'label' && <LabelPane types={types} answers={props.answers} onAnswers={props.onAnswers} />}
      {chosen === 'hand' && <HandFields byHand={byHand} onByHand={onByHand} />}
      <p className="text-sm text-soft">{known.because}</p>
      <Slide
        label="Charge"
        value={Math.round(condition.charge * 100)}
        min={0}
        max={100}
        step={1}
        text={`${Math.round(condition.charge * 100)} %`}
        onChange={(percent) => set({ charge: percent / 100 })}
      />
      <Slide
        label="Sulfate grown hard"
        value={Math.round(condition.sulfation * 100)}
        min={0}
        max={100}
        step={1}
        text={`${Math.round(condition.sulfation * 100)} %`}
        onChange={(percent) => set({ sulfation: percent / 100 })}
      />
      <Slide
        label="In service"
        value={condition.years}
        min={0}
        max={12}
        step={0.5}
        text={`${condition.years} years`}
        onChange={(years) => set({ years })}
      />
      <Slide
        label="Battery and room"
        value={condition.tempC}
        min={-10}
        max={45}
        step={1}
        text={`${condition.tempC} °C`}
        onChange={(tempC) => set({ tempC })}
      />
      <Named label="Fault">
        <Combobox
          label="Fault"
          className="w-full"
          value={condition.fault}
          choices={Object.entries(FAULT_NAMES).map(([value, label]) => ({ value, label }))}
          onChoose={(fault) => set({ fault: fault as FaultChoice })}
        />
      </Named>
      <Slide
        label="Room, doors shut"
        value={props.room.volumeM3}
        min={1}
        max={100}
        step={1}
        text={`${props.room.volumeM3} m³`}
        onChange={(volumeM3) => props.onRoom({ ...props.room, volumeM3 })}
      />
      <Slide
        label="A kilowatt-hour"
        value={Math.round(props.room.pricePerKwh * 100)}
        min={5}
        max={80}
        step={1}
        text={priceText(props.room.pricePerKwh)}
        onChange={(cents) => props.onRoom({ ...props.room, pricePerKwh: cents / 100 })}
      />
    </section>
  );
}
