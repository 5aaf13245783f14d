import * as fc from 'fast-check';

/**
 * The same random houses every time, so that a change is judged by itself. `npm run explore` sets another seed before the
 * specs are loaded, and finds what this one does not.
 */
const USUAL = 20_261_124;
const given = fc.readConfigureGlobal();
if (given.seed === undefined) fc.configureGlobal({ ...given, seed: USUAL });

/** `npm run test:core -- --fast` says at most how many houses each property looks at. */
const most = (): number | undefined => fc.readConfigureGlobal().numRuns;

/** How many houses a property looks at: so many, or fewer in a run in short. */
export const runs = (usual: number): number => Math.min(usual, most() ?? usual);

/** How often a property must at least have met what it is about: asked of the usual houses only, and of all of them. */
export const many = (least: number): number => (isUsualSeed() ? least : -1);

/** Another seed draws other houses, and a run in short fewer: what is rare may not be among them. */
export const isUsualSeed = (): boolean => fc.readConfigureGlobal().seed === USUAL && most() === undefined;
