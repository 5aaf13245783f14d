import { Injectable, inject } from '@angular/core';
import type { AccountAsked, DeviceSet, PairIn, PairingAsked, SetUp, SignIn } from '@mule-tally/core';
import { DeviceLine, Me, PairingMade, PairingOffer, PairingState } from '@mule-tally/core';
import * as z from 'zod';
import { Api } from './api';

const Anything = z.unknown();
const Links = z.array(z.strictObject({ id: z.string(), houseId: z.string(), endsAt: z.string() }));

/** Asks the server who is who, and lets people in and devices out. The cookie that it answers with is the browser's to keep. */
@Injectable({ providedIn: 'root' })
export class SignInApi {
  private readonly api = inject(Api);

  me = (): Promise<Me> => this.api.ask('GET', '/me', Me);
  setUp = (asked: SetUp): Promise<unknown> => this.api.ask('POST', '/set-up', Anything, asked);
  signIn = (asked: SignIn): Promise<unknown> => this.api.ask('POST', '/sign-in', Anything, asked);
  signOut = (): Promise<unknown> => this.api.ask('POST', '/sign-out', Anything, {});
  look = (secret: string): Promise<PairingOffer> =>
    this.api.ask('POST', '/pair/look', PairingOffer, { secret });
  pair = (asked: PairIn): Promise<unknown> => this.api.ask('POST', '/pair', Anything, asked);
  setAccount = (asked: AccountAsked): Promise<unknown> => this.api.ask('POST', '/account', Anything, asked);
  invite = (asked: PairingAsked): Promise<PairingMade> =>
    this.api.ask('POST', '/pairings', PairingMade, asked);
  invited = (id: string): Promise<PairingState> => this.api.ask('GET', `/pairings/${id}`, PairingState);
  uninvite = (id: string): Promise<unknown> => this.api.ask('DELETE', `/pairings/${id}`, Anything, {});
  links = (): Promise<z.infer<typeof Links>> => this.api.ask('GET', '/pairings', Links);
  devices = (): Promise<DeviceLine[]> => this.api.ask('GET', '/devices', z.array(DeviceLine));
  setDevice = (id: string, set: z.infer<typeof DeviceSet>): Promise<unknown> =>
    this.api.ask('POST', `/devices/${id}`, Anything, set);
  revoke = (id: string): Promise<unknown> => this.api.ask('DELETE', `/devices/${id}`, Anything, {});
}
