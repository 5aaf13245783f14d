import type { HouseReader } from '@mule-tally/core';
import { pulledLengthIn } from '@mule-tally/core';
import type { LeftForUs, PullPlan } from '@mule-tally/core/work';
import { HOUSE_PULLS, habitOf, moneyOf, reelUses, unitsIn } from '@mule-tally/core/work';

/** What a chart shows: series over the same labels; its table for those who cannot see it is made of the same. */
export interface ChartData {
  readonly id: string;
  readonly title: string;
  readonly unit: string;
  readonly labels: readonly string[];
  readonly series: readonly { readonly name: string; readonly values: readonly number[] }[];
  readonly isStacked?: true;
}

/** The charts of a house, those with nothing to show left out. */
export function chartsOf(
  reader: HouseReader,
  nameOf: (personId: string) => string,
  usefulFt: number,
  before: LeftForUs,
  plan?: PullPlan,
): readonly ChartData[] {
  const units = unitsIn(reader.rules());
  const whole = (inches: number): number => Math.round(units.inTyped(inches));
  const unit = units.typed === 'm' ? $localize`m` : $localize`ft`;
  const { totals } = reader.derive(HOUSE_PULLS, reader.houseId);
  const pulls = reader.all('pulls').filter(({ state }) => state === 'in');
  const days = [...new Set(pulls.map(({ at }) => at.slice(0, 10)))].sort();
  const people = [...new Set(pulls.map(({ by }) => by))];
  const { byPerson } = habitOf(reader);
  const reels = reelUses(reader, before);
  const scrapped = (reelId: string): number =>
    reader
      .mentioning('pulls', reelId)
      .filter(({ state }) => state === 'scrapped')
      .reduce((sum, pull) => sum + (pulledLengthIn(pull) ?? 0), 0);
  const charts: ChartData[] = [
    {
      id: 'cable',
      title: $localize`Cable by type`,
      unit,
      labels: totals.map(({ cable }) => cable),
      series: [
        { name: $localize`planned`, values: totals.map(({ plannedIn }) => whole(plannedIn)) },
        { name: $localize`pulled`, values: totals.map(({ pulledIn }) => whole(pulledIn)) },
        {
          name: $localize`left to pull`,
          values: totals.map(({ plannedIn, pulledIn }) => whole(Math.max(0, plannedIn - pulledIn))),
        },
      ],
    },
    {
      id: 'plan',
      title: $localize`What circuits cost, as they stand and as the planner would have them`,
      unit: $localize`your money`,
      labels: (plan?.circuits ?? []).map(({ circuitId, withCircuitId }) =>
        [circuitId, withCircuitId]
          .flatMap((id) => reader.get('circuits', id ?? '')?.number ?? [])
          .join(' + '),
      ),
      series: [
        {
          name: $localize`stands`,
          values: (plan?.circuits ?? []).map(({ before }) => Math.round(moneyOf(before))),
        },
        {
          name: $localize`planned`,
          values: (plan?.circuits ?? []).map(({ after }) => Math.round(moneyOf(after))),
        },
      ],
    },
    {
      id: 'days',
      title: $localize`Runs in, by day and person`,
      unit: $localize`runs`,
      labels: days,
      isStacked: true,
      series: people.map((by) => ({
        name: nameOf(by),
        values: days.map((day) => pulls.filter((pull) => pull.by === by && pull.at.startsWith(day)).length),
      })),
    },
    {
      id: 'habit',
      title: $localize`Pulled over planned, by person`,
      unit: '%',
      labels: [...byPerson.keys()].map(nameOf),
      series: [
        {
          name: $localize`pulled over planned`,
          values: [...byPerson.values()].map(({ factor }) => Math.round(factor * 100)),
        },
      ],
    },
    {
      id: 'reels',
      title: $localize`Waste by reel`,
      unit,
      labels: reels.map(({ reel }) => reel.name),
      isStacked: true,
      series: [
        {
          name: $localize`still on it`,
          values: reels.map(({ leftIn }) => (leftIn >= usefulFt * 12 ? whole(leftIn) : 0)),
        },
        {
          name: $localize`rest too short to keep`,
          values: reels.map(({ leftIn }) => (leftIn > 0 && leftIn < usefulFt * 12 ? whole(leftIn) : 0)),
        },
        { name: $localize`scrapped`, values: reels.map(({ reel }) => whole(scrapped(reel.id))) },
      ],
    },
  ];
  return charts.filter(({ series }) => series.some(({ values }) => values.some((value) => value > 0)));
}
