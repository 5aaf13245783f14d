import type { Conductor } from '../../facts/box-facts.js';
import type { ColourPlan } from '../../vocabulary/catalogue-types.js';
import type { Colour } from '../../vocabulary/text.js';
import type { TreeNeeds } from '../needs/needs.js';
import type { Signal } from '../../vocabulary/signal.js';
import { controlOf, kindOf, travelerSide } from '../../vocabulary/signal.js';

/**
 * The two colours that every cable of a control's chain can give to its travelers: the same colour on the same side along the
 * whole chain (common practice). White only where no other is left; where no two colours are everywhere, a colour changes.
 */
export function travelerColours(
  needs: TreeNeeds,
  plan: ColourPlan,
  conductorsOf: (runId: string) => readonly Conductor[] | undefined,
): (signal: Signal) => Colour | undefined {
  const possible = new Map<string, Set<Colour>>();
  for (const { run } of needs.tree.feed.values()) {
    const signals = needs.needs.get(run.id) ?? [];
    if (!signals.some((signal) => kindOf(signal) === 'traveler')) continue;
    const conductors = run.kind === 'cable' ? conductorsOf(run.id) : undefined;
    if (!conductors) continue;
    for (const controlId of new Set(signals.map(controlOf))) {
      const own = signals.filter(
        (signal) => kindOf(signal) === 'traveler' && controlOf(signal) === controlId,
      );
      if (!controlId || own.length === 0) continue;
      const others = signals.filter((signal) => !own.includes(signal) && kindOf(signal) !== 'neutral').length;
      const colours = conductors
        .map(({ colour }) => colour)
        .filter((colour) => !plan.neutral.includes(colour));
      // What else goes along takes the colour of a hot first.
      const free =
        others > 0 && colours.length - others >= 2 ? colours.filter((one) => one !== plan.hot[0]) : colours;
      const known = possible.get(controlId);
      possible.set(controlId, new Set(known ? free.filter((one) => known.has(one)) : free));
    }
  }
  return (signal) => {
    const side = travelerSide(signal);
    const colours = possible.get(controlOf(signal) ?? '');
    if (!side || !colours) return undefined;
    const first = plan.travelers.a.find((colour) => colours.has(colour));
    return side === 'a' ? first : plan.travelers.b.find((colour) => colours.has(colour) && colour !== first);
  };
}
