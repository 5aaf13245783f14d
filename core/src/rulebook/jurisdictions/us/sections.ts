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
  torque: { section: '110.14(D)', says: 'Terminals are tightened as the device marks it.' },
};
