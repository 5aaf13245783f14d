import type { Colour } from '@mule-tally/core';

/** How a conductor is drawn: its colour, and the dashes that lie over it, so that colour is never the only sign. */
export interface WireLook {
  readonly fill: string;
  readonly dash?: { readonly colour: string; readonly pattern: string };
}

export const WIRE_LOOKS: Readonly<Record<Colour, WireLook>> = {
  BK: { fill: '#26262a' },
  WH: { fill: '#ffffff' },
  RD: { fill: '#c4262e', dash: { colour: '#ffffff', pattern: '2 8' } },
  BU: { fill: '#2a5cb8', dash: { colour: '#ffffff', pattern: '6 4' } },
  GN: { fill: '#2f7d3a', dash: { colour: '#ffe066', pattern: '4 4' } },
  BARE: { fill: '#c58a50', dash: { colour: '#6b3f1a', pattern: '1 3' } },
  GY: { fill: '#8c8c8c' },
  BN: { fill: '#6b4423', dash: { colour: '#ffffff', pattern: '1 6' } },
  OG: { fill: '#e07b1f', dash: { colour: '#26262a', pattern: '2 6' } },
  YE: { fill: '#e6c72f', dash: { colour: '#26262a', pattern: '1 5' } },
  VT: { fill: '#7a4aa0', dash: { colour: '#ffffff', pattern: '3 3' } },
  PK: { fill: '#e89ab5', dash: { colour: '#26262a', pattern: '1 8' } },
};

/** Sheath colours by gauge: common practice in the trade. */
export const SHEATHS: Readonly<Record<string, string>> = {
  '14': '#fdfbf2',
  '12': '#e0b81c',
  '10': '#e07b1f',
};
export const OTHER_SHEATH = '#b9b3a4';
