import { Component, computed, input } from '@angular/core';
import type { Colour } from '@mule-tally/core';

const NAMES: Record<Colour, string> = {
  BK: 'black',
  WH: 'white',
  RD: 'red',
  BU: 'blue',
  GN: 'green',
  GY: 'grey',
  BN: 'brown',
  OG: 'orange',
  YE: 'yellow',
  VT: 'violet',
  PK: 'pink',
  BARE: 'bare copper',
};

/** A conductor: its colour, its letter code and a hatch, so that colour is never the only sign. */
@Component({
  selector: 'mt-wire',
  template: `<span class="wire" [attr.data-colour]="colour()"></span><span class="code">{{ code() }}</span
    ><span class="visually-hidden">{{ name() }}</span>`,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 0.3rem;
      white-space: nowrap;
    }
    .wire {
      width: 2.1rem;
      height: 0.62rem;
      border: 1.5px solid var(--ink);
      border-radius: 0.3rem;
      background-color: var(--wire);
    }
    .code {
      font-family: var(--figures);
      font-weight: 600;
    }
    [data-colour='BK'] {
      --wire: #26262a;
    }
    [data-colour='WH'] {
      --wire: #ffffff;
    }
    [data-colour='RD'] {
      --wire: #c4262e;
      background-image: repeating-linear-gradient(90deg, transparent 0 5px, #fff8 5px 7px);
    }
    [data-colour='BU'] {
      --wire: #2a5cb8;
      background-image: repeating-linear-gradient(45deg, transparent 0 4px, #fff8 4px 6px);
    }
    [data-colour='GN'] {
      --wire: #2f7d3a;
      background-image: repeating-linear-gradient(-45deg, transparent 0 4px, #fff8 4px 6px);
    }
    [data-colour='BARE'] {
      --wire: #c58a50;
      background-image: repeating-linear-gradient(60deg, transparent 0 3px, #6b3f1a88 3px 4px);
    }
    [data-colour='GY'] {
      --wire: #8c8c8c;
    }
    [data-colour='BN'] {
      --wire: #6b4423;
    }
    [data-colour='OG'] {
      --wire: #e07b1f;
    }
    [data-colour='YE'] {
      --wire: #e6c72f;
    }
    [data-colour='VT'] {
      --wire: #7a4aa0;
    }
    [data-colour='PK'] {
      --wire: #e89ab5;
    }
  `,
})
export class Wire {
  readonly colour = input.required<Colour>();
  protected readonly name = computed(() => NAMES[this.colour()]);
  protected readonly code = computed(() => (this.colour() === 'BARE' ? 'bare' : this.colour()));
}
