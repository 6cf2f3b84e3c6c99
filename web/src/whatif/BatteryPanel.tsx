/** The battery in question: which, and in what condition. */
import type { BatteryAnswer } from '@cork-ember/core/contract/answers.ts';
import { shortName, type BatteryType } from '@cork-ember/core/battery/types.ts';
import {
  FAULT_NAMES,
  type Condition,
  type FaultChoice,
  type Room,
} from '@cork-ember/core/whatif/question.ts';
import { Slide } from '../ui/Slide.tsx';
import type { ByHand, Known } from './choice.ts';

const BOX = 'mt-1 block min-h-12 w-full rounded-lg border-2 border-cork bg-card px-3';

export interface BatteryPanelProps {
  readonly known: Known;
  readonly chosen: string;
  readonly onChoose: (value: string) => void;
  readonly batteries: readonly BatteryAnswer[];
  readonly types: readonly BatteryType[];
  readonly byHand: ByHand;
  readonly onByHand: (next: ByHand) => void;
  readonly condition: Condition;
  readonly onCondition: (next: Condition) => void;
  readonly room: Room;
  readonly onRoom: (next: Room) => void;
}

function HandFields({ byHand, onByHand }: Pick<BatteryPanelProps, 'byHand' | 'onByHand'>) {
  return (
    <div className="grid grid-cols-2 gap-2">
      <label className="font-medium">
        Kind
        <select
          className={BOX}
          value={byHand.construction}
          onChange={(event) =>
            onByHand({ ...byHand, construction: event.target.value === 'agm' ? 'agm' : 'flooded' })
          }
        >
          <option value="agm">AGM</option>
          <option value="flooded">Flooded</option>
        </select>
      </label>
      <label className="font-medium">
        Voltage
        <select
          className={BOX}
          value={byHand.nominalV}
          onChange={(event) => onByHand({ ...byHand, nominalV: event.target.value === '6' ? 6 : 12 })}
        >
          <option value="12">12 V</option>
          <option value="6">6 V</option>
        </select>
      </label>
      <label className="col-span-2 font-medium">
        Capacity at 20 h, Ah
        <input
          className={`${BOX} reading`}
          type="number"
          inputMode="decimal"
          min={0.5}
          max={3000}
          step="any"
          value={Number.isNaN(byHand.capacityAh) ? '' : byHand.capacityAh}
          onChange={(event) => onByHand({ ...byHand, capacityAh: event.target.valueAsNumber })}
        />
      </label>
    </div>
  );
}

export function BatteryPanel(props: BatteryPanelProps) {
  const { known, chosen, onChoose, batteries, types, byHand, onByHand, condition, onCondition } = props;
  const typeOf = (id: string): BatteryType | undefined => types.find((type) => type.id === id);
  const set = (part: Partial<Condition>): void => onCondition({ ...condition, ...part });
  return (
    <section aria-label="The battery" className="space-y-1.5">
      <label className="block font-medium">
        Battery
        <select className={BOX} value={chosen} onChange={(event) => onChoose(event.target.value)}>
          <option value="hand">Described by hand</option>
          <optgroup label="In the shop">
            {[...batteries].reverse().map(({ tag, typeId }) => {
              const type = typeOf(typeId);
              return (
                <option key={tag} value={`tag:${tag}`}>
                  {tag} · {type ? shortName(type) : typeId}
                </option>
              );
            })}
          </optgroup>
          <optgroup label="Types">
            {types.map((type) => (
              <option key={type.id} value={`type:${type.id}`}>
                {type.id} · {shortName(type)}
              </option>
            ))}
          </optgroup>
        </select>
      </label>
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
      <label className="block font-medium">
        Fault
        <select
          className={BOX}
          value={condition.fault}
          onChange={(event) => set({ fault: event.target.value as FaultChoice })}
        >
          {(Object.keys(FAULT_NAMES) as FaultChoice[]).map((fault) => (
            <option key={fault} value={fault}>
              {FAULT_NAMES[fault]}
            </option>
          ))}
        </select>
      </label>
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
        text={props.room.pricePerKwh.toFixed(2)}
        onChange={(cents) => props.onRoom({ ...props.room, pricePerKwh: cents / 100 })}
      />
    </section>
  );
}
