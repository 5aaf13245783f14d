import { Injectable, signal } from '@angular/core';
import type { DuplicateHouse, EnvelopeOf, HouseFile, OnExisting } from '@mule-tally/core';
import {
  AssetTaken,
  BatchAnswer,
  CHANGE_VERSION,
  CrewEntry,
  HeldChange,
  HouseSummary,
  JournalEntry,
  LIMITS,
  Places,
  ProblemDetails,
  FaultsFound,
  ReelUsageLine,
} from '@mule-tally/core';
import { Subject } from 'rxjs';
import * as z from 'zod';
import type { AssetTaker, ShelvedAsset } from './asset-shelf';
import { CREW_BOOK } from './outbox';
import type { Entry, JournalPage, Transport } from './transport';

/** The server, or its database, cannot be reached: nothing is known about what was sent. */
export class ServerAway extends Error {}

/** Nobody is signed in on this device any more: what was sent is kept, and goes out once somebody is. */
export class SignedOut extends ServerAway {}

/** The server answered that it will not do this. */
export class Refused extends Error {
  constructor(readonly problem: ProblemDetails) {
    super(problem.detail);
  }
}

const Anything = z.unknown();
const DocumentAnswer = z.object({ file: z.unknown(), seq: z.int(), places: Places.optional() });
const Imported = z.object({ id: z.string(), how: z.string() });

/** Where a document is, and what the entries of its journal look like. */
interface Address {
  readonly path: string;
  readonly entry: z.ZodType<Entry>;
}
const CREW: Address = { path: '/crew/book', entry: CrewEntry as z.ZodType<Entry> };
const addressOf = (documentId: string): Address =>
  documentId === CREW_BOOK
    ? CREW
    : { path: `/houses/${documentId}`, entry: JournalEntry as z.ZodType<Entry> };

/** How long an answer may take, in milliseconds: a request that hangs is one that failed. */
const PATIENCE = 20_000;
/** A whole house going up or down takes longer. */
const LONG_PATIENCE = 90_000;

/** What a text says as JSON; undefined where it is none. */
function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** Talks to the server. Every answer is checked against the contract in core. */
@Injectable({ providedIn: 'root' })
export class Api implements Transport, AssetTaker {
  /** Which database the last answer was of; empty before the first that said so. */
  epoch = '';
  /** This device's clock less the server's, in ms, as the last quick answer told it; the server's is told in seconds. */
  clockOffsetMs: number | undefined;
  /** The server speaks a newer version of changes than this page. */
  readonly isTooOld = signal(false);
  /** The server knows nobody on this device any more. */
  readonly signedOut = new Subject<void>();

  houses(offset = 0, limit: number = LIMITS.page): Promise<HouseSummary[]> {
    return this.ask('GET', `/houses?offset=${offset}&limit=${limit}`, z.array(HouseSummary));
  }

  /** What all houses of the crew took off its reels. */
  reelUsage(): Promise<ReelUsageLine[]> {
    return this.ask('GET', '/crew/reels', z.array(ReelUsageLine));
  }

  /** How often each kind of fault was found in the houses of the crew. */
  faultsFound(): Promise<FaultsFound[]> {
    return this.ask('GET', '/crew/faults', z.array(FaultsFound));
  }

  /** The file is read by core at once, so its shape is not checked twice here. */
  async document(id: string): Promise<{ file: unknown; seq: number; places?: Places; text: string }> {
    const { json, text } = await this.fetched('GET', addressOf(id).path, undefined, LONG_PATIENCE);
    const { places, ...read } = DocumentAnswer.parse(json);
    return { ...read, ...(places && { places }), text };
  }

  import(
    file: HouseFile | string,
    onExisting: OnExisting,
    actorId: string,
  ): Promise<{ id: string; how: string }> {
    const query = new URLSearchParams({ onExisting, actorId });
    const body = typeof file === 'string' ? file : JSON.stringify(file);
    return this.ask('POST', `/houses/import?${query}`, Imported, body, LONG_PATIENCE);
  }

  async duplicate(houseId: string, copy: DuplicateHouse): Promise<void> {
    await this.ask('POST', `/houses/${houseId}/duplicate`, Anything, copy);
  }

  change(documentId: string, changes: readonly EnvelopeOf[]): Promise<BatchAnswer> {
    return this.ask('POST', `${addressOf(documentId).path}/changes`, BatchAnswer, { changes });
  }

  /** One entry of the journal by its change, for undoing what this device no longer remembers. */
  entry(documentId: string, changeId: string): Promise<Entry> {
    const { path, entry } = addressOf(documentId);
    return this.ask('GET', `${path}/journal/${changeId}`, entry);
  }

  journal(documentId: string, query: Record<string, number | string>): Promise<JournalPage> {
    const text = new URLSearchParams(Object.entries(query).map(([name, value]) => [name, String(value)]));
    const { path, entry } = addressOf(documentId);
    const Page = z.object({ seq: z.int(), entries: z.array(entry), more: z.boolean() });
    return this.ask('GET', `${path}/journal?${text}`, Page);
  }

