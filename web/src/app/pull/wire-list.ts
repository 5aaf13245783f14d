import type { Circuit, Run } from '@mule-tally/core';
import { Colour, Size } from '@mule-tally/core';

export type Wires = NonNullable<Run['wires']>;

/** The wires of a raceway as a line, such as "12 BK of 10, 12 WH of 10, 12 RD": gauge, colour and the circuit they belong to. */
export function wireLine(wires: Wires, circuits: readonly Circuit[]): string {
  return wires
    .map(({ size, colour, circuitId }) => {
      const circuit = circuits.find(({ id }) => id === circuitId);
      return `${size.value} ${colour}${circuit ? ` of ${circuit.number}` : ''}`;
    })
    .join(', ');
}

/** Reads such a line; `circuits` are those of the run, `system` is that of the sizes. A sentence where it cannot be read. */
export function readWireLine(
  text: string,
  circuits: readonly Circuit[],
  system: Size['system'] = 'awg',
): { wires: Wires } | { problem: string } {
  const wires: Wires = [];
  for (const part of text.split(',')) {
    if (!part.trim()) continue;
    const match = /^(\d{1,2}(?:\.\d+)?)\s*([a-z]+)(?:\s+of\s+(\d+))?$/i.exec(part.trim());
    const colour = Colour.safeParse(match?.[2]?.toUpperCase());
    const size = Size.safeParse({ system, value: Number(match?.[1]) });
    if (!colour.success || !size.success)
      return {
        problem: $localize`“${part.trim()}” is no wire: say gauge and color code, such as 12 BK, and which circuit it is of where several share the raceway, such as 12 BK of 10.`,
      };
    const circuit = circuits.find(({ number }) => number === Number(match![3]));
    if (match![3] && !circuit)
      return { problem: $localize`Circuit ${match![3]} does not run in this raceway.` };
    wires.push({ size: size.data, colour: colour.data, ...(circuit && { circuitId: circuit.id }) });
  }
  return wires.length
    ? { wires }
    : { problem: $localize`Say which wires are in the raceway, such as: 12 BK, 12 WH, 12 RD.` };
}
