/** What goes out to other programs: asked for when it is, not with the first screen. */
export * from './exchange/conductor-schedule.js';
export * from './exchange/csv.js';
export * from './exchange/netlist-json.js';
export * from './exchange/spice.js';
export * from './exchange/house-zip.js';
export * from './exchange/box-schedule.js';
export * from './exchange/panel-directory.js';