  /** What hands did in a house and the plan could not take, for a lead. */
  held(houseId: string): Promise<HeldChange[]> {
    return this.ask('GET', `/houses/${houseId}/held`, z.array(HeldChange));
  }

  /** Takes it, or leaves it out. Gives why it still cannot be taken. */
  async decide(houseId: string, changeId: string, take: boolean): Promise<string | undefined> {
    const Answer = z.object({ status: z.string().optional(), message: z.string().optional() });
    const { status, message } = await this.ask('POST', `/houses/${houseId}/held/${changeId}`, Answer, {
      take,
    });
    return status === 'refused' ? message : undefined;
  }

  /** Says in which room somebody is, for the others' screens. */
  async here(houseId: string, roomId: string | null): Promise<void> {
    await this.ask('POST', `/houses/${houseId}/here`, Anything, { roomId });
  }

  async putAsset({ sha256, type, bytes, use = 'sheet' }: ShelvedAsset): Promise<void> {
    const sent = { headers: { 'content-type': type }, body: bytes };
    const response = await this.answered('PUT', `/assets/${sha256}?as=${use}`, sent, LONG_PATIENCE);
    AssetTaken.parse(jsonOf(await response.text().catch(() => '')));
  }

  /** A picture of the crew; undefined where the server has none of this hash, for now. */
  async asset(sha256: string): Promise<ArrayBuffer | undefined> {
    try {
      const response = await this.answered('GET', `/assets/${sha256}`, {}, LONG_PATIENCE);
      return await response.arrayBuffer();
    } catch (error) {
      if (error instanceof Refused && error.problem.status === 404) return undefined;
      if (error instanceof TypeError) throw new ServerAway($localize`The answer of the server was cut off.`);
      throw error;
    }
  }

  /** The house file as text. */
  async houseFile(houseId: string): Promise<string> {
    return (await this.fetched('GET', `/houses/${houseId}/file`, undefined, LONG_PATIENCE)).text;
  }

  /** What the server answers, checked. */
  async ask<S extends z.ZodType>(
    method: string,
    path: string,
    answer: S,
    body?: unknown,
    patience = PATIENCE,
  ): Promise<z.infer<S>> {
    return answer.parse((await this.fetched(method, path, body, patience)).json);
  }

  /** An answer as it came, and read as JSON. */
  private async fetched(
    method: string,
    path: string,
    body: unknown,
    patience: number,
  ): Promise<{ text: string; json: unknown }> {
    const headers = body === undefined ? undefined : { 'content-type': 'application/json' };
    const text = typeof body === 'string' || body === undefined ? body : JSON.stringify(body);
    const response = await this.answered(method, path, { headers, body: text }, patience);
    const answer = await response.text().catch(() => '');
    const json = jsonOf(answer);
    // Cut off on its way: nothing is known about what was sent.
    if (json === undefined) throw new ServerAway($localize`The answer of the server was cut off.`);
    return { text: answer, json };
  }

  /** An answer that is the wished one; else it throws. */
  private async answered(
    method: string,
    path: string,
    sent: { readonly headers?: HeadersInit | undefined; readonly body?: BodyInit | undefined },
    patience: number,
  ): Promise<Response> {
    let response: Response;
    const asked = Date.now();
    try {
      response = await fetch(`/api${path}`, {
        method,
        signal: AbortSignal.timeout(patience),
        headers: sent.headers ?? {},
        ...(sent.body !== undefined && { body: sent.body }),
      });
    } catch {
      throw new ServerAway($localize`The server cannot be reached.`);
    }
    this.epoch = response.headers.get('x-epoch') ?? this.epoch;
    if (Number(response.headers.get('x-change-version') ?? 0) > CHANGE_VERSION) {
      this.isTooOld.set(true);
      throw new ServerAway(
        $localize`This page is older than the server: load it anew. What you entered is kept.`,
      );
    }
    this.lookAtClock(asked, response.headers.get('date'));
    if (response.ok) return response;
    const problem = ProblemDetails.safeParse(jsonOf(await response.text().catch(() => '')));
    // What went wrong on the server says nothing about what was sent: it is sent again.
    if (!problem.success || problem.data.status >= 500) {
      throw new ServerAway(problem.success ? problem.data.detail : $localize`The server cannot be reached.`);
    }
    if (problem.data.code === 'session.none') {
      this.signedOut.next();
      throw new SignedOut(problem.data.detail);
    }
    throw new Refused(problem.data);
  }

  private lookAtClock(asked: number, told: string | null): void {
    const now = Date.now();
    const server = told ? Date.parse(told) : NaN;
    if (now - asked > 2000 || Number.isNaN(server)) return;
    const offset = Math.round((asked + now) / 2 - (server + 500));
    // Within the second that the server's clock is told to, they agree.
    this.clockOffsetMs = Math.abs(offset) <= 1000 ? 0 : offset;
  }
}
