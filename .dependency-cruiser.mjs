// @ts-check
/** What may import what: rooms of the core without a circle, packages in one direction only. Held in lint. */

/** Rooms of `core/src`, each of which may know only those above it. A room may have rooms of its own. */
export const ROOMS = [
  'structures',
  'vocabulary',
  'documents',
  'rulebook/jurisdictions/shared',
  'rulebook/jurisdictions/us',
  'rulebook/jurisdictions/ca',
  'rulebook/jurisdictions/gb',
  'rulebook',
  'house/upgrade',
  'house',
  'changes',
  'crew',
  'derive',
  'facts',
  'findings',
  'wiring/circuit',
  'wiring/needs',
  'wiring/conductors',
  'wiring/joints',
  'wiring/netlist',
  'wiring/proof',
  'wiring/faults',
  'fill',
  'makeup',
  'plan',
  'routing',
  'closing',
  'proving',
  'diagnosis',
  'furnish',
  'pulling',
  'pulling/walk',
  'pulling/plan',
  'reels',
  'takeoff',
  'inspection/layout',
  'inspection',
  'planning',
  'words/language',
  'words/english',
  'words/spanish',
  'words',
  'contracts',
  'exchange',
];

/** Rooms of `web/src/app`, in the same way: what keeps and sends, the open house, what works beside the screen, parts, sheets. */
const WEB_ROOMS = [
  'language',
  'sync',
  'state',
  'work',
  'parts',
  '(pull|walk|lay-out|make-up|check|truck|jobs|crew|door)',
  'frame',
];

/** Specs, and what they make houses with, stand above all rooms. */
const TESTS = ['\\.spec\\.ts$', '^core/src/testing/', '^server/src/testing/', '^web/src/app/testing/'];

/** @type {import('dependency-cruiser').IConfiguration} */
export default {
  forbidden: [
    {
      name: 'no-circle',
      severity: 'error',
      comment: 'Two modules that need each other are one, or share a third.',
      from: {},
      to: { circular: true },
    },
    ...ROOMS.map((room, at) => ({
      name: `room-${room}`,
      severity: /** @type {const} */ ('error'),
      comment: `core/src/${room} may know only the rooms above it in the list, and nothing outside of core.`,
      from: { path: `^core/src/${room}/`, pathNot: TESTS },
      to: {
        path: '^(core|server|web|checks|bench|e2e|demo|scripts)/',
        // A package that only core has lies in its own folder.
        pathNot: ['/node_modules/', ...ROOMS.slice(0, at + 1).map((known) => `^core/src/${known}/`)],
      },
    })),
    ...WEB_ROOMS.map((room, at) => ({
      name: `web-room-${room}`,
      severity: /** @type {const} */ ('error'),
      comment: `web/src/app/${room} may know only the rooms before it in the list; sheets do not know each other.`,
      from: { path: `^web/src/app/${room}/`, pathNot: TESTS },
      to: {
        path: '^web/src/app/[^/]+/',
        pathNot: [
          ...WEB_ROOMS.slice(0, at).map((known) => `^web/src/app/${known}/`),
          room.startsWith('(') ? '^web/src/app/$1/' : `^web/src/app/${room}/`,
        ],
      },
    })),
    {
      name: 'sync-stands-alone',
      severity: 'error',
      comment:
        'What keeps and sends knows nothing of the store: another way to be told, or to sign in, changes it alone.',
      from: { path: '^web/src/app/sync/', pathNot: TESTS },
      to: { path: 'node_modules/(@ngrx|@ng-bootstrap)/' },
    },
    {
      name: 'words-at-the-surface',
      severity: 'error',
      comment: 'Facts are put into words where they leave the core.',
      from: {
        path: '^core/src/',
        pathNot: [
          '^core/src/(words|exchange)/',
          '^core/src/(index|drawing|exchange|furnish|spanish|work)\\.ts$',
          ...TESTS,
        ],
      },
      to: { path: '^core/src/words/' },
    },
    {
      name: 'every-module-has-a-room',
      severity: 'error',
      comment: 'A new room is put into the list, where it belongs.',
      from: {},
      to: {
        path: '^core/src/',
        pathNot: [
          ...ROOMS.map((room) => `^core/src/${room}/[^/]+$`),
          '^core/src/(index|drawing|exchange|furnish|spanish|work)\\.ts$',
          ...TESTS,
        ],
      },
    },
    {
      name: 'core-and-the-outside',
      severity: 'error',
      comment: 'The server and the screens see of the core what its index gives.',
      from: { path: '^(server|web)/src/', pathNot: TESTS },
      to: { path: '^core/src/(?!(index|drawing|exchange|furnish|spanish|work)\\.ts$)' },
    },
    {
      name: 'database-in-storage',
      severity: 'error',
      comment: 'Only storage knows the database; everything else asks within inCrew.',
      from: { path: '^server/src/(?!storage/)', pathNot: TESTS },
      to: { path: '^node_modules/(@mikro-orm|pg)/' },
    },
    {
      name: 'server-and-screens-apart',
      severity: 'error',
      comment: 'They share the contracts that live in core.',
      from: { path: '^(server|web)/src/' },
      to: { path: '^(server|web)/src/', pathNot: '^$1/src/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.tools.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'default'] },
    skipAnalysisNotInRules: true,
  },
};
