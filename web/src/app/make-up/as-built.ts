import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import type { Box, Colour, ConductorRef, Joint, Landing } from '@mule-tally/core';
import {
  conductorsOf,
  deviceType,
  devicesIn,
  farName,
  landingKey,
  runsAt,
  sameTerminal,
  setting,
} from '@mule-tally/core';
import {
  boxTerminals,
  jointByHand,
  landingText,
  makeUpBox,
  possibleTerminals,
  terminalName,
  withJoint,
  canBeMarked,
  coloursOf,
} from '@mule-tally/core/work';
import { Value } from '../parts/value';
import { TermPipe } from '../parts/term';
import { Wire } from '../parts/wire';
import { readShortField } from '../parts/short-field';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { kept } from '../sync/draft-store';

type Screw = Landing;
/** A screw to be touched, with what it is called. */
type ShownScrew = Screw & { readonly id: string; readonly name: string };

/** A joint that is being picked. */
interface JointDraft {
  /** Keys of the wires and the screws, in the order of picking. */
  readonly picks: readonly string[];
  readonly marked: boolean;
  readonly uncut: boolean;
  /** Length of the loop that an uncut conductor leaves, as it is typed. */
  readonly loop: string;
  readonly connector: string;
}

const NOTHING_PICKED: JointDraft = { picks: [], marked: false, uncut: false, loop: '', connector: '' };

const screwKey = landingKey;
const wireKey = (runId: string, key: string): string => `${runId} ${key}`;

