/** What was recorded of a battery off the bench, in words. */
import type { ShelfEntry } from './entries.ts';
import { placeName, PLACES, type Place } from './places.ts';

function placeWords(place: Place): string {
  const { kind, to, drawMa, machine } = place;
  const where = place.name === '' ? PLACES[kind].where : `${PLACES[kind].name}: ${placeName(place)}`;
  const whose = to === undefined ? '' : `, ${to}`;
  const works = machine === undefined ? '' : `, ${kind === 'display' ? 'out of' : 'in'} ${machine}`;
  const dry = place.isDry ? ', not filled yet' : '';
  const draw = drawMa === undefined || drawMa === 0 ? '' : `, ${drawMa} mA drawn`;
  return `${where}${whose}${works}${dry}${draw}`;
}

const upper = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** One entry, as a log has it. */
export function describeShelf(entry: ShelfEntry): string {
  switch (entry.kind) {
    case 'placed': {
      const { place, why } = entry.payload;
      return `${upper(placeWords(place))}${why === undefined ? '' : `: ${why}`}`;
    }
    case 'read': {
      const { volts, tempC } = entry.payload;
      return `Read: ${volts.toFixed(2)} V at rest${tempC === undefined ? '' : `, ${tempC.toFixed(0)} °C`}`;
    }
    case 'charged':
      return entry.payload.isProven ? 'Charged, proven full' : 'Charged';
    case 'tended': {
      const { floatV, waterMl } = entry.payload;
      const said = [
        ...(floatV === undefined ? [] : [`float ${floatV.toFixed(2)} V`]),
        ...(waterMl === undefined ? [] : [`${waterMl.toFixed(0)} mL of water`]),
      ];
      return `Looked after on its maintainer${said.length === 0 ? '' : `: ${said.join(', ')}`}`;
    }
    case 'joined':
      return entry.payload.set === '' ? 'Out of its set' : `In the set “${entry.payload.set}”`;
    case 'parted':
      return 'Works in its machine no more';
    case 'tagged':
      return 'A new tag is on it';
    case 'called':
      return `Called: ${entry.payload.said}`;
  }
}
