import { NO_FACTS } from '../findings/finding.js';
import type { HouseReader } from '../derive/reader.js';
import { roomOf, runsAt } from '../facts/box-facts.js';
import type { Run } from '../house/model.js';
import type { Finding } from '../findings/finding.js';
import { gaugeOf } from '../vocabulary/size.js';

/** How much of a raceway its wires fill: areas in square inches; undefined while its size or a wire's area is not known. */
export interface RacewayFill {
  readonly wiresIn2: number;
  readonly allowedIn2: number;
  readonly percent: number;
}

/**
 * Fill of an EMT run by NEC chapter 9, tables 1, 4 and 5, from memory: 53 % for one wire, 31 % for two, 40 % for more.
 */
export function racewayFill(reader: HouseReader, run: Run): RacewayFill | undefined {
  const rules = reader.rules();
  if (!run.tradeSize) return undefined;
  const wires = run.wires ?? [];
  if (wires.some(({ size }) => !rules.has(`raceway.area.${gaugeOf(size)}`))) return undefined;
  const inside = rules.number(`raceway.emt.${run.tradeSize}`);
  const wiresIn2 = wires.reduce((sum, { size }) => sum + rules.number(`raceway.area.${gaugeOf(size)}`), 0);
  const percent = rules.number(`raceway.fill.${Math.min(3, Math.max(1, wires.length))}`);
  return { wiresIn2, allowedIn2: (inside * percent) / 100, percent };
}

/** What there is to say about the raceways that begin in a box. */
export function racewayFindings(reader: HouseReader, boxId: string): Finding[] {
  return runsAt(reader, boxId)
    .filter((run) => run.kind === 'raceway' && run.from.boxId === boxId)
    .flatMap((run): Finding[] => {
      const where = { boxId, runId: run.id, roomId: roomOf(reader, boxId)?.id };
      const fill = racewayFill(reader, run);
      if (!fill)
        return run.tradeSize
          ? [
              {
                code: 'raceway.cannot-count',
                severity: 'note',
                where,
                facts: {
                  gauges: [
                    ...new Set(
                      (run.wires ?? []).flatMap(({ size }) =>
                        reader.rules().has(`raceway.area.${gaugeOf(size)}`) ? [] : [gaugeOf(size)],
                      ),
                    ),
                  ],
                },
              },
            ]
          : [
              {
                code: 'raceway.no-size',
                severity: 'note',
                where,
                facts: NO_FACTS,
              },
            ];
      if (fill.wiresIn2 <= fill.allowedIn2) return [];
      return [
        {
          code: 'raceway.too-full',
          severity: 'stop',
          where,
          facts: { wires: run.wires!.length, tradeSize: run.tradeSize!, percent: fill.percent },
          measured: { kind: 'area', in2: fill.wiresIn2 },
          allowed: { kind: 'area', in2: fill.allowedIn2 },
          source: { rule: `raceway.fill.${Math.min(3, run.wires!.length)}` },
        },
      ];
    });
}
