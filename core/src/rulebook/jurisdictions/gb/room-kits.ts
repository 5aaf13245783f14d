import type { CircuitPlan, KitItem, KitSource, PublishedKit } from '../../../vocabulary/room-kit-types.js';
import { US_ROOM_KITS } from '../us/room-kits.js';
import { saidHere } from './said-here.js';

const PRACTICE: KitSource = { provenance: 'common practice' };

/** What of a kit is of no use here: a disposer and a range on two lines, sockets by the basin of a bath, doorbell transformers. */
const LEFT_OUT: readonly string[] = ['disposer', 'basin', 'cooling', 'thermostat'];
const OWN: Readonly<Record<string, Partial<KitItem>>> = {
  refrigerator: { circuit: 'outlets', name: 'Fridge' },
  dishwasher: { circuit: 'counter', name: 'Dishwasher' },
  hood: { circuit: 'counter', name: 'Cooker hood' },
  range: { name: 'Cooker', own: { amps: 32, supply: '120', nameplate: false } },
  dryer: { name: 'Tumble dryer', circuit: 'laundry' },
  heat: { name: 'Boiler', circuit: 'outlets' },
  'water-heater': { name: 'Immersion heater', own: { amps: 16, supply: '120', nameplate: false } },
};

function itemHere(item: KitItem): KitItem {
  const { own: _own, gfci: _gfci, ...plain } = item as KitItem & { gfci?: boolean };
  const own = OWN[item.key];
  return { ...(own && !own.own ? plain : item), name: saidHere(item.name), ...own };
}

/** What a room usually gets: common practice, as no rule asks how many. */
export const GB_ROOM_KITS: readonly PublishedKit[] = US_ROOM_KITS.map((kit) => {
  const items = kit.items.filter(({ key }) => !LEFT_OUT.includes(key)).map(itemHere);
  return { ...kit, items, sources: Object.fromEntries(items.map(({ key }) => [key, PRACTICE])) };
});

const plan = (use: CircuitPlan['use'], name: string, amps: number, ring = false): CircuitPlan => ({
  use,
  name,
  amps,
  least: 1,
  source: PRACTICE,
  ...(ring && { ring: true }),
});

/** Circuits of a house as they are commonly planned. */
export const GB_CIRCUIT_PLANS: readonly CircuitPlan[] = [
  plan('counter', 'Kitchen ring', 32, true),
  plan('dining', 'Dining socket outlets', 20),
  plan('bath', 'Bath', 16),
  plan('laundry', 'Utility socket outlets', 20),
  plan('garage', 'Garage', 16),
  plan('outdoors', 'Outside socket outlets', 16),
  plan('alarms', 'Smoke alarms', 6),
  plan('lighting', 'Lights', 6),
  plan('outlets', 'Socket outlets', 32, true),
];
