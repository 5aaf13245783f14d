import type { HouseReader } from '../derive/reader.js';
import type { Finding } from '../findings/finding.js';
import { inspectHouse } from '../inspection/inspect-house.js';

/** What is found of the wiring of a house, without what its layout lacks: houses of specs are a few boxes, not whole rooms. */
export const wiringFindings = (reader: HouseReader): Finding[] =>
  inspectHouse(reader).filter(({ code }) => !code.startsWith('layout.'));
