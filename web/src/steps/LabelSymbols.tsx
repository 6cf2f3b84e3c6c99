/** The symbols of a label, each in words; opened by who wants them. */
import {
  Baby,
  BookOpen,
  BriefcaseMedical,
  CigaretteOff,
  Droplets,
  Glasses,
  Recycle,
  Trash2,
  TriangleAlert,
  type LucideIcon,
} from 'lucide-react';
import { LABEL_SYMBOLS, type LabelSymbolId } from '@cork-ember/core/runsheet/definition/labelSymbols.ts';

const ICONS: Record<LabelSymbolId, LucideIcon> = {
  read: BookOpen,
  goggles: Glasses,
  children: Baby,
  corrosive: Droplets,
  flame: CigaretteOff,
  explosive: TriangleAlert,
  bin: Trash2,
  recycle: Recycle,
  firstAid: BriefcaseMedical,
};

export function LabelSymbols() {
  return (
    <details className="mx-5 mt-3">
      <summary className="flex min-h-12 cursor-pointer items-center font-medium text-soft">
        What the symbols on a label mean
      </summary>
      <ul className="grid gap-2 pb-2 sm:grid-cols-2">
        {LABEL_SYMBOLS.map(({ id, means }) => {
          const Icon = ICONS[id];
          return (
            <li key={id} className="flex gap-3">
              <Icon aria-hidden className="mt-0.5 size-6 shrink-0" />
              {means}
            </li>
          );
        })}
      </ul>
    </details>
  );
}
