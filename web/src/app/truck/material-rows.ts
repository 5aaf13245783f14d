import type { CableId } from '@mule-tally/core';
import type { PieceLine, Say, TakeOff, ToBuy } from '@mule-tally/core/work';

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
    readonly netFt: number;
    readonly habitFt: number;
    readonly leftFt: number;
    readonly stockFt: number;
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
      return $localize`Staples`;
    case 'plate':
      return $localize`Nail plates`;
    case 'seal':
      return $localize`Tubes of seal`;
    case 'breaker': {
      const [amps, poles, protection = ''] = item.split('/');
      const of = PROTECTION[protection];
      const breaker = poles === '2' ? $localize`${amps} A, 2 poles` : $localize`${amps} A, 1 pole`;
      return of ? `${breaker}, ${of}` : breaker;
    }
  }
}

/** What a take-off says, line by line. */
export function materialRows(say: Say, takeOff: TakeOff, buy: readonly ToBuy[]): readonly MaterialRow[] {
  const cables = takeOff.cables.map((line): MaterialRow => {
    const own = buy.find(({ cable }) => cable === line.cable);
    return {
      group: $localize`Cable`,
      item: line.cable,
      count: line.wasteFt,
      unit: $localize`ft`,
      cable: {
        id: line.cable,
        runs: line.runs,
        netFt: line.netFt,
        habitFt: line.habitFt,
        leftFt: line.leftFt,
        stockFt: own?.stockFt ?? 0,
        coils: own?.coils ?? 0,
        estimated: line.estimated,
      },
    };
  });
  const pieces = takeOff.pieces
    .map((line): MaterialRow => ({
      group: GROUPS[line.kind],
      item: itemOf(say, line),
      count: line.count,
      unit: $localize`pcs`,
    }))
    .sort((a, b) => order(a.group) - order(b.group) || a.item.localeCompare(b.item));
  return [...cables, ...pieces];
}

const order = (group: string): number => [...new Set(Object.values(GROUPS))].indexOf(group);

/** The rows as a table: heads first. */
export function tableOf(rows: readonly MaterialRow[]): (string | number)[][] {
  const head = [
    $localize`Group`,
    $localize`Item`,
    $localize`Count`,
    $localize`Unit`,
    $localize`Net, ft`,
    $localize`As pulled, ft`,
    $localize`Left to pull, ft`,
    $localize`In stock, ft`,
    $localize`Coils to buy`,
  ];
  return [
    head,
    ...rows.map(({ group, item, count, unit, cable }) => [
      group,
      item,
      count,
      unit,
      ...(cable ? [cable.netFt, cable.habitFt, cable.leftFt, Math.floor(cable.stockFt), cable.coils] : []),
    ]),
  ];
}
