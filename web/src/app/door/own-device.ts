import { Injectable, inject } from '@angular/core';
import type { DeviceAsked } from '@mule-tally/core';
import { Session } from '../state/session';
import { deviceName, publicKey } from '../sync/device-key';

/** This device, as it asks to be let in. */
@Injectable({ providedIn: 'root' })
export class OwnDevice {
  private readonly session = inject(Session);

  async asked(): Promise<DeviceAsked> {
    const key = await publicKey();
    return { id: this.session.deviceId, name: deviceName(), ...(key && { publicKey: key }) };
  }
}

/** Begins anew as whoever has come in: nothing of who was here before is left on the screen. */
export const startAnew = (path = '/'): void => location.assign(path);
