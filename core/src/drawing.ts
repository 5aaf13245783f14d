/** Plans for other programs, and from them: asked for when they are. */
export * from './exchange/dxf-in.js';
export * from './exchange/dxf-out.js';
export * from './exchange/dxf-rooms.js';
export * from './exchange/plan-drawing.js';
export * from './exchange/svg-out.js';
export * from './plan/take-outlines.js';
