import { randomUUID } from 'node:crypto';
import type { Me } from '@mule-tally/core';
import pg from 'pg';
import { migrate } from '../storage/migrate.js';
import { OWNER_URL, SERVING_URL } from './database.js';

/** A database of its own in the cluster of the tests: for what sets up a crew, which others would notice. */
export async function ownDatabase(prefix: string): Promise<{ owner: string; serving: string }> {
  const name = `${prefix}_${randomUUID().slice(0, 8)}`;
  const admin = new pg.Client({ connectionString: OWNER_URL });
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  const [owner, serving] = [OWNER_URL, SERVING_URL].map((url) => {
    const own = new URL(url);
    own.pathname = `/${name}`;
    return own.href;
  }) as [string, string];
  await migrate(owner, serving);
  return { owner, serving };
}

/** A browser: it keeps its cookies, as what the server says to keep and to drop. */
export class Browser {
  private readonly cookies = new Map<string, string>();
  device = { id: randomUUID(), name: 'A phone' };
  constructor(private readonly at: () => string) {}

  /** One request of the API, with its cookies, and what it says of them kept. */
  async fetch(path: string, init: RequestInit = {}): Promise<Response> {
    const response = await fetch(`${this.at()}/api${path}`, {
      ...init,
      headers: {
        ...(init.headers as Record<string, string>),
        cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
      },
    });
    for (const line of response.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(line)!;
      expect(line).toContain('HttpOnly');
      expect(line).toContain('SameSite=Lax');
      if (value) this.cookies.set(name!, value);
      else this.cookies.delete(name!);
    }
    return response;
  }

  async ask(method: string, path: string, body?: unknown): Promise<{ status: number; body: never }> {
    const response = await this.fetch(path, {
      method,
      headers: method === 'GET' ? {} : { 'content-type': 'application/json' },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    });
    return { status: response.status, body: (await response.json()) as never };
  }
  async code(method: string, path: string, body?: unknown): Promise<string | number> {
    const { status, body: answer } = await this.ask(method, path, body);
    return (answer as { code?: string }).code ?? status;
  }
  me = async (): Promise<Me> => (await this.ask('GET', '/me')).body;
  get session(): string | undefined {
    return this.cookies.get('mule-tally');
  }
  set session(value: string | undefined) {
    if (value) this.cookies.set('mule-tally', value);
    else this.cookies.delete('mule-tally');
  }
  copy(): Browser {
    const copy = new Browser(this.at);
    for (const [name, value] of this.cookies) copy.cookies.set(name, value);
    copy.device = this.device;
    return copy;
  }
}
