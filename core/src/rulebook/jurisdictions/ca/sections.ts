import type { Section, SectionKey } from '../../../vocabulary/jurisdiction.js';

/**
 * Where the Canadian code (CSA C22.1) asks what has no number of its own, from memory and less sure than the sections of the United
 * States: numbers move between editions. The adopted code, the inspector and a licensed electrician decide.
 */
export const CA_SECTIONS: Readonly<Record<SectionKey, Section>> = {
  together: {
    section: '12-904, 4-006',
    says: 'All conductors of a circuit go the same way, so that their currents cancel.',
  },
  multiwire: {
    section: '14-010, 4-022',
    says: 'Circuits that share a neutral have a common disconnect and stand on different legs of the service.',
  },
  yoke: { section: '14-010', says: 'Circuits on one strap have a common disconnect.' },
  marking: {
    section: '4-030, 4-036',
    says: 'A white that is not neutral is marked all round wherever it is seen, at both ends and every splice.',
  },
  switchInHot: { section: '14-016', says: 'Switches open the hot, never the neutral.' },
  neutralWhole: { section: '4-022', says: 'A neutral is spliced through and does not depend on a device.' },
  neutralApart: { section: '4-022', says: 'Neutrals of different circuits are not joined.' },
  bonding: {
    section: '10-600',
    says: 'Bonding conductors are joined in every box, with a pigtail to each device and metal box.',
  },
  neutralGround: {
    section: '10-210',
    says: 'Neutral and bonding conductors are joined at the service and nowhere beyond it.',
  },
  ownNeutral: {
    section: '2-024',
    says: 'A breaker that watches the neutral gets the neutral of its circuit on its own terminal, as its instructions say.',
  },
  twoOnBreaker: {
    section: '12-116',
    says: 'A breaker takes one wire unless it is marked for more; a splice in the panelboard is allowed where there is room.',
  },
  oneNeutralPerHole: { section: '12-116', says: 'Each neutral has a hole of its own on the bar.' },
  nameplate: {
    section: '28-106, 28-704',
    says: 'Motors and air conditioners go by nameplate: wire by minimum circuit ampacity, breaker by maximum overcurrent protection.',
  },
  gfciRooms: { section: '26-704', says: 'Receptacles in these rooms have ground-fault protection.' },
  fanBox: {
    section: '12-3010',
    says: 'A box that a fan hangs on is made for a fan.',
  },
  markedVolume: {
    section: '12-3034, Table 23',
    says: 'The volume of a box is what is marked in it, or what the table gives for its size.',
  },
  fillCount: {
    section: '12-3034',
    says: 'Insulated conductors, pairs of connectors and devices are counted against the volume of the box.',
  },
  lightingOutlets: {
    section: '30-500',
    says: 'Rooms, halls, stairs and garages have a light on a switch, as the building code asks.',
  },
  stairLights: { section: '30-504', says: 'Stairs have a switch location at each end.' },
  switchAtTub: { section: '30-320', says: 'No switch stands within a meter of a tub or shower.' },
  panelPlace: {
    section: '26-602',
    says: 'No panelboard hangs in a bath, a clothes closet or over the steps of a stair.',
  },
  panelSpace: { section: '2-308', says: 'In front of a panelboard a meter of space stays clear.' },
  outdoorOutlets: {
    section: '26-724',
    says: 'A house has a receptacle outside that is reached from the ground.',
  },
  garageOutlets: { section: '26-724', says: 'A garage has a receptacle for each car.' },
  laundryOutlet: { section: '26-724', says: 'Where laundry is done there is a receptacle for it.' },
  basementOutlet: { section: '26-724', says: 'An unfinished basement has a receptacle.' },
  serviceOutlet: {
    section: '26-724',
    says: 'A receptacle stands within reach of equipment that needs service.',
  },
  bathOutlet: { section: '26-720', says: 'A bath has a receptacle within a meter of each basin.' },
  ownCircuits: {
    section: '26-726',
    says: 'Receptacles of laundry, garage and outside are on circuits that serve nothing else.',
  },
  kitchenCircuits: {
    section: '26-722, 26-726',
    says: 'Two or more circuits serve the receptacles of kitchen counters and nothing else: 20 A, or 15 A split on a cable of three conductors with one handle.',
  },
  reachable: {
    section: '12-3014',
    says: 'What is in a box can be got at without taking up any part of the building.',
  },
  spliceInBox: { section: '12-3000', says: 'Every splice is in a box.' },
  lowVoltage: {
    section: '16-212, 60-308',
    says: 'Low-voltage and data cables are in no box with power unless a barrier parts them.',
  },
  homeRuns: {
    section: '2-100',
    says: 'Each circuit is legibly marked at the panelboard with what it is for.',
  },
  fireStop: { section: '2-128', says: 'Holes through plates and floors are closed again against fire.' },
  torque: { section: '12-118', says: 'Terminals are tightened as the device marks it.' },
};
