/** What each view is for, in a few sentences, and the keys that act in it. */

export interface ViewHelp {
  readonly title: string;
  readonly text: readonly string[];
  readonly keys?: readonly (readonly [key: string, does: string])[];
}

/** Found by how its address begins; the first that fits. */
const VIEWS: readonly (readonly [begins: RegExp, help: ViewHelp])[] = [
  [
    /^\/jobs\/[^/]+\/evidence/,
    {
      title: 'Evidence',
      text: [
        'What is probably the matter with this battery, and why.',
        'Add what you measured; the odds move, and the next check that would change the decision is named.',
        'Below stand the ways back with their odds, hours and worth; those not open say why.',
      ],
    },
  ],
  [
    /^\/jobs\//,
    {
      title: 'Run sheet',
      text: [
        'One step at a time: the caution first, then what hands do, then one large answer.',
        'Waits run whether or not this page is open. A wrong answer is taken back with the arrow in the log, a mistyped reading corrected with the pencil.',
        'Every number says where it came from: label, sheet, house rule, handbook or model.',
      ],
      keys: [
        ['Enter', 'the large answer'],
        ['1 … 9', 'mark that chamber'],
      ],
    },
  ],
  [
    /^\/intake/,
    {
      title: 'Intake',
      text: [
        'Which battery, and can it be ready when it is promised? The plan stands beside the form before you accept.',
        'Type a few letters of its type, or read it off the label. What nobody knows stays empty.',
      ],
    },
  ],
  [
    /^\/check/,
    {
      title: 'Is this paper so?',
      text: [
        'Each paper of an ended job carries a check code. Here it is held against the record, entry by entry.',
        'Compare what stands here with the paper in your hand; a paper that was amended names the issue that took its place.',
      ],
    },
  ],
  [
    /^\/trust/,
    {
      title: 'Trust this shop’s https',
      text: ['A tablet is told once; from then on its camera, a lit screen and notifications work here.'],
    },
  ],
  [
    /^\/delivery/,
    {
      title: 'Delivery',
      text: [
        'Several boxes at once, planned before they are promised: bays, chargers, hands and closing time kept.',
        'What cannot begin now is booked and waits for its start.',
      ],
    },
  ],
  [
    /^\/brought/,
    {
      title: 'Brought back together',
      text: [
        'Several at once: a minute of meter and eyes each says what a way back would probably bring.',
        'Those that bring most for an hour of hands come first; what no charge would bring back is named.',
      ],
    },
  ],
  [
    /^\/batch/,
    {
      title: 'Batch',
      text: [
        'All batteries at work taken through together: whichever needs hands comes to the top.',
        'What concerns the place is answered once for all.',
      ],
      keys: [['Alt+1 … Alt+9', 'switch to that battery']],
    },
  ],
  [
    /^\/what-if/,
    {
      title: 'What if',
      text: [
        'Up to four charge plans on a model of the battery, in any condition and with any fault, before a charger is touched.',
        'A plan can be sent to the charge of a job; it never goes above what that step allows.',
      ],
    },
  ],
  [
    /^\/shelf\/month/,
    {
      title: 'The shelf’s month',
      text: [
        'What is due on the shelf, balanced over the days the shop is open: a little sooner than due, late things soon.',
        'As a file for a calendar, at an address a calendar program asks by itself, or a round on paper.',
      ],
    },
  ],
  [
    /^\/shelf\/calls/,
    {
      title: 'Who to call',
      text: [
        'Whoever has a battery of the shop’s, and owners whose own is due: before winter, before summer, and while one is lent.',
        'What was said stays with the battery; nobody is asked for again within two weeks.',
      ],
    },
  ],
  [
    /^\/shelf\/charge/,
    {
      title: 'Charge off the shelf',
      text: [
        'What is to be charged again, planned over bays and chargers, begun in one press.',
        'Each gets a run sheet that ends with it proven full, tagged with today and back in its place.',
      ],
    },
  ],
  [
    /^\/shelf\/round/,
    {
      title: 'Round',
      text: [
        'Along the shelf with a meter: what is to be read, rack by rack. Type its volts, and the next one stands there.',
        'A scanned tag goes to its battery, whichever was next. What you enter is kept while the server is away.',
      ],
    },
  ],
  [
    /^\/shelf\/stores/,
    {
      title: 'How warm it is',
      text: [
        'A battery in a warm store loses its charge twice as fast with every ten degrees. Say how warm each place is: one figure, month by month, or from a logger’s file.',
      ],
    },
  ],
  [
    /^\/shelf\/machines/,
    {
      title: 'Machines',
      text: [
        'What carries batteries: one, or several that work as a set. A machine has its own tag; scanning it or any of its batteries leads here or there.',
        'Bring its set in together: the bench names the one that drags the others down. The whole set is replaced, what is good makes a set for another machine.',
      ],
    },
  ],
  [
    /^\/shelf/,
    {
      title: 'Shelf',
      text: [
        'Every battery that is not on the bench, what is due first at the top, with the voltage it is foretold to rest at today.',
        'Its fuse is thick up to its next charge, thin towards the day it would come to its recharge line, frayed where that is open. The flag is when hands are due, the red stroke where sulfate begins to stay.',
      ],
    },
  ],
  [
    /^\/(ledger|batteries)/,
    {
      title: 'Ledger',
      text: [
        'Every battery that was ever on the bench, with what was last measured of it and its papers.',
        'Which ways brought batteries back here, and how sure that is; recovered ones matched into sets.',
      ],
    },
  ],
  [
    /^\/reckoner/,
    {
      title: 'Reckoner',
      text: [
        'The arithmetic of the trade, each with its working and source. A result can be taken to a reading.',
      ],
    },
  ],
  [
    /^\/first-day/,
    {
      title: 'First day',
      text: ['The shop is set up one thing after the other. What is left for later waits here and in Setup.'],
    },
  ],
  [
    /^\/setup/,
    {
      title: 'Setup',
      text: [
        'How this shop works. Every change says who, when and why, and holds for new jobs; those under way keep theirs.',
        'The maker’s label and sheet always win over what is set here.',
      ],
    },
  ],
  [
    /^\//,
    {
      title: 'Bench',
      text: [
        'Each bay is a cord against the day: char is behind you, thin stretches wait, thick ones charge, rings are moments that need hands, the ember burns at now, the flag is the promise.',
        'The band on top always says what hands do next.',
      ],
      keys: [
        ['Enter', 'go to what is most urgent'],
        ['1 … 9', 'open that bay'],
      ],
    },
  ],
];

export const helpFor = (path: string): ViewHelp | undefined =>
  VIEWS.find(([begins]) => begins.test(path))?.[1];

/** Keys that act in any view. */
export const KEYS: readonly (readonly [key: string, does: string])[] = [
  ['?', 'this page'],
  ['/', 'type or scan a tag'],
  ['Shift+Escape', 'every bay that works by itself off, at once'],
  ['Alt+H', 'an alarm was heard: quiet, but danger comes back every minute'],
  ['Alt+J', 'where the clock is paced: jump to the next moment that needs hands'],
];
