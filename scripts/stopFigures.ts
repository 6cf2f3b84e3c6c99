/** The table of every charge × every fault: what fires, after how long; and how many sound batteries get a false word. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { randomBattery, trial, type ChargeId } from '@cork-ember/core/test/chargeTrial.ts';
import { EVERY_FAULT } from '@cork-ember/core/test/modelBench.ts';

const EACH = Number(process.env['TRIALS'] ?? 500);
const ROOM_C = 21;

const CHARGES: readonly (readonly [id: ChargeId, name: string, typeIds: readonly string[]])[] = [
  ['charge', 'first charge', ['BK-A12/55', 'BK-F12/70', 'TQ-F6/11']],
  ['slow', 'slow charge', ['BK-A12/55', 'BK-F12/70', 'TQ-F6/11']],
  ['soak', 'long soak', ['BK-A12/55']],
  ['current', 'constant current', ['BK-F12/70']],
  ['pulse', 'pulses', ['BK-A12/55', 'BK-F12/70']],
  ['supply-charge', 'supply wake', ['BK-A12/55', 'BK-F12/70']],
  ['forced-charge', 'forced start', ['BK-F12/70']],
  ['donor-hour', 'beside a donor', ['BK-F12/70']],
  ['low', 'low after high', ['BK-F12/70']],
  ['bite-one', 'high, 15 minutes', ['BK-F12/70']],
  ['over-voltage', 'equalise', ['BK-F12/70']],
];

/** Minutes between looks at what is never left alone. */
const LOOK_MIN: Partial<Record<ChargeId, number>> = {
  'bite-one': 5,
  'donor-hour': 20,
  'supply-charge': 15,
  'forced-charge': 15,
};

/** What the handbook asks of a rule, by fault; what is not named ends as a sound one does. */
const ASKED: Readonly<Record<string, string>> = {
  'dead short': 'about 2 V less than forecast at every stage: stop',
  'dead short, others full': 'the five others gas: stop, not at 10.5 V but by what is missing',
  'soft short': 'shows in a week or in its silent cell; may run warm',
  'open cell': 'takes nothing: never full',
};

const FAULTS = [
  ...EVERY_FAULT.map(([name, faults]) => ({ name, faults, charge: 0.3, firstCharge: 0.8 })),
  {
    name: 'dead short, others full',
    faults: [{ kind: 'short', cell: 3, ohms: 0.02 }],
    charge: 0.95,
    firstCharge: 0.95,
  },
] as const;

function cellOf(id: ChargeId, typeId: string, fault: (typeof FAULTS)[number]): string {
  const cells = typeId.includes('6/') ? 3 : 6;
  const faults = fault.faults.map((one) =>
    'cell' in one && one.cell !== undefined ? { ...one, cell: Math.min(one.cell, cells) } : one,
  );
  const condition = { charge: id === 'charge' ? fault.firstCharge : fault.charge };
  const everyMin = LOOK_MIN[id] ?? 60;
  const { stopped, end, hours } = trial(
    id,
    { typeId, condition, faults, batteryC: ROOM_C, roomC: ROOM_C },
    `${fault.name} ${typeId}`,
    everyMin,
  );
  const time = hours < 1 ? `${Math.round(hours * 60)} min` : `${hours.toFixed(0)} h`;
  if (stopped) return `**${stopped.rule}** ${time}, ${stopped.sure}`;
  return { hot: `hot ${time}`, done: `ends ${time}`, time: `not full, ${time}`, stopped: '' }[end];
}

function faultTable(): string {
  const columns = CHARGES.flatMap(([id, name, typeIds]) => typeIds.map((typeId) => ({ id, name, typeId })));
  const head = `| fault | asked | ${columns.map(({ name, typeId }) => `${name}, ${typeId}`).join(' | ')} |`;
  const rule = `|---|---|${columns.map(() => '---').join('|')}|`;
  const rows = FAULTS.map((fault) => {
    const cells = columns.map(({ id, typeId }) => cellOf(id, typeId, fault));
    return `| ${fault.name} | ${ASKED[fault.name] ?? ''} | ${cells.join(' | ')} |`;
  });
  return [head, rule, ...rows].join('\n');
}

function falseWords(kind: 'sound' | 'sulfated'): string {
  const ends = new Map<string, number>();
  let charges = 0;
  let stops = 0;
  for (let index = 0; index < EACH; index++) {
    const { subject, charges: ids } = randomBattery(kind, index);
    for (const id of ids) {
      const { stopped, end } = trial(id, subject, `${kind} ${index}`);
      charges += 1;
      if (stopped) stops += 1;
      ends.set(end, (ends.get(end) ?? 0) + 1);
    }
  }
  const count = (end: string): number => ends.get(end) ?? 0;
  return `| ${kind} | ${EACH} | ${charges} | ${stops} | ${count('hot')} | ${count('done')} | ${count('time')} |`;
}

mkdirSync('docs/stop-rules', { recursive: true });
writeFileSync(
  'docs/stop-rules/results.md',
  `# Stop rules on batteries of the model

Made by \`npm run stop-figures\`. Looks are taken every hour, at what is never left alone every 5 to 20 min, with each
instrument's own error; what fires first, and after how many hours on charge.

## Every charge on every fault

${faultTable()}

## Batteries that are sound, and waking ones

Random types, charge, capacity ±7 %, cranking ±10 %, rooms at 5, 21 and 32 °C, the battery up to 6 K apart from its
room. “Stopped” is a false word.

| batteries | how many | charges | stopped | too hot | done | not proven full in its time |
|---|---|---|---|---|---|---|
${falseWords('sound')}
${falseWords('sulfated')}
`,
);
console.log('docs/stop-rules/results.md');
