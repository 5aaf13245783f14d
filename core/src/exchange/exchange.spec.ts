import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { netlistOf } from '../wiring/netlist/build-netlist.js';
import { traceConductor } from '../wiring/netlist/trace.js';
import { conductorSchedule, writeScheduleCsv } from './conductor-schedule.js';
import { writeNetlistJson } from './netlist-json.js';
import { writeSpice } from './spice.js';

function house() {
  const plan = new Plan('Out');
  plan.room('Garage', 'garage');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(1, 'One', panel, 15);
  const sw = plan.fed('=S1', panel, '14/2', circuit, 'plastic-1g-22.5');
  const light = plan.fed('L "one", hall', sw, '14/2', circuit, 'plastic-round-20');
  plan.control('Light', plan.device(sw, 'switch'), plan.device(light, 'luminaire'));
  const reader = readerOf(houseOf(plan.file));
  return { plan, reader, netlist: netlistOf(reader, circuit), sw, light };
}

describe('What is taken out of a house', () => {
  it('has every conductor from end to end, and a CSV that no spreadsheet runs', () => {
    const { reader, netlist } = house();
    const lines = conductorSchedule(reader, netlist);
    expect(
      lines
        .filter(({ conductor }) => conductor !== 'BARE')
        .map(({ conductor, carries, fromTo, toTo }) => [conductor, carries, fromTo, toTo]),
    ).toEqual([
      ['BK', 'hot', 'lands on breaker 1', 'lands on supply of gang 1'],
      ['WH', 'neutral', 'lands on neutral bar', 'splice of 2'],
      ['WH', 'neutral', 'splice of 2', 'lands on neutral of gang 1'],
      ['BK', 'leg of “Light”', 'lands on leg of gang 1', 'lands on hot of gang 1'],
    ]);
    const csv = writeScheduleCsv(lines);
    expect(csv.split('\r\n').length).toBe(lines.length + 2);
    expect(csv).toContain(`,"'=S1",`);
    expect(csv).toContain('"L ""one"", hall"');
  });

  it('is SPICE with levers as parameters and loads named by box, and JSON that reads back', () => {
    const { reader, netlist } = house();
    const spice = writeSpice(reader, netlist, 'circuit 1');
    expect(spice).toMatch(/^\* circuit 1\n/);
    expect(spice).toMatch(/\.param lever_0_\w*s1\w*=0/);
    expect(spice).toMatch(/rload_0_l_one_hall_lamp n\d+ n\d+ 240/);
    const json = JSON.parse(writeNetlistJson(reader, netlist)) as {
      format: string;
      loads: { ohms: number }[];
    };
    expect([json.format, json.loads[0]!.ohms]).toEqual(['mule-tally-netlist', 240]);
  });

  it('follows a conductor from the panel to where it ends', () => {
    const { plan, reader, sw, light } = house();
    const white = traceConductor(reader, plan.file.runs[1]!.id, 'WH');
    expect(white.stops.map(({ boxId }) => boxId)).toEqual([plan.file.boxes[0]!.id, sw, light]);
    expect(white.conductors.size).toBe(2);
    expect(traceConductor(reader, plan.file.runs[1]!.id, 'RD').stops).toEqual([]);
  });
});