/** Joints of a box recorded as they are found, where they were not made as derived: picked by touch, one joint at a time. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-as-built',
  imports: [ToldPipe, WordsPipe, Value, TermPipe, Wire],
  templateUrl: './as-built.html',
  styles: `
    .groups {
      display: flex;
      flex-wrap: wrap;
      gap: 0.4rem 1.2rem;
    }
    fieldset {
      min-width: 0;
    }
    legend {
      font-family: var(--figures);
      font-weight: 600;
      font-size: 1.05rem;
      margin-bottom: 0.2rem;
    }
    .actions-row {
      display: flex;
      flex-wrap: wrap;
      gap: 0.3rem;
    }
    .loop {
      width: 7rem;
    }
    .groups .btn.active {
      box-shadow: inset 0 0 0 3px var(--chalk);
    }
    .taken {
      border-style: dotted;
    }
    .check {
      display: inline-flex;
      align-items: center;
      gap: 0.4rem;
      min-height: 44px;
    }
    .check input {
      width: 1.3rem;
      height: 1.3rem;
    }
    .actions {
      margin: 0.7rem 0;
    }
    .recorded li {
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 0.6rem;
      border-bottom: 1px solid var(--rule);
      padding: 0.2rem 0;
    }
    .recorded {
      list-style: none;
      padding: 0;
      margin: 0;
    }
  `,
})
export class AsBuilt {
  private readonly derived = inject(Derived);
  protected readonly units = this.derived.units;
  protected readonly problem = signal<string | undefined>(undefined);
  private readonly desk = inject(Desk);
  readonly boxId = input.required<string>();

  protected readonly connectors = computed(() => this.derived.trade().connectors);
  private readonly entry = kept(() => `joint.${this.boxId()}`, NOTHING_PICKED);
  protected readonly draft = this.entry.value;
  /** Devices of which every terminal is shown, as if another kind had been put in. */
  private readonly widened = linkedSignal<string, ReadonlySet<string>>({
    source: this.boxId,
    computation: () => new Set(),
  });

  /** "white to R1, black to L2, leg of gang 2" */
  private members(ends: readonly ConductorRef[], landings: readonly Landing[]): string {
    return this.derived.words()?.say.members(this.boxId(), ends, landings) ?? '';
  }

  private readonly box = computed(() => this.derived.reader()?.get('boxes', this.boxId()));
  protected readonly recorded = computed(() => {
    const reader = this.derived.reader();
    return (this.box()?.asBuilt ?? []).map((joint) => ({
      joint,
      words: reader
        ? this.members(
            joint.ends.map(({ runId, conductor }) => ({ runId, key: conductor })),
            joint.terminals ?? [],
          )
        : '',
      marked: joint.ends.some((end) => end.marked),
      connector: joint.connector && this.derived.words()?.say.connector(joint.connector),
    }));
  });
  private readonly taken = computed(() => {
    const taken = new Set<string>();
    for (const { ends, terminals } of this.box()?.asBuilt ?? []) {
      for (const { runId, conductor } of ends) taken.add(wireKey(runId, conductor));
      for (const to of terminals ?? []) if (to.deviceId) taken.add(screwKey(to));
    }
    return taken;
  });
  protected readonly cables = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return runsAt(reader, this.boxId())
      .filter(({ kind }) => kind !== 'low-voltage')
      .map((run) => ({
        runId: run.id,
        toward: farName(reader, run, this.boxId()),
        wires: conductorsOf(reader, run).map((end) => ({ ...end, id: wireKey(run.id, end.key) })),
      }));
  });
  protected readonly devices = computed(() => {
    const reader = this.derived.reader();
    const box = this.box();
    const say = this.derived.words()?.say;
    if (!reader || !box || !say) return [];
    const sheets = new Map(
      makeUpBox(reader, box.id).devices.map(({ deviceId, terminals }) => [
        deviceId,
        terminals.map(({ terminal }) => terminal),
      ]),
    );
    const groups = devicesIn(reader, box.id).map((device) => {
      const { mount } = deviceType(reader, device);
      const name = say.deviceType(device.catalogueId);
      const asked = sheets.get(device.id) ?? [];
      const every = possibleTerminals(reader, device).map((terminal): ShownScrew => ({
        deviceId: device.id,
        terminal,
        name: terminalName(reader, say, device, terminal),
        id: screwKey({ deviceId: device.id, terminal }),
      }));
      // What a switch of this kind has, what is recorded or picked; the rest is for another kind that was put in.
      const screws =
        asked.length < 2 || this.widened().has(device.id)
          ? every
          : every.filter(
              ({ id, terminal }) =>
                terminal.kind === 'ground' ||
                asked.some((own) => sameTerminal(own, terminal)) ||
                this.isTaken(id) ||
                this.isPicked(id),
            );
      return {
        id: device.id,
        name: mount === 'yoke' ? $localize`Gang ${device.gang}\: ${name}` : name,
        screws,
        more: screws.length < every.length,
      };
    });
    const own = boxTerminals(reader, box).map((landing): ShownScrew => ({
      ...landing,
      name: landingText(reader, landing, say.tongue),
      id: screwKey(landing),
    }));
    return [...groups, { id: box.id, name: $localize`The box`, screws: own, more: false }];
  });
  protected readonly pickedWires = computed(() =>
    this.cables().flatMap(({ wires }) => wires.filter(({ id }) => this.isPicked(id))),
  );
  protected readonly pickedScrews = computed(() =>
    this.devices().flatMap(({ screws }) => screws.filter(({ id }) => this.isPicked(id))),
  );
  /** Of which colours it is recorded whether they are marked. */
  private mayBeMarked({ runId, colour }: { readonly runId: string; readonly colour: Colour }): boolean {
    const reader = this.derived.reader();
    return !!reader && canBeMarked(coloursOf(reader, reader.get('runs', runId)), colour);
  }
  protected readonly markedText = computed(() =>
    this.derived.trade().colours.marked.line.includes('WH')
      ? $localize`the white is marked all round`
      : $localize`its sleeve is on`,
  );
  protected readonly hasWhite = computed(() => this.pickedWires().some((wire) => this.mayBeMarked(wire)));
  protected readonly couldBeUncut = computed(() => {
    const [one, other, ...more] = this.pickedWires();
    return !!other && !more.length && !this.pickedScrews().length && one!.colour === other.colour;
  });
  protected readonly count = computed(() => this.pickedWires().length + this.pickedScrews().length);
  /** A wire, capped or joined, or a link between terminals; a terminal alone is no joint. */
  protected readonly isJoint = computed(() => this.pickedWires().length > 0 || this.count() > 1);
  protected readonly words = computed(() => {
    const reader = this.derived.reader();
    return reader ? this.members(this.pickedWires(), this.pickedScrews()) : '';
  });

  /** What recording it makes of it. */
  protected readonly act = computed(() => {
    const [wires, screws] = [this.pickedWires().length, this.pickedScrews().length];
    if (wires === 1 && !screws) return $localize`Cap it`;
    if (wires === 1 && screws === 1) return $localize`Land it`;
    return wires ? $localize`Splice these` : $localize`Link these`;
  });

  protected colourOf(colour: Colour): string {
    return this.derived.phrases().colours[colour];
  }

  protected isPicked(id: string): boolean {
    return this.draft().picks.includes(id);
  }

  protected isTaken(id: string): boolean {
    return this.taken().has(id);
  }

  protected widen(deviceId: string): void {
    this.widened.update((now) => new Set(now).add(deviceId));
  }

  /** Picks a wire or a screw, or lets go of it. */
  protected pick(id: string): void {
    const { picks } = this.draft();
    this.enter({ picks: picks.includes(id) ? picks.filter((one) => one !== id) : [...picks, id] });
  }

  /** A conductor that was touched in the picture. */
  pickWire({ runId, key }: { runId: string; key: string }): void {
    this.pick(wireKey(runId, key));
  }

  /** Enters a part of the joint that is being picked. */
  protected enter(part: Partial<JointDraft>): void {
    this.entry.set({ ...this.draft(), ...part });
  }

  protected clear(): void {
    this.entry.set(NOTHING_PICKED);
  }

  protected record(): void {
    const box = this.box();
    if (!box || !this.isJoint()) return;
    const { marked, loop, connector } = this.draft();
    const uncut = this.draft().uncut && this.couldBeUncut();
    const read = uncut && loop.trim() ? readShortField(loop, this.units()) : undefined;
    if (read && 'problem' in read) return this.problem.set(read.problem);
    const more = uncut
      ? { uncut, ...(read?.inches && { loopIn: read.inches }) }
      : connector && this.count() > 1
        ? { connector }
        : {};
    const joint = jointByHand(
      this.pickedWires().map(({ runId, key, colour }) => ({
        runId,
        conductor: key,
        ...(marked && this.mayBeMarked({ runId, colour }) && { marked: true }),
      })),
      this.pickedScrews().map(({ deviceId, terminal }) => ({ ...(deviceId && { deviceId }), terminal })),
      more,
    );
    const title = $localize`As it was made: ${this.words()}, ${box.tag}`;
    if (this.write(box, withJoint(box.asBuilt, joint), title)) this.clear();
  }

  protected takeBack(joint: Joint, words: string): void {
    const box = this.box();
    if (!box) return;
    this.write(
      box,
      (box.asBuilt ?? []).filter((other) => other !== joint),
      $localize`Opened again: ${words}, ${box.tag}`,
    );
  }

  /** Whether it was written; else it is said why not, and what was picked stays. */
  private write(box: Box, asBuilt: Joint[], title: string): boolean {
    const refusal = this.desk.make({
      kind: 'group',
      title: title.slice(0, 200),
      changes: [setting('boxes', box.id, { asBuilt: asBuilt.length ? asBuilt : null })],
    });
    this.problem.set(refusal?.message);
    return !refusal;
  }
}
