/** Drafting a house: for the screens that do it, and what works beside them. */
export * from './furnish/circuit-plan.js';
export * from './furnish/draft-house.js';
export { takeBackDraft } from './furnish/merge.js';
export * from './furnish/panel.js';
export type { LookAt } from './furnish/planned.js';
export * from './furnish/room-line.js';
export * from './furnish/room-size.js';
export * from './furnish/rough-count.js';
export * from './plan/arrange.js';
export * from './plan/outline.js';
export * from './plan/set-list.js';
export * from './plan/spacing.js';
export * from './plan/storey-plan.js';
export * from './plan/typed-outline.js';
export * from './plan/walls.js';
export * from './planning/draft-look.js';
