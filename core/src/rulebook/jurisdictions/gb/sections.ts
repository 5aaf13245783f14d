import type { Section, SectionKey } from '../../../vocabulary/jurisdiction.js';

/** What the building regulations ask, not the wiring rules. */
const building = (section: string, says: string): Section => ({
  section,
  says,
  publication: 'Approved Document',
});
/** What nobody publishes: a habit of the trade. */
const practice = (says: string): Section => ({ section: '', says, publication: 'common practice' });

/**
 * Where the British wiring rules (BS 7671) ask what has no number of its own, from memory: numbers move between amendments. The
 * edition in force, the designer, the certifier and building control decide.
 */
export const GB_SECTIONS: Readonly<Record<SectionKey, Section>> = {
  together: {
    section: '521.5.2, 514.8',
    says: 'All conductors of a circuit go the same way, so that their currents cancel.',
  },
  multiwire: { section: '314.4', says: 'Circuits do not share a neutral: each has its own.' },
  yoke: { section: '514.11', says: 'What is fed by two circuits says so, and can be isolated from both.' },
  marking: {
    section: '514.3, Table 51',
    says: 'A blue, black or grey core that is line has a brown sleeve at both ends; a grey one that is neutral a blue sleeve.',
  },
  switchInHot: { section: '132.14.1', says: 'Switches stand in the line, never in the neutral alone.' },
  neutralWhole: { section: '526.1', says: 'A neutral is joined through, whatever is taken off.' },
  neutralApart: { section: '314.4', says: 'Neutrals of different circuits are not joined.' },
  bonding: {
    section: '543.2',
    says: 'CPCs are joined in every box, with a terminal for each accessory and metal box.',
  },
  neutralGround: {
    section: '542.1',
    says: 'Neutral and CPC are joined at the supply and nowhere beyond the origin.',
  },
  ownNeutral: {
    section: '531.3',
    says: 'An RCBO or RCD gets the neutral of its own circuit on its own terminal.',
  },
  twoOnBreaker: {
    section: '526.1',
    says: 'Two legs of a ring share one terminal of their MCB; other circuits have one.',
  },
  oneNeutralPerHole: {
    section: '514.9, 526.1',
    says: 'Neutrals stand on the bar in the order of their MCBs.',
  },
  nameplate: { section: '552.1', says: 'Motors go by what is marked on them.' },
  gfciRooms: {
    section: '411.3.3, 411.3.4',
    says: 'Socket outlets and lights of a dwelling have 30 mA RCD protection.',
  },
  fanBox: practice('A fan or a heavy pendant hangs from a fixing of its own.'),
  torque: { section: '526.1', says: 'Terminals are tightened as the accessory marks it.' },
  markedVolume: practice('What a back box holds follows from its inside measures.'),
  fillCount: practice('No rule counts conductors in a box: the depth is chosen by what goes in.'),
  lightingOutlets: practice('Rooms, halls, stairs and garages have a light on a switch.'),
  stairLights: practice('Stairs have two-way switching, top and bottom.'),
  switchAtTub: {
    section: '701.512.3',
    says: 'No switch stands in the zones of a bath or shower, but a pull cord.',
  },
  panelPlace: practice('A consumer unit hangs where it can be reached, not in a bathroom.'),
  panelSpace: { section: '132.12', says: 'A consumer unit has room in front of it to be worked on.' },
  outdoorOutlets: practice('A house has a socket outlet outside.'),
  garageOutlets: practice('A garage has a socket outlet.'),
  laundryOutlet: practice('Where laundry is done there is a socket outlet for it.'),
  basementOutlet: practice('A cellar has a socket outlet.'),
  serviceOutlet: practice('A socket outlet stands by what needs service.'),
  bathOutlet: {
    section: '701.512.3',
    says: 'No socket outlet stands within 2.5 m of a bath or shower, but a shaver supply.',
  },
  ownCircuits: { section: '314.1', says: 'What would be missed most when one circuit trips is on another.' },
  kitchenCircuits: practice('A kitchen has a ring or a radial of its own.'),
  reachable: { section: '526.3', says: 'A joint can be got at, unless it is maintenance-free.' },
  spliceInBox: { section: '526.5', says: 'Every joint is in an enclosure.' },
  lowVoltage: { section: '528.1', says: 'Extra-low-voltage and data cables are kept apart from power.' },
  homeRuns: {
    section: '514.9',
    says: 'Each circuit is legibly marked at the consumer unit with what it is for.',
  },
  fireStop: building('B', 'Holes through fire barriers are closed again.'),
};
