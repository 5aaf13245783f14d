import { TestBed } from '@angular/core/testing';
import type { ChangeBody, House } from '@mule-tally/core';
import {
  applyChange,
  diffOf,
  finish,
  readHouseFile,
  readerOf,
  setting,
  touchedBetween,
} from '@mule-tally/core';
import { feedOptions, lookThrough } from '@mule-tally/core/work';
import demo from '../../../../demo/lot-12.house.json';
import { OpenHouse } from '../state/open-house';
import type { Answer, AnswerTo, Command } from './commands';
import { HouseHost } from './house-host';
import { HIRE, Stale, Workbench } from './workbench';
import type { Hand } from './workbench';

const read = readHouseFile(demo);
if (!read.ok) throw new Error('the demo is broken');
const { house: demoHouse, file } = read;
const changed = (house: House, body: ChangeBody): House => {
  const applied = applyChange(house, body);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return applied.document;
};
/** Changes of a kind that each touch something else. */
const CHANGES: readonly ChangeBody[] = [
  setting('boxes', file.boxes[3]!.id, { tag: 'X1' }),
  { kind: 'rule.set', key: 'fill.volume.14', override: { value: 2.5 } },
  setting('runs', file.runs.find(({ plannedCable }) => plannedCable)!.id, { plannedCable: '14/3' }),
  { kind: 'control.remove', recordId: file.controls[0]!.id },
  setting('circuits', file.circuits[2]!.id, { breakerAmps: 40 }),
];
const lookAt = (house: House) => finish(lookThrough(readerOf(house)));
const turn = (): Promise<void> => new Promise((next) => setTimeout(next));

/** A host with the demo of which every step is a slice of its own. */
function slowHost(): { host: HouseHost; answers: Answer[] } {
  const answers: Answer[] = [];
  let time = 0;
  const host = new HouseHost(
    (answer) => answers.push(answer),
    () => (time += 1000),
    turn,
  );
  host.receive({ kind: 'open', version: 1, text: JSON.stringify({ file }) });
  return { host, answers };
}

describe('The host of derivations beside the screen', () => {
  it('fed with diffs finds in each version what looking through it anew finds', async () => {
    const answers: Answer[] = [];
    const host = new HouseHost(
      (answer) => answers.push(structuredClone(answer)),
      () => performance.now(),
      turn,
    );
    host.receive({ kind: 'open', version: 1, text: JSON.stringify({ file }) });
    let house = demoHouse;
    for (const [at, body] of [undefined, ...CHANGES].entries()) {
      if (body) {
        const next = changed(house, body);
        host.receive({
          kind: 'diff',
          version: at + 1,
          diff: diffOf(house, next, touchedBetween(house, next)),
        });
        house = next;
      }
      host.receive({ kind: 'ask', ask: at + 1, question: { about: 'house' } });
      while (answers.at(-1)?.kind !== 'answer' || answers.at(-1)?.ask !== at + 1) await turn();
      const answer = answers.at(-1) as Extract<Answer, { kind: 'answer' }>;
      expect(answer.version).toBe(at + 1);
      expect(answer.value as unknown).toEqual(structuredClone(lookAt(house)));
    }
  });

  it('begins again when the house changes in the middle, forgets what is no longer asked, and takes no command that is none', async () => {
    const { host, answers } = slowHost();
    host.receive({ kind: 'ask', ask: 1, question: { about: 'house' } });
    host.receive({ kind: 'ask', ask: 2, question: { about: 'house' } });
    for (let step = 0; step < 5; step++) await turn();
    expect(answers.every(({ kind }) => kind === 'progress')).toBeTrue();
    host.receive({ kind: 'cancel', ask: 2 });
    const next = changed(demoHouse, CHANGES[1]!);
    host.receive({
      kind: 'diff',
      version: 2,
      diff: diffOf(demoHouse, next, touchedBetween(demoHouse, next)),
    });
    // What a person waits for comes first.
    const { id } = file.controls[1]!;
    host.receive({ kind: 'ask', ask: 3, question: { about: 'feed-ends', controlId: id } });
    while (!answers.some(({ kind, ask }) => kind === 'answer' && ask === 1)) await turn();
    const ended = answers.flatMap((answer) =>
      answer.kind === 'answer' ? [[answer.ask, answer.version]] : [],
    );
    expect(ended).toEqual([
      [3, 2],
      [1, 2],
    ]);
    const last = answers.at(-1) as Extract<Answer, { kind: 'answer' }>;
    expect(last.value as unknown).toEqual(lookAt(next));
    const feeds = answers.find(({ kind, ask }) => kind === 'answer' && ask === 3) as typeof last;
    expect(feeds.value as unknown).toEqual(feedOptions(next, id));
    expect(() => host.receive({ kind: 'ask', ask: 4, question: { about: 'weather' } })).toThrow();
  });
});

