/** Types as they are looked for: by code, maker, volts and Ah, or the code of a pack. */
import { kindName, shortName, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { Findable } from '../ui/Combobox.tsx';

/** What is offered: a retired type only where a battery has it already. */
export const typeChoices = (types: readonly ListedType[], chosen = ''): readonly Findable[] =>
  types
    .filter(({ isRetired, id }) => !isRetired || id === chosen)
    .map((type) => ({
      value: type.id,
      label: `${type.id} · ${shortName(type)}${type.pack ? ` · pack ${type.pack.code}` : ''}`,
      group: kindName(type),
      words: [type.maker, type.caseCode ?? '', `${type.capacityAh}Ah`],
    }));
