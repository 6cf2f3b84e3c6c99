/** One direction of imports: server and web rest on core, core on nothing but a few pure packages. */

/** Rooms of the core from the ground up: each rests on those before it, and on none behind it. */
const ROOMS = [
  'units',
  'chance',
  'clock',
  'electrolyte',
  'battery',
  'grading',
  'model',
  'rules',
  'charge',
  'devices',
  'candidate',
  'observation',
  'belief',
  'learning',
  'advice',
  'stock',
  'shelf',
  'reckoner',
  'whatif',
  'logger',
  'runsheet/entries',
  'runsheet/definition',
  'runsheet/verdict',
  'runsheet/procedures',
  'runsheet/state',
  'runsheet/plan',
  'runsheet/log',
  'runsheet/outcome',
  'adapters',
  'schedule',
  'ledger',
  'access',
  'contract',
  'demo',
];

/** A test may know the whole house. */
const CODE_ONLY = '[.]test[.]ts$';

const downwards = ROOMS.map((room, index) => ({
  name: `core-downwards-from-${room}`,
  comment: 'Physics, charge, observation, belief, advice, run sheet: a room never imports from one above it.',
  severity: 'error',
  from: { path: `^core/${room}/`, pathNot: CODE_ONLY },
  to: { path: `^core/(?!(${ROOMS.slice(0, index + 1).join('|')})/)` },
}));

export default {
  forbidden: [
    ...downwards,
    {
      name: 'core-has-these-rooms',
      comment: 'Every file of the core stands in a room whose place is written down above.',
      severity: 'error',
      from: {},
      to: { path: `^core/(?!(${ROOMS.join('|')}|test)/)` },
    },
    {
      name: 'core-without-circles',
      comment: 'Not of types either: what two files need of each other is a third.',
      severity: 'error',
      from: { path: '^core/' },
      to: { circular: true },
    },
    {
      name: 'core-is-pure',
      comment: 'The core computes; it knows no Node, no browser, no framework and no store.',
      severity: 'error',
      from: { path: '^core/', pathNot: '[.]test[.]ts$|^core/test/' },
      to: { pathNot: ['^core/', '^node_modules/(joi|date-fns|@date-fns/tz|pure-rand|murmurhash|jstat)/'] },
    },
    {
      name: 'web-not-server',
      severity: 'error',
      from: { path: '^web/' },
      to: { path: '^(server|scripts|e2e)/' },
    },
    {
      name: 'server-not-web',
      severity: 'error',
      from: { path: '^server/' },
      to: { path: '^(web|scripts|e2e)/' },
    },
    {
      name: 'routes-through-services',
      comment: 'A route checks what comes in and passes it on; what is kept, a service knows.',
      severity: 'error',
      from: { path: '^server/src/routes/', pathNot: CODE_ONLY },
      to: { path: '^server/src/store/' },
    },
    {
      name: 'store-knows-no-service',
      severity: 'error',
      from: { path: '^server/src/store/', pathNot: CODE_ONLY },
      to: { path: '^server/src/(services|routes)/' },
    },
    {
      name: 'services-know-no-route',
      severity: 'error',
      from: { path: '^server/src/services/', pathNot: CODE_ONLY },
      to: { path: '^server/src/routes/' },
    },
    {
      name: 'views-apart',
      comment: 'A view borrows from ui, api and cord, not from another view.',
      severity: 'error',
      from: {
        path: '^web/src/(bench|intake|batch|runsheet|evidence|whatif|ledger|setup|shelf|machines|reckoner)/',
      },
      to: {
        path: '^web/src/(bench|intake|batch|runsheet|evidence|whatif|ledger|setup|shelf|machines|reckoner)/',
        pathNot: '^web/src/$1/',
      },
    },
    {
      name: 'no-cycles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    // What a build plugin writes is there once it is built.
    { name: 'resolvable', severity: 'error', from: {}, to: { couldNotResolve: true, pathNot: '^virtual:' } },
    {
      name: 'tests-stay-tests',
      severity: 'error',
      from: { pathNot: '[.]test[.]ts$|^(core|server)/test/|^e2e/|([Bb]ench|Figures|Tables|Trial)[.]ts$' },
      to: { path: '[.]test[.]ts$|^(core|server)/test/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '/dist/' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'default'] },
    tsConfig: { fileName: 'tsconfig.base.json' },
  },
};
