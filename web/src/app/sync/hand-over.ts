import { Injectable, inject } from '@angular/core';
import type { DeviceLine, HandedOver, TakenIn } from '@mule-tally/core';
import { handOverProblem, readHandOver, signedText, takenIn, writeHandOver } from '@mule-tally/core';
import { ServerAway } from './api';
import { deviceKey, signatureOf, isSignedBy } from './device-key';
import { DeviceStore } from './device-store';
import { CREW_BOOK, envelopeOf } from './outbox';
import { SignInApi } from './sign-in-api';

/** A hand-over as it was read: whose it is and what is in it, before any of it is taken in. */
export interface ReadFromDevice {
  readonly device: DeviceLine;
  readonly madeAt: string;
  readonly documents: readonly { readonly name: string; readonly count: number }[];
  readonly changes: readonly TakenIn[];
  /** Changes that were left out: not to be read, or by somebody who is not on that device. */
  readonly left: number;
}

/** Why nothing was handed over, or taken in: a stable code and a sentence. */
export class NoHandOver extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

const CREW_CHANNEL = 'mule-tally';

/**
 * What is unsent on this device, as a file that is carried to a lead's device where there is no network; and such files taken in,
 * as if they had been entered here.
 */
@Injectable({ providedIn: 'root' })
export class HandOvers {
  private readonly device = inject(DeviceStore);
  private readonly api = inject(SignInApi);
  private readonly tabs = new BroadcastChannel(CREW_CHANNEL);

  /** Learns the keys of the crew's devices while there is a network: a lead's device checks by them when there is none. */
  async learn(): Promise<void> {
    try {
      await this.device.keepDevices(await this.api.devices());
    } catch (error) {
      if (!(error instanceof ServerAway)) throw error;
    }
  }

  /** How many changes would be handed over. */
  async count(): Promise<number> {
    let count = 0;
    for (const documentId of await this.device.unsentDocuments())
      count += (await this.device.outbox(documentId)).filter(({ item }) => !item.refusal).length;
    return count;
  }

  /** The text of the file, and how many changes it holds. */
  async made(
    crewId: string,
    deviceId: string,
    at: Date,
  ): Promise<{ readonly text: string; readonly count: number }> {
    const names = new Map((await this.device.keptHouses()).map(({ id, name }) => [id, name]));
    const documents: HandedOver['documents'] = [];
    for (const documentId of await this.device.unsentDocuments()) {
      const unsent = (await this.device.outbox(documentId)).filter(({ item }) => !item.refusal);
      documents.push({
        documentId: documentId as HandedOver['documents'][number]['documentId'],
        name: documentId === CREW_BOOK ? $localize`Crew book` : (names.get(documentId) ?? ''),
        since: (await this.device.seqOf(documentId)) ?? 0,
        changes: unsent.map(({ item }) => envelopeOf(item)),
      });
    }
    const signed = signedText({ crewId, deviceId, madeAt: at.toISOString(), documents });
    const pair = await deviceKey();
    if (!pair)
      throw new NoHandOver(
        'hand-over.no-key',
        $localize`This browser keeps no key to sign with. What you entered is kept here, and goes out when there is a network.`,
      );
    const count = documents.reduce((sum, { changes }) => sum + changes.length, 0);
    return { text: writeHandOver(signed, await signatureOf(pair, signed)), count };
  }

  /** Reads a file, and proves that it is of a device of the crew and that nothing in it was changed on its way. */
  async read(text: string, crewId: string): Promise<ReadFromDevice> {
    const read = readHandOver(text);
    if (!read.ok) throw new NoHandOver(read.problem.code, read.problem.message);
    const { what, signed, signature } = read;
    // One that was paired since this device last asked may be known to the server.
    if (!(await this.device.knownDevice(what.deviceId))) await this.learn();
    const device = await this.device.knownDevice(what.deviceId);
    const problem = handOverProblem(what, crewId, device);
    if (problem) throw new NoHandOver(problem.code, problem.message);
    if (!(await isSignedBy(device!.publicKey, signed, signature)))
      throw new NoHandOver(
        'hand-over.not-signed',
        $localize`This file was not signed by the device that it names, or it was changed on its way. Nothing was taken in.`,
      );
    return {
      device: device!,
      madeAt: what.madeAt,
      documents: what.documents.map(({ name, changes }) => ({ name, count: changes.length })),
      ...takenIn(what, device!),
    };
  }

  /** Takes it in: it waits here like what was entered here. Gives how many changes did not wait here already. */
  async takeIn({ changes }: ReadFromDevice): Promise<number> {
    const count = await this.device.enqueueAll(
      changes.map(({ documentId, envelope }) => ({ documentId, ...envelope })),
    );
    if (count === undefined)
      throw new NoHandOver(
        'hand-over.not-kept',
        $localize`This device could not keep it. Make room on it, and take the file in again.`,
      );
    for (const documentId of new Set(changes.map((change) => change.documentId)))
      this.tabs.postMessage({ documentId });
    return count;
  }
}
