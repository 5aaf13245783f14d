import type { Circuit, Jurisdiction, Run } from '@mule-tally/core';
import { Colour, Size, sizeOf } from '@mule-tally/core';

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

/** Wires as they are typed where a house is built: "12 BK", "12 WH", "12 RD". */
export function exampleWires({ sizes, colours }: Pick<Jurisdiction, 'sizes' | 'colours'>): string[] {
  const { value } = sizeOf(sizes[1] ?? sizes[0]);
  return [colours.hot[0], colours.neutral[0], colours.hot[1]].flatMap((colour) =>
    colour ? [`${value} ${colour}`] : [],
  );
}

/** Reads such a line; `circuits` are those of the run, sizes and colours those of the country. A sentence where it cannot be read. */
export function readWireLine(
  text: string,
  circuits: readonly Circuit[],
  trade: Pick<Jurisdiction, 'sizes' | 'colours'>,
): { wires: Wires } | { problem: string } {
  const { system } = sizeOf(trade.sizes[0]);
  const example = exampleWires(trade);
  const wires: Wires = [];
  for (const part of text.split(',')) {
    if (!part.trim()) continue;
    const match = /^(\d{1,2}(?:\.\d+)?)\s*([a-z]+)(?:\s+of\s+(\d+))?$/i.exec(part.trim());
    const colour = Colour.safeParse(match?.[2]?.toUpperCase());
    const size = Size.safeParse({ system, value: Number(match?.[1]) });
    if (!colour.success || !size.success)
      return {
        problem: $localize`“${part.trim()}” is no wire: say size and color code, such as ${example[0]!}, and which circuit it is of where several share the raceway, such as ${example[0]!} of 10.`,
      };
    const circuit = circuits.find(({ number }) => number === Number(match![3]));
    if (match![3] && !circuit)
      return { problem: $localize`Circuit ${match![3]} does not run in this raceway.` };
    wires.push({ size: size.data, colour: colour.data, ...(circuit && { circuitId: circuit.id }) });
  }
  return wires.length
    ? { wires }
    : { problem: $localize`Say which wires are in the raceway, such as: ${example.join(', ')}.` };
}
