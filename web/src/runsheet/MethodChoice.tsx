/** How a capacity is measured, where more than one way suits the battery and the load. */
import { CAPACITY_METHODS, type CapacityMethod } from '@cork-ember/core/grading/grade.ts';
import { Combobox } from '../ui/Combobox.tsx';
import { Named } from '../ui/Named.tsx';

interface MethodChoiceProps {
  readonly label: string;
  /** The usual one first. */
  readonly methods: readonly CapacityMethod[];
  readonly method: CapacityMethod | undefined;
  readonly onChoose: (method: CapacityMethod) => void;
}

export function MethodChoice({ label, methods, method, onChoose }: MethodChoiceProps) {
  if (methods.length < 2) return null;
  return (
    <Named label={label}>
      <Combobox
        label={label}
        className="w-full sm:w-80"
        value={method ?? methods[0] ?? ''}
        choices={methods.map((value) => ({ value, label: CAPACITY_METHODS[value] }))}
        onChoose={(value) => onChoose(value as CapacityMethod)}
      />
    </Named>
  );
}
