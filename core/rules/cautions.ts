/** Cautions shown before the step they belong to. Local rules, licensed practice and the maker come first. */
export const CAUTIONS = {
  localRulesFirst:
    'Local rules, licensed practice and the maker’s instructions come before this app’s defaults. It advises and records; it does not replace training.',
  acid: 'Sulfuric acid burns. Goggles, acid gloves and apron on; rings off; water and neutraliser within reach. In the eyes or on skin: running water for 15 minutes; clothes it touched come off at once and are rinsed.',
  acidSwallowed: 'Swallowed acid: rinse the mouth, do not vomit, call a doctor at once.',
  packDrips: 'Acid drips from the pack. Goggles and gloves on; hold it upright over the tray.',
  neverForce: 'Never squeeze, tilt, rock, cut or lift the pack to hurry it.',
  heavy: 'Batteries are heavy: lift with both hands, close to the body.',
  gas: 'Charging gives off hydrogen. Doors open, no spark, no flame, nothing metal on top.',
  clipsFirst:
    'Positive clip first, then negative; check polarity by eye and by meter; the charger goes on last. Side posts take proper charging posts, screwed in: a clip on their bolt slips and sparks.',
  chargerOffFirst: 'Charger off first. Never clip or unclip under load: a spark lights the gas.',
  hot: 'Never charge above 45 °C (sealed) or 50 °C (flooded). Charger off, hands away, let it cool.',
  neverStruck: 'Both hands flat, even pressure. The lid is never struck, and never opened again.',
  notReady: 'About 80 % charged is not ready. It must not be sold or fitted before it is charged and tested.',
  sparkAtTest: 'Tester clips on while the tester is off; a load test sparks when the clips move.',
  vehicleLeads:
    'On a vehicle negative comes off first and goes on last: a spanner from positive to the body welds itself fast.',
  posts: 'Posts tear off. Tighten to the torque shown, no further.',
  ventPlug: 'A vent plug put back on a filled battery can burst the case. It goes into the bin.',
  lastAcid: 'The last time acid goes in. From the first charge on: distilled or deionised water only.',
  gasInside:
    'A dry or shorted cell can hold gas and light itself from inside: keep your face away, goggles on, no spark.',
  neverFrozen: 'Never charge a frozen battery. Warm it right through, then inspect it again.',
  cranking: 'Out of gear, brake on; hands, sleeves and leads clear of belts and fan.',
  attended: 'Stay with it. It is not left alone while this runs.',
  donorLeads:
    'Charger off, then jumpers, always. The first moment’s current is limited by nothing but the leads: clamps on firmly, hands and face away.',
  deepDischarge: 'A discharge left alone ruins the battery below 11.5 V. Stay with it, clock in hand.',
  leadWaste:
    'Drained acid carries lead even when neutralised: it goes to licensed disposal, never down a drain.',
  usedBattery: 'It is a used battery: never sold as new, never into a critical start.',
  rottenEgg:
    'A rotten-egg smell while filling or charging is not normal acid: ventilate, stop, look for overcharge or a bad cell.',
  static: 'Touch earth before a post: static that jumps from a hand lights the gas.',
  coldCharge:
    'Cold may have frozen it: thin acid freezes near −10 °C. A frozen battery is never charged; warm it right through first.',
  neverPry:
    'Never pry a valve out and never drill a case: it breaks, lets air in and sprays acid. Maintenance-free ones are opened at their ports alone.',
  waterOnly: 'Distilled or deionised water only. Acid and tap water ruin the cell.',
} as const;

export type CautionId = keyof typeof CAUTIONS;
