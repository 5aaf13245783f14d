import { readerOf } from '../derive/reader.js';
import type { HouseReader } from '../derive/reader.js';
import { houseOf, readHouseFile } from '../house/house-file.js';
import type { HouseFile } from '../house/house-file.js';
import { inspectHouse } from '../inspection/inspect-house.js';
import { Plan } from './plan.js';

/** Small houses by the British rules, for tests. */
export const BACK = 'gb-back-1g-35';
export const WIDE = 'gb-back-2g-35';
export const ROSE = 'gb-rose';
export type Build = (plan: Plan, panel: string, lights: string) => void;
export type Schools = Readonly<Record<string, string>>;

export function built(build: Build, schools: Schools = {}): HouseFile {
  const plan = new Plan('Britain', 'gb-2018');
  plan.file.rulebook.overrides = Object.fromEntries(
    Object.entries(schools).map(([key, value]) => [key, { value }]),
  );
  plan.room('Room', 'living');
  const panel = plan.box('CU', 'panel');
  build(plan, panel, plan.circuit(1, 'Lights', panel, 6, { protection: 'gfci' }));
  const read = readHouseFile(JSON.stringify(plan.file));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.file;
}
export const read = (build: Build, schools?: Schools): HouseReader =>
  readerOf(houseOf(built(build, schools)));

export const found = (reader: HouseReader): string[] =>
  inspectHouse(reader)
    .filter(({ code }) => !code.startsWith('layout'))
    .map(({ code }) => code)
    .sort();

/** A plate in a box of its own for each place, one after another on these cables. */
export const places = (plan: Plan, from: string, lights: string, cables: readonly string[]): string[] => {
  let at = from;
  return cables.flatMap((cable, index) => {
    at = plan.fed(`S${index + 1}`, at, cable, lights, BACK);
    return plan.device(at, 'gb-plate-1', 1, lights);
  });
};

export const oneLight = (plan: Plan, box: string, lights: string): string[] =>
  plan.device(box, 'luminaire', 1, lights);
/** A light that is fed at its rose, its plates on these cables. */
export const atRose =
  (cables: readonly string[], name = 'Light'): Build =>
  (plan, panel, lights) => {
    const rose = plan.fed('L1', panel, '1.5 T&E', lights, ROSE);
    plan.control(name, places(plan, rose, lights, cables), oneLight(plan, rose, lights));
  };
