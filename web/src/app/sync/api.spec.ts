import { Api, Refused, ServerAway } from './api';

const answering = (status: number, body: unknown): jasmine.Spy =>
  spyOn(window, 'fetch').and.resolveTo(
    new Response(typeof body === 'string' ? body : JSON.stringify(body), { status }),
  );
const problem = (status: number, code: string) => ({
  type: `urn:x:${code}`,
  title: 'Problem',
  status,
  code,
  detail: 'A sentence.',
});

describe('Talking to the server', () => {
  it('tells a server that is away from one that says no', async () => {
    const api = new Api();
    const ask = () => api.houses();
    spyOn(window, 'fetch').and.rejectWith(new TypeError('network'));
    await expectAsync(ask()).toBeRejectedWithError(ServerAway);
    (window.fetch as jasmine.Spy).and.resolveTo(new Response('<html>proxy</html>', { status: 502 }));
    await expectAsync(ask()).toBeRejectedWithError(ServerAway);
    (window.fetch as jasmine.Spy).and.resolveTo(
      new Response(JSON.stringify(problem(503, 'database.away')), { status: 503 }),
    );
    await expectAsync(ask()).toBeRejectedWithError(ServerAway, 'A sentence.');
    (window.fetch as jasmine.Spy).and.resolveTo(
      new Response(JSON.stringify(problem(409, 'house.exists')), { status: 409 }),
    );
    await expectAsync(ask()).toBeRejectedWithError(Refused, 'A sentence.');
  });

  it('does not wait for ever: what hangs, is cut off or fails on the server is a server that is away', async () => {
    const fetched = spyOn(window, 'fetch').and.callFake(
      (_url, init) =>
        new Promise((_resolve, reject) =>
          init!.signal!.addEventListener('abort', () => reject(init!.signal!.reason)),
        ),
    );
    const timed = spyOn(AbortSignal, 'timeout').and.callFake(() =>
      AbortSignal.abort(new DOMException('late')),
    );
    const hung = new Api().houses();
    fetched.calls.mostRecent().args[1]!.signal!.dispatchEvent(new Event('abort'));
    await expectAsync(hung).toBeRejectedWithError(ServerAway);
    expect(timed.calls.mostRecent().args[0]).toBeGreaterThan(1000);
    fetched.and.resolveTo(new Response('[{"id', { status: 200 }));
    await expectAsync(new Api().houses()).toBeRejectedWithError(ServerAway);
    fetched.and.resolveTo(new Response(JSON.stringify(problem(500, 'server.failed')), { status: 500 }));
    await expectAsync(new Api().houses()).toBeRejectedWithError(ServerAway);
  });

  it('takes no answer that is not the contract’s', async () => {
    answering(200, [{ id: 'x' }]);
    await expectAsync(new Api().houses()).toBeRejected();
  });

  it('sends an imported file as it is, with what should happen when it is there', async () => {
    const fetched = answering(201, { id: 'a', how: 'copied' });
    expect(await new Api().import('{"x": 1}', 'copy', 'Lead')).toEqual({ id: 'a', how: 'copied' });
    expect(fetched.calls.mostRecent().args[0]).toBe('/api/houses/import?onExisting=copy&actorId=Lead');
    expect(fetched.calls.mostRecent().args[1].body).toBe('{"x": 1}');
  });
});
