import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import { DIAGNOSIS } from '../diagnosis/known.js';
import { houseOf, readHouseFile } from '../house/house-file.js';
import { inspectHouse } from '../inspection/inspect-house.js';
import { EDITIONS } from '../rulebook/jurisdictions.js';
import { many } from '../testing/seed.js';
import { proveCircuit } from '../wiring/proof/prove-circuit.js';
import type { ServiceCall } from './service-call.js';
import { callBreakers, serviceCallHouse } from './service-call.js';

describe('A service call', () => {
  const asked: fc.Arbitrary<Omit<ServiceCall, 'breakerAmps'>> = fc.record({
    name: fc.constant('Back stairs'),
    base: fc.constantFrom(...EDITIONS.map(({ id }) => id)),
    places: fc.nat(8),
    lights: fc.nat(6),
    outlets: fc.nat(12),
    feed: fc.constantFrom('switch' as const, 'light' as const),
    protection: fc.constantFrom('none' as const, 'afci' as const, 'gfci' as const, 'dual' as const),
  });
  const call = asked.chain((own) =>
    fc
      .constantFrom(...callBreakers({ ...own, breakerAmps: 0 }))
      .map((breakerAmps): ServiceCall => ({ ...own, breakerAmps })),
  );

  it('is a house whose one circuit works on paper, with every switch and light that was said', () => {
    fc.assert(
      fc.property(call, (asked) => {
        let count = 0;
        const file = serviceCallHouse(asked, () => {
          count++;
          return `00000000-0000-4000-8000-${count.toString(16).padStart(12, '0')}`;
        });
        const read = readHouseFile(JSON.parse(JSON.stringify(file)));
        expect(read.ok).toBeTrue();
        if (!file.runs.length) return;
        const reader = readerOf(houseOf(file));
        const { holds, failures } = proveCircuit(reader, file.circuits[0]!.id);
        expect(holds)
          .withContext(JSON.stringify([asked, failures.map(({ code }) => code)]))
          .toBeTrue();
        const stops = inspectHouse(reader).filter(({ severity }) => severity === 'stop');
        expect(stops.map(({ code, facts }) => [code, facts]))
          .withContext(JSON.stringify(asked))
          .toEqual([]);
        const isSwitched = asked.places > 0 && asked.lights > 0;
        const { sights } = reader.derive(DIAGNOSIS, file.circuits[0]!.id);
        expect(sights.levers.length).toBe(isSwitched ? asked.places : 0);
        expect(sights.loads.length).toBe((isSwitched ? asked.lights : 0) + 2 * asked.outlets);
      }),
      { numRuns: many(60) },
    );
  });
});
