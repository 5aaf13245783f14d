import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import { DIAGNOSIS } from '../diagnosis/known.js';
import { houseOf, readHouseFile } from '../house/house-file.js';
import { many } from '../testing/seed.js';
import { proveCircuit } from '../wiring/proof/prove-circuit.js';
import type { ServiceCall } from './service-call.js';
import { serviceCallHouse } from './service-call.js';

describe('A service call', () => {
  const call: fc.Arbitrary<ServiceCall> = fc.record({
    name: fc.constant('Back stairs'),
    base: fc.constant('us-2020' as const),
    places: fc.nat(8),
    lights: fc.nat(6),
    outlets: fc.nat(12),
    feed: fc.constantFrom('switch' as const, 'light' as const),
    breakerAmps: fc.constantFrom(15 as const, 20 as const),
    protection: fc.constantFrom('none' as const, 'afci' as const, 'gfci' as const, 'dual' as const),
  });

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
        const isSwitched = asked.places > 0 && asked.lights > 0;
        const { sights } = reader.derive(DIAGNOSIS, file.circuits[0]!.id);
        expect(sights.levers.length).toBe(isSwitched ? asked.places : 0);
        expect(sights.loads.length).toBe((isSwitched ? asked.lights : 0) + 2 * asked.outlets);
      }),
      { numRuns: many(25) },
    );
  });
});
