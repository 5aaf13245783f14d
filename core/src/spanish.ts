export { SPANISH } from './words/spanish/spanish.js';
