import * as z from 'zod';
import { Person } from '../house/model.js';
import { Role } from '../vocabulary/roles.js';
import { Id, Name } from '../vocabulary/text.js';

/** What server and screens say to each other about who is who. */

/** Length counts, not what it is made of; those that everybody uses are refused by the server. */
export const PASSWORD_LEAST = 10;
export const Password = z
  .string()
  .min(PASSWORD_LEAST, `A password has at least ${PASSWORD_LEAST} characters.`)
  .max(200, 'A password has at most 200 characters.');
/** The name that somebody signs in with: unique in their crew. */
export const Login = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[\p{L}\p{N}._@+-]{2,80}$/u, 'A sign-in name is 2 to 80 letters, figures, dots or dashes.');
/** Shown by a lead, typed by whoever joins. */
export const PairingCode = z.string().regex(/^\d{6}$/);
const Secret = z.string().min(6).max(100);

/** The device as it tells of itself. The key signs what it hands over; its private half never leaves the device. */
export const DeviceAsked = z.strictObject({
  id: Id,
  name: Name,
  publicKey: z
    .strictObject({ kty: z.literal('EC'), crv: z.literal('P-256'), x: z.string(), y: z.string() })
    .optional(),
});
export type DeviceAsked = z.infer<typeof DeviceAsked>;

/** The first lead sets the crew up, by the link of the first start. */
export const SetUp = z.strictObject({
  token: Secret,
  crewName: Name,
  person: Person,
  login: Login,
  password: Password,
  device: DeviceAsked,
});
export type SetUp = z.infer<typeof SetUp>;

export const SignIn = z.strictObject({
  /** The crew's code; empty on a device that the crew knows, and where there is one crew only. */
  crew: z.string().max(40),
  login: z.string().max(200),
  password: z.string().max(1000),
  device: DeviceAsked,
});
export type SignIn = z.infer<typeof SignIn>;

/** What a lead lets somebody in with: a hand who picks their name, a certain person, or whoever has a link to one house. */
export const PairingAsked = z.discriminatedUnion('for', [
  z.strictObject({ for: z.literal('hand') }),
  z.strictObject({ for: z.literal('person'), personId: Id }),
  z.strictObject({ for: z.literal('viewer'), houseId: Id, days: z.int().min(1).max(90) }),
]);
export type PairingAsked = z.infer<typeof PairingAsked>;
export const PairingMade = z.strictObject({
  id: Id,
  token: z.string(),
  /** For whoever cannot read the picture; a link for viewers has none. */
  code: PairingCode.optional(),
  endsAt: z.string(),
});
export type PairingMade = z.infer<typeof PairingMade>;
/** Who has come in with it. */
export const PairingState = z.strictObject({ isOpen: z.boolean(), by: z.string().optional() });
export type PairingState = z.infer<typeof PairingState>;

export const PairingLook = z.strictObject({ secret: Secret });
/** What a code opens: the crew, and whose names can be picked. */
export const PairingOffer = z.strictObject({
  crew: Name,
  for: z.enum(['hand', 'person', 'viewer']),
  people: z.array(Person),
});
export type PairingOffer = z.infer<typeof PairingOffer>;
export const PairIn = z.strictObject({ secret: Secret, person: Person.optional(), device: DeviceAsked });
export type PairIn = z.infer<typeof PairIn>;

/** Who is asking, as the server sees it. */
export const Me = z.strictObject({
  /** `local`: nobody has set the crew up, and whoever sits at this machine works as a name on its list. */
  standing: z.enum(['nobody', 'local', 'person', 'viewer']),
  crew: z.strictObject({ id: Id, name: Name, code: z.string().optional() }).optional(),
  person: Person.optional(),
  role: Role.optional(),
  /** The one house that a viewer sees. */
  houseId: Id.optional(),
  deviceId: Id.optional(),
  /** Others who may take their turn on this device. */
  speakers: z.array(Person).optional(),
  hasPassword: z.boolean().optional(),
});
export type Me = z.infer<typeof Me>;

export const AccountAsked = z.strictObject({
  login: Login,
  password: Password,
  current: z.string().max(1000).optional(),
});
export type AccountAsked = z.infer<typeof AccountAsked>;

export const DeviceLine = z.strictObject({
  id: Id,
  name: Name,
  isShared: z.boolean(),
  pairedAt: z.string(),
  seenAt: z.string(),
  isRevoked: z.boolean(),
  isThis: z.boolean(),
  people: z.array(Person),
  publicKey: z.unknown().optional(),
});
export type DeviceLine = z.infer<typeof DeviceLine>;
export const DeviceSet = z.strictObject({ name: Name.optional(), isShared: z.boolean().optional() });
