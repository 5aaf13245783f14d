/**
 * Published rules without a number of their own: what they ask and where it stands in NFPA 70 (US National Electrical Code),
 * from memory. The adopted local code, the inspector and a licensed electrician decide.
 */
export const SECTIONS = {
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
  torque: { section: '110.14(D)', says: 'Terminals are tightened as the device marks it.' },
} as const;

/** "NEC 300.3(B)" */
export const cited = (rule: keyof typeof SECTIONS): string => `NEC ${SECTIONS[rule].section}`;