describe('A plan that is asked of the host', () => {
  it('waits behind what a person waits for, and is what was found so far when that is enough', async () => {
    const { host, answers } = slowHost();
    const circuitId = file.circuits.find(({ number }) => number === 8)!.id;
    const schools = { oneWay: true, twoCables: true, feed: 'cheaper', apart: false, nearest: true };
    const plan = { circuitId, schools, prices: { '14/2': 0.4 }, steps: 20_000 };
    host.receive({ kind: 'ask', ask: 1, question: { about: 'plan', plan } });
    const told = () =>
      answers.flatMap((answer) => (answer.kind === 'progress' && answer.ask === 1 ? [answer] : []));
    while (!told().some(({ cost = 0, before = 0 }) => cost < before)) await turn();
    host.receive({
      kind: 'ask',
      ask: 2,
      question: { about: 'feed-ends', controlId: file.controls[1]!.id },
    });
    host.receive({ kind: 'enough', ask: 1 });
    const ended = () => answers.flatMap((answer) => (answer.kind === 'answer' ? [answer] : []));
    while (ended().length < 2) await turn();
    expect(ended().map(({ ask }) => ask)).toEqual([2, 1]);
    const last = told().at(-1)!;
    expect(last.done).toBeLessThan(last.of / 2);
    const { before, after } = ended()[1]!.value as AnswerTo['plan'];
    expect(after.total).toBeLessThan(before.total);
  });
});

/** A hand of which nothing comes before it is let. */
class SlowHand implements Hand {
  readonly commands: Command[] = [];
  answer!: (answer: Answer) => void;
  died!: (message: string) => void;
  send(command: Command): void {
    this.commands.push(command);
  }
  hear(answer: (answer: Answer) => void, died: (message: string) => void): void {
    this.answer = answer;
    this.died = died;
  }
  /** Numbers of the questions about the house, and the version that is known. */
  get asks(): number[] {
    return this.commands.flatMap((command) =>
      command.kind === 'ask' && command.question.about === 'house' ? command.ask : [],
    );
  }
  get kinds(): string {
    return this.commands.map(({ kind }) => kind).join(' ');
  }
}

describe('The workbench', () => {
  const look = { causes: [], stopsInBox: {}, stopsInRoom: {} };
  const open = () => {
    const hands: SlowHand[] = [];
    TestBed.configureTestingModule({
      providers: [{ provide: HIRE, useValue: () => (hands.push(new SlowHand()), hands.at(-1)) }],
    });
    const house = TestBed.inject(OpenHouse);
    const workbench = TestBed.inject(Workbench);
    house.open(demoHouse, 1, [], [], JSON.stringify({ file }));
    TestBed.tick();
    return { hands, house, workbench };
  };
  const change = (house: OpenHouse, body: ChangeBody): void => {
    const { applied } = house.tried(body)!;
    if (!applied.ok) throw new Error(applied.refusal.message);
    const id = crypto.randomUUID();
    house.made({ change: { id, version: 3, body }, actorId: id }, applied);
    TestBed.tick();
  };

  it('sends the house once, then what changes in it, and shows only what is found in the version that is shown', async () => {
    const { hands, house, workbench } = open();
    const [hand] = hands;
    change(house, CHANGES[0]!);
    expect(hand!.kinds).toBe('open ask diff cancel ask');
    const [first, second] = hand!.asks;
    hand!.answer({ kind: 'answer', ask: first!, version: 1, about: 'house', value: look });
    // One that was overtaken on its way.
    hand!.answer({ kind: 'answer', ask: second!, version: 1, about: 'house', value: look });
    await turn();
    expect(workbench.look()).toBeUndefined();
    change(house, CHANGES[1]!);
    hand!.answer({ kind: 'progress', ask: hand!.asks[2]!, done: 3, of: 9 });
    expect(workbench.progress()).toEqual(jasmine.objectContaining({ done: 3, of: 9 }));
    hand!.answer({ kind: 'answer', ask: hand!.asks[2]!, version: 3, about: 'house', value: look });
    await turn();
    expect([workbench.look(), workbench.progress()]).toEqual([look, undefined]);
    house.close();
    expect(workbench.look()).toBeUndefined();
  });

  it('takes back a question that is no longer asked, and says when the hand is gone', async () => {
    const { hands, house, workbench } = open();
    const stop = new AbortController();
    const question = { about: 'feed-ends', controlId: file.controls[0]!.id } as const;
    const asked = workbench.ask(question, stop.signal);
    stop.abort();
    await expectAsync(asked).toBeRejectedWithError(Stale);
    expect(hands[0]!.kinds).toBe('open ask ask cancel');
    const waiting = workbench.ask(question, new AbortController().signal);
    hands[0]!.died('out of memory');
    await expectAsync(waiting).toBeRejectedWithError('out of memory');
    expect(workbench.broken()).toBe('out of memory');
    // Asked for, or with the next change, another one is taken on.
    workbench.again();
    expect([workbench.broken(), hands.map(({ kinds }) => kinds).at(-1)]).toEqual([undefined, 'open ask']);
    // A question that failed is asked again of the same hand.
    hands[1]!.answer({ kind: 'failed', ask: hands[1]!.asks[0]!, message: 'bad' });
    await turn();
    expect(workbench.broken()).toBe('bad');
    workbench.again();
    expect(hands.at(-1)!.kinds).toBe('open ask ask');
    hands[1]!.died('out of memory');
    change(house, CHANGES[0]!);
    expect(hands.map(({ kinds }) => kinds).at(-1)).toBe('open diff ask');
  });
});
