import type { CableId } from '@mule-tally/core';
import type { PieceLine, Say, TakeOff, ToBuy, Units } from '@mule-tally/core/work';

/** A line of the take-off as it is written out. */
export interface MaterialRow {
  readonly group: string;
  readonly item: string;
  readonly count: number;
  readonly unit: string;
  /** Cable only: net, as the crew pulls, in stock, coils to buy. */
  readonly cable?: {
    readonly id: CableId;
    readonly runs: number;
    /** With waste, in feet: what it costs goes by. */
    readonly wasteFt: number;
    readonly net: number;
    readonly habit: number;
    readonly left: number;
    readonly stock: number;
    readonly coils: number;
    readonly estimated: number;
  };
}

const GROUPS: Readonly<Record<PieceLine['kind'], string>> = {
  box: $localize`Boxes`,
  'marked-box': $localize`Boxes`,
  ring: $localize`Rings and covers`,
  device: $localize`Devices`,
  connector: $localize`Connectors, one spare in ten`,
  staple: $localize`Securing`,
  plate: $localize`Securing`,
  seal: $localize`Securing`,
  breaker: $localize`Breakers`,
};

const PROTECTION: Readonly<Record<string, string>> = {
  none: '',
  afci: 'AFCI',
  gfci: 'GFCI',
  dual: 'AFCI + GFCI',
};

function itemOf(say: Say, { kind, item }: PieceLine): string {
  switch (kind) {
    case 'box':
      return say.boxType(item);
    case 'marked-box':
      return say.told(item);
    case 'ring':
      return say.tongue.phrases.fittings[item as keyof Say['tongue']['phrases']['fittings']];
    case 'device':
      return say.deviceType(item);
    case 'connector':
      return say.connector(item);
    case 'staple':
      return say.inTrade($localize`Staples`);
    case 'plate':
      return $localize`Nail plates`;
    case 'seal':
      return $localize`Tubes of seal`;
    case 'breaker': {
      const [amps, poles, protection = ''] = item.split('/');
      const of = say.inTrade(PROTECTION[protection] ?? '');
      const breaker = poles === '2' ? $localize`${amps} A, 2 poles` : $localize`${amps} A, 1 pole`;
      return of ? `${breaker}, ${of}` : breaker;
    }
  }
}

/** Whole feet in whole units of the house, rounded up. */
export const wholeOf = (units: Pick<Units, 'inTyped'>, feet: number): number =>
  Math.ceil(units.inTyped(feet * 12) - 1e-9);

/** What a take-off says, line by line; lengths in whole feet or meters. */
export function materialRows(say: Say, takeOff: TakeOff, buy: readonly ToBuy[]): readonly MaterialRow[] {
  const unit = say.units.typed === 'm' ? $localize`m` : $localize`ft`;
  const whole = (feet: number): number => wholeOf(say.units, feet);
  const cables = takeOff.cables.map((line): MaterialRow => {
    const own = buy.find(({ cable }) => cable === line.cable);
    return {
      group: $localize`Cable`,
      item: line.cable,
      count: whole(line.wasteFt),
      unit,
      cable: {
        id: line.cable,
        runs: line.runs,
        wasteFt: line.wasteFt,
        net: whole(line.netFt),
        habit: whole(line.habitFt),
        left: whole(line.leftFt),
        stock: Math.floor(say.units.inTyped((own?.stockFt ?? 0) * 12)),
        coils: own?.coils ?? 0,
        estimated: line.estimated,
      },
    };
  });
  const pieces = takeOff.pieces
    .map((line): MaterialRow => ({
      group: say.inTrade(GROUPS[line.kind]),
      item: itemOf(say, line),
      count: line.count,
      unit: $localize`pcs`,
    }))
    .sort((a, b) => order(say, a.group) - order(say, b.group) || a.item.localeCompare(b.item));
  return [...cables, ...pieces];
}

const order = (say: Say, group: string): number =>
  [...new Set(Object.values(GROUPS).map((one) => say.inTrade(one)))].indexOf(group);

/** The rows as a table: heads first. */
export function tableOf(rows: readonly MaterialRow[]): (string | number)[][] {
  const unit = rows.find(({ cable }) => cable)?.unit ?? '';
  const head = [
    $localize`Group`,
    $localize`Item`,
    $localize`Count`,
    $localize`Unit`,
    $localize`Net, ${unit}`,
    $localize`As pulled, ${unit}`,
    $localize`Left to pull, ${unit}`,
    $localize`In stock, ${unit}`,
    $localize`Coils to buy`,
  ];
  return [
    head,
    ...rows.map(({ group, item, count, unit, cable }) => [
      group,
      item,
      count,
      unit,
      ...(cable ? [cable.net, cable.habit, cable.left, cable.stock, cable.coils] : []),
    ]),
  ];
}
