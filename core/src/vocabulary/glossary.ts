/**
 * Words of the trade that differ from country to country. Each jurisdiction has its own; a sentence asks for the term and
 * gets the word. Words for a number of things are given for one and for more.
 */
export interface Glossary {
  readonly 'single-pole': string;
  readonly 'three-way': string;
  readonly 'four-way': string;
  readonly pigtail: string;
  readonly pigtails: string;
  readonly traveler: string;
  readonly travelers: string;
  readonly hot: string;
  readonly hots: string;
  readonly neutral: string;
  readonly neutrals: string;
  readonly ground: string;
  readonly grounds: string;
  /** On a device, short enough for a drawing. */
  readonly 'ground terminal': string;
  readonly leg: string;
  readonly 'switch leg': string;
  readonly 'switch legs': string;
  readonly interconnect: string;
  readonly spare: string;
  readonly spares: string;
  readonly panel: string;
  readonly breaker: string;
  readonly circuit: string;
  readonly circuits: string;
  readonly 'home run': string;
  readonly jumper: string;
  readonly raceway: string;
  readonly tape: string;
  readonly 'common disconnect': string;
  readonly receptacle: string;
  /** What carries a device in its box. */
  readonly yoke: string;
  readonly GFCI: string;
  readonly AFCI: string;
}
export type Term = keyof Glossary;
