import type { Actor, EnvelopeOf, Me, NoRight, Person, Role } from '@mule-tally/core';
import { roleOf } from '@mule-tally/core';
import { HttpProblem } from '../api/problem.js';

/** Who asks. Plain data: it goes to the workers with what it asks for. */
export interface Caller {
  readonly crewId: string;
  /**
   * `local`: the crew has not been set up, whoever sits at this machine works as a name on its list. `person`: signed in.
   * `viewer`: has a link to one house.
   */
  readonly standing: Exclude<Me['standing'], 'nobody'>;
  readonly actor?: Actor & { readonly name: string };
  readonly deviceId?: string;
  /** The one house of a viewer. */
  readonly houseId?: string;
  /** Who else may take their turn on this device: one that the crew shares. */
  readonly speakers?: readonly (Actor & Person)[];
}

/** A row of the list of people, as far as rights go. */
export interface ActorRow {
  readonly id: string;
  readonly name: string;
  readonly role: Role | null;
  readonly role_in: Actor['roleIn'] | null;
}
export const actorOf = ({ id, name, role, role_in }: ActorRow): Actor & Person => ({
  id,
  name,
  ...(role && { role }),
  ...(role_in && { roleIn: role_in }),
});

/** How it is known who made a change: signed in; by their PIN on a shared device; brought by a lead, or in a file. */
export type Proof = 'verified' | 'pin' | 'imported';

/** On whose rights a change is judged, and how it is known who made it. Nothing of either before a crew is set up. */
export interface Word {
  readonly actor?: Actor;
  readonly proof?: Proof;
  /** The rights are those of whoever made the change, not of whoever brings it. */
  readonly isForMaker?: true;
}

/** Why a change is not taken from this caller. */
export interface NoWord {
  readonly code: string;
  readonly message: string;
}

const NOT_HERE = {
  code: 'person.not-here',
  message: 'Whoever made this has not signed in on this device.',
} as const;
const VIEWER: NoRight = { code: 'rights.viewer', message: 'You may read this, not change it.' };

/** Whether a caller may speak for whoever made a change; why not, where they may not. */
export function wordOf(
  caller: Caller,
  { actorId, isHandedOver }: Pick<EnvelopeOf, 'actorId' | 'isHandedOver'>,
): Word | NoWord {
  if (caller.standing === 'local') return {};
  const { actor, speakers = [] } = caller;
  if (caller.standing === 'viewer' || !actor) return VIEWER;
  if (actorId === actor.id) return { actor, proof: 'verified' };
  const speaker = speakers.find(({ id }) => id === actorId);
  if (speaker) return { actor: speaker, proof: 'pin' };
  // What was done before the crew was set up, and what hands hand over, comes on a lead's word.
  if (actor.role !== 'lead') return NOT_HERE;
  return { actor, proof: 'imported', ...(isHandedOver && { isForMaker: true }) };
}

/** Refuses whoever is no lead; of a house, where one is named. */
export function asLead({ standing, actor }: Caller, houseId?: string): void {
  if (standing === 'local' || (actor && roleOf(actor, houseId) === 'lead')) return;
  throw new HttpProblem(403, 'rights.lead-only', 'Only a lead of the crew may do this.');
}

/** Refuses a viewer: what is the crew's own is not theirs to read. */
export function asMember(caller: Caller): void {
  if (caller.standing !== 'viewer') return;
  throw new HttpProblem(403, 'rights.viewer', 'This link shows one house and nothing else.');
}
