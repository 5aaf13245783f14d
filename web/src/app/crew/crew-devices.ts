import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import type { DeviceLine } from '@mule-tally/core';
import { toldWhy } from '../parts/told-why';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Identity } from '../state/identity';
import { SignInApi } from '../sync/sign-in-api';

/** Devices of the crew: whose they are, when they were last here, and out with one that was lost. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-crew-devices',
  imports: [DatePipe, ToldPipe, Value, WordsPipe],
  template: `
    @if (problem(); as sentence) {
      <p role="alert">{{ sentence | told }}</p>
    }
    <table class="ledger entered">
      <thead>
        <tr>
          <th i18n>Device</th>
          <th i18n>Whose</th>
          <th i18n>Last here</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (device of devices(); track device.id) {
          <tr>
            <td>
              <input
                class="form-control"
                maxlength="200"
                i18n-aria-label
                aria-label="Name of the device"
                [mtValue]="device.name"
                mtOnLeave
                (mtValueChange)="rename(device, $event)"
              />
            </td>
            <td>
              {{ names(device) }}
              @if (device.isThis) {
                <span i18n class="soft">this device</span>
              }
            </td>
            <td class="num">{{ device.seenAt | date: 'd MMM, HH:mm' }}</td>
            <td>
              <div class="actions">
                @if (device.isRevoked) {
                  <span i18n class="soft">revoked</span>
                } @else if (asked() === device.id) {
                  <button i18n type="button" class="btn btn-danger-line" (click)="revoke(device)">
                    Lock it out now
                  </button>
                  <button i18n type="button" class="btn btn-line" (click)="asked.set(undefined)">
                    Keep it
                  </button>
                } @else {
                  @if (identity.isLead()) {
                    <button
                      type="button"
                      class="btn btn-line"
                      role="switch"
                      [attr.aria-checked]="device.isShared"
                      [attr.aria-label]="'{} is shared' | words: device.name"
                      (click)="share(device)"
                    >
                      {{ (device.isShared ? 'Shared' : 'One person’s') | words }}
                    </button>
                  }
                  <button i18n type="button" class="btn btn-danger-line" (click)="asked.set(device.id)">
                    Lost
                  </button>
                }
              </div>
            </td>
          </tr>
        } @empty {
          <tr>
            <td i18n class="soft" colspan="4">No device has been paired yet.</td>
          </tr>
        }
      </tbody>
    </table>
    <p i18n class="soft">
      A shared tablet lets whoever has signed in on it take their turn with a PIN, with a network or without.
      What is unsent on a device that is locked out stays on it.
    </p>
  `,
})
export class CrewDevices {
  private readonly api = inject(SignInApi);
  protected readonly identity = inject(Identity);
  protected readonly devices = signal<readonly DeviceLine[]>([]);
  /** Of which device it is asked whether it is to be locked out. */
  protected readonly asked = signal<string | undefined>(undefined);
  protected readonly problem = signal<string | undefined>(undefined);

  constructor() {
    this.look();
  }

  look(): void {
    void this.doing(() => Promise.resolve());
  }

  protected names({ people }: DeviceLine): string {
    return people.map(({ name }) => name).join(', ');
  }
  protected rename(device: DeviceLine, name: string): void {
    if (name.trim() && name.trim() !== device.name)
      void this.doing(() => this.api.setDevice(device.id, { name: name.trim() }));
  }
  protected share(device: DeviceLine): void {
    void this.doing(() => this.api.setDevice(device.id, { isShared: !device.isShared }));
  }
  protected revoke(device: DeviceLine): void {
    this.asked.set(undefined);
    void this.doing(() => this.api.revoke(device.id));
  }

  /** Does something and looks again; who this device is may have changed with it. */
  private async doing(work: () => Promise<unknown>): Promise<void> {
    this.problem.set(undefined);
    try {
      await work();
      this.devices.set(await this.api.devices());
      await this.identity.refresh();
    } catch (error) {
      this.problem.set(toldWhy(error));
    }
  }
}
