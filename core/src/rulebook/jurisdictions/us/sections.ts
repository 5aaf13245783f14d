import type { Section, SectionKey } from '../../../vocabulary/jurisdiction.js';

/**
 * Published rules without a number of their own: what they ask and where it stands in NFPA 70 (US National Electrical Code),
 * from memory. The adopted local code, the inspector and a licensed electrician decide.
 */
export const US_SECTIONS: Readonly<Record<SectionKey, Section>> = {
  together: {
    section: '300.3(B)',
    says: 'All conductors of a circuit go the same way, so that their currents cancel.',
  },
  multiwire: {
    section: '210.4',
    says: 'Circuits that share a neutral have a common disconnect and stand on different legs of the service.',
  },
  yoke: { section: '210.7', says: 'Circuits on one yoke have a common disconnect.' },
  marking: {
    section: '200.7(C)',
    says: 'A white that is not neutral is marked all round wherever it is seen, at both ends and every splice.',
  },
  switchInHot: { section: '404.2(B)', says: 'Switches open the hot, never the neutral.' },
  neutralWhole: {
    section: '300.13(B)',
    says: 'A neutral is spliced through and does not depend on a device.',
  },
  neutralApart: { section: '200.4', says: 'Neutrals of different circuits are not joined.' },
  bonding: {
    section: '250.148',
    says: 'Grounds are joined in every box, with a pigtail to each device and metal box.',
  },
  neutralGround: {
    section: '250.24(A)(5)',
    says: 'Neutral and ground are joined at the service and nowhere beyond it.',
  },
  ownNeutral: {
    section: '110.3(B)',
    says: 'A breaker that watches the neutral gets the neutral of its circuit on its own terminal, as its instructions say.',
  },
  twoOnBreaker: {
    section: '110.14(A), 312.8',
    says: 'A breaker takes one wire unless it is marked for more; a splice in the panel is allowed where there is room.',
  },
  oneNeutralPerHole: { section: '408.41', says: 'Each neutral has a hole of its own on the bar.' },
  nameplate: {
    section: '240.4(G), 430, 440',
    says: 'Motors and air conditioners go by nameplate: wire by minimum circuit ampacity, breaker by maximum overcurrent protection.',
  },
  gfciRooms: { section: '210.8(A)', says: 'Receptacles in these rooms have ground-fault protection.' },
  fanBox: {
    section: '314.27(C)',
    says: 'A box that a fan hangs on, or could be hung on by separately switched spare conductors, is made for a fan.',
  },
  markedVolume: {
    section: '314.16(A)',
    says: 'The volume of a box is what is marked in it, or what the table gives for its size.',
  },
  fillCount: {
    section: '314.16(B)',
    says: 'Conductors, clamps, devices and grounds are counted against the volume of the box.',
  },
  lightingOutlets: {
    section: '210.70(A)',
    says: 'Habitable rooms, kitchens, baths, halls, stairs, garages and spaces for storage or equipment have a light on a switch; a switched receptacle may stand for it but in kitchen and bath.',
  },
  stairLights: {
    section: '210.70(A)(2)',
    says: 'Stairs of six risers or more have a switch location at each level.',
  },
  switchAtTub: { section: '404.4(C)', says: 'No switch stands in the space of a tub or shower.' },
  panelPlace: {
    section: '240.24(D), (E), (F)',
    says: 'No panel hangs in a bath, a clothes closet or over the steps of a stair.',
  },
  panelSpace: {
    section: '110.26(A)',
    says: 'In front of a panel 30 in of width and 36 in of depth stay clear, 6 ft 6 in high.',
  },
  outdoorOutlets: {
    section: '210.52(E)',
    says: 'A house has a receptacle at its front and one at its back, at most 6 ft 6 in above grade; a porch or deck that is reached from inside has one.',
  },
  garageOutlets: {
    section: '210.52(G)(1)',
    says: 'A garage has a receptacle for each vehicle bay, at most 5 ft 6 in above its floor.',
  },
  laundryOutlet: { section: '210.52(F)', says: 'Where laundry is done there is a receptacle for it.' },
  basementOutlet: {
    section: '210.52(G)(3)',
    says: 'Each unfinished part of a basement has a receptacle beside those for equipment.',
  },
  serviceOutlet: {
    section: '210.63',
    says: 'A receptacle stands within 25 ft of equipment that needs service.',
  },
  bathOutlet: {
    section: '210.52(D)',
    says: 'A bath has a receptacle within 3 ft of the edge of each basin.',
  },
  ownCircuits: {
    section: '210.11(C)',
    says: 'Receptacles of baths, laundry and garage are on 20 A circuits that serve nothing else; that of one bath alone may serve its lights and fan.',
  },
  kitchenCircuits: {
    section: '210.11(C)(1), 210.52(B)',
    says: 'Two or more 20 A circuits serve the receptacles of kitchen counters, dining room and pantry, and nothing else.',
  },
  reachable: {
    section: '314.29',
    says: 'What is in a box can be got at without taking up any part of the building.',
  },
  spliceInBox: { section: '300.15', says: 'Every splice is in a box.' },
  lowVoltage: {
    section: '725.136(A), 800.133(A)(1)',
    says: 'Low-voltage and data cables are in no box with power unless a barrier parts them.',
  },
  homeRuns: {
    section: '408.4(A)',
    says: 'Each circuit is legibly marked at the panel with what it is for.',
  },
  fireStop: {
    section: '300.21',
    says: 'Holes through plates and floors are closed again against fire (R302.11 of the residential code as well).',
  },
  torque: { section: '110.14(D)', says: 'Terminals are tightened as the device marks it.' },
};
