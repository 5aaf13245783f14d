import * as fc from 'fast-check';
import type { CableId } from '../rulebook/cables.js';
import { Plan } from './plan.js';

export interface RandomHouse {
  readonly plan: Plan;
  readonly boxes: readonly string[];
  readonly panel: string;
}

interface Shape {
  readonly base: 'us-2017' | 'us-2020' | 'us-2023';
  readonly circuits: readonly {
    readonly amps: 15 | 20;
    readonly boxes: readonly {
      readonly parent: number;
      readonly kind: 'switch' | 'receptacle' | 'light' | 'gang2' | 'fan';
      readonly cable: CableId | undefined;
      readonly metal: boolean;
      readonly shared: boolean;
      readonly pulled: boolean;
    }[];
  }[];
}

const shape: fc.Arbitrary<Shape> = fc.record({
  base: fc.constantFrom('us-2017' as const, 'us-2020' as const, 'us-2023' as const),
  circuits: fc.array(
    fc.record({
      amps: fc.constantFrom(15 as const, 20 as const),
      boxes: fc.array(
        fc.record({
          parent: fc.nat(),
          kind: fc.constantFrom(
            'switch' as const,
            'receptacle' as const,
            'light' as const,
            'gang2' as const,
            'fan' as const,
          ),
          cable: fc.constantFrom<(CableId | undefined)[]>('14/2', '14/3', '12/2', '12/3', '10/2', undefined),
          metal: fc.boolean(),
          shared: fc.boolean(),
          pulled: fc.boolean(),
        }),
        { minLength: 1, maxLength: 8 },
      ),
    }),
    { minLength: 1, maxLength: 3 },
  ),
});

/**
 * A house drawn from a shape: each circuit a random tree from the panel, lights switched from the nearest switch above
 * them where there is one, some boxes shared between circuits, some cable pulled, some not chosen yet.
 */
function build({ base, circuits }: Shape): RandomHouse {
  const plan = new Plan('Random', base);
  const rooms = [plan.room('One', 'bedroom'), plan.room('Two', 'hall')];
  const panel = plan.box('PANEL', 'panel', { roomId: rooms[0]! });
  const all: string[] = [];
  circuits.forEach(({ amps, boxes }, index) => {
    const circuit = plan.circuit(index + 1, `C${index + 1}`, panel, amps);
    const placed: { id: string; parent: number; levers: string[] }[] = [
      { id: panel, parent: -1, levers: [] },
    ];
    boxes.forEach(({ parent, kind, cable, metal, shared, pulled }, at) => {
      const from = placed[parent % placed.length]!;
      const reuse = shared && index > 0 && all.length > 0 ? all[parent % all.length] : undefined;
      if (reuse && placed.some(({ id }) => id === reuse)) return;
      const models = {
        switch: 'plastic-1g-18',
        gang2: 'plastic-2g-34',
        receptacle: 'plastic-1g-20',
        light: 'plastic-round-20',
        fan: 'fan-24',
      };
      const model = metal && kind === 'switch' ? 'metal-device-3x2x3.5' : models[kind];
      const id = reuse ?? plan.box(`B${index}-${at}`, model, { roomId: rooms[at % 2]! });
      if (!reuse) all.push(id);
      const levers: string[] = [];
      if (kind === 'switch') levers.push(...plan.device(id, 'switch', 1, circuit));
      if (kind === 'gang2')
        levers.push(...plan.device(id, 'switch', 1, circuit), ...plan.device(id, 'dimmer', 2, circuit));
      if (kind === 'receptacle') plan.device(id, 'receptacle', 1, circuit);
      if (kind === 'light' || kind === 'fan') {
        const points = plan.device(id, kind === 'light' ? 'luminaire' : 'fan-light', 1, circuit);
        for (const point of points) {
          let above: (typeof placed)[number] | undefined = from;
          while (above && above.levers.length === 0) above = placed[above.parent];
          const lever = above?.levers.pop();
          if (lever) plan.control(`Control of ${at}`, [lever], [point]);
        }
      }
      const run = plan.run(from.id, id, cable, circuit);
      if (pulled) plan.pull(run, cable ?? '12/2', 120 + at);
      placed.push({ id, parent: placed.indexOf(from), levers });
    });
  });
  return { plan, boxes: all, panel };
}

export const randomHouse: fc.Arbitrary<RandomHouse> = shape.map(build);
