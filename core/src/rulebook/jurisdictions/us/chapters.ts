import type { Jurisdiction } from '../../../vocabulary/jurisdiction.js';

/** In the order in which the rulebook page shows them. */
export const US_CHAPTERS: Jurisdiction['chapters'] = [
  { id: 'fill', title: 'Box fill' },
  { id: 'free', title: 'Free conductor' },
  { id: 'wire', title: 'Wire and breaker' },
  { id: 'neutral', title: 'Neutral at switches' },
  { id: 'gfci', title: 'Ground-fault protection' },
  { id: 'afci', title: 'Arc-fault protection' },
  { id: 'load', title: 'Lighting load' },
  { id: 'fan', title: 'Fan boxes' },
  { id: 'wiring', title: 'Ways of wiring' },
  { id: 'slot', title: 'Cables into the box' },
  { id: 'makeup', title: 'Making up' },
  { id: 'raceway', title: 'Raceway' },
  { id: 'secure', title: 'Securing cable' },
  { id: 'height', title: 'Heights of boxes' },
  { id: 'wall', title: 'Framing' },
  { id: 'layout', title: 'Where outlets go' },
  { id: 'draft', title: 'Drafting a house' },
  { id: 'estimate', title: 'Estimated lengths' },
  { id: 'cut', title: 'Length to cut' },
  { id: 'pull', title: 'Pulling' },
  { id: 'reel', title: 'Reels' },
  { id: 'plan', title: 'Planning pulls' },
  { id: 'takeoff', title: 'Take-off' },
  { id: 'show', title: 'How it is shown' },
];
