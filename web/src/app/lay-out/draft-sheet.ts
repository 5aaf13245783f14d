import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { RoomKit } from '@mule-tally/core';
import type { DraftLook } from '@mule-tally/core/furnish';
import { builtInBox } from '@mule-tally/core';
import { inWalkingOrder, kitFor, takeBackDraft } from '@mule-tally/core/furnish';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { OpenCrew } from '../state/open-crew';
import { OpenHouse } from '../state/open-house';
import { kept } from '../sync/draft-store';
import { answerTo } from '../work/answer';
import { Workbench } from '../work/workbench';
import { lookAtText } from './look-at-text';

/** What a person has chosen for the draft and not used yet. */
interface Choices {
  readonly rules: Readonly<Record<string, string>>;
  readonly leaveOut: readonly string[];
  readonly include: readonly string[];
}
const NO_CHOICES: Choices = { rules: {}, leaveOut: [], include: [] };

/** A whole house from its rooms, before it is used: how many of what, what is asked first, room by room, what to look at. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-draft-sheet',
  imports: [RouterLink, ToldPipe, Value, WordsPipe],
  templateUrl: './draft-sheet.html',
  styleUrl: './draft-sheet.scss',
})
export class DraftSheet {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly crew = inject(OpenCrew);
  private readonly house = inject(OpenHouse).view;
  private readonly broken = inject(Workbench).broken;

  private readonly choices = kept<Choices>(() => `draft.${this.derived.reader()?.houseId ?? ''}`, NO_CHOICES);
  private readonly kits = computed(() => this.crew.records('roomKits'));
  private readonly answer = answerTo<'draft'>(() => {
    const { rules, leaveOut, include } = this.choices.value();
    return {
      about: 'draft',
      kits: [...this.kits()],
      rules: { ...rules },
      leaveOut: [...leaveOut],
      include: [...include],
    };
  });
  protected readonly look = this.answer.value;
  protected readonly isNow = this.answer.isNow;
  protected readonly failed = computed(() => this.broken() !== undefined && !this.look());
  protected readonly said = signal<string | undefined>(undefined);

  /** The big choices, as they stand in the house or have been made here. */
  protected readonly asked = computed(() => {
    const rules = this.derived.reader()?.rules();
    if (!rules) return [];
    const chosen = this.choices.value().rules;
    return rules.jurisdiction.askedFirst.flatMap((key) => {
      const standing = rules.standing.find(({ rule }) => rule.key === key);
      if (!standing) return [];
      const { rule, value } = standing;
      return [{ key, title: rule.title, options: rule.options ?? [], value: chosen[key] ?? String(value) }];
    });
  });

  protected readonly rooms = computed(() => {
    const reader = this.derived.reader();
    const draft = this.look();
    if (!reader || !draft) return [];
    const byRoom = new Map(draft.rooms.map((room) => [room.roomId, room]));
    return inWalkingOrder(reader).map((room) => {
      const drafted = byRoom.get(room.id);
      const kit: RoomKit = kitFor(reader, this.kits(), room);
      const what = drafted?.items.map(({ item, count }) => {
        const name =
          item === 'switch'
            ? $localize`switch box`
            : this.derived.told(kit.items.find(({ key }) => key === item)?.name ?? item).toLowerCase();
        return count === 1 ? name : `${name} × ${count}`;
      });
      return { room, drafted, what: what?.join(', ') ?? $localize`left out` };
    });
  });

  protected boxes({ count }: DraftLook): number {
    return count.boxes.reduce((sum, line) => sum + line.count, 0);
  }
  protected feet({ count }: DraftLook): string {
    const feet = count.cables.reduce((sum, line) => sum + line.feet, 0);
    return this.derived.units().long(Math.round(feet) * 12);
  }
  protected does({ added, changed, removed, isAgain }: DraftLook): string {
    return isAgain
      ? $localize`Drafting again adds ${added}, changes ${changed} and takes out ${removed}.`
      : $localize`Nothing is certain until you say so: use it, then change what is wrong. It can be undone as one.`;
  }
  protected looks({ lookAt, found }: DraftLook): { text: string; of?: string }[] {
    const reader = this.derived.reader();
    if (!reader) return [];
    const own = found.stop + found.fix;
    return [
      ...lookAt.map((look) => lookAtText(reader, look, (word) => this.derived.glossary()[word])),
      ...(own
        ? [{ text: $localize`Check would find ${found.stop} to stop for and ${found.fix} to fix.` }]
        : []),
    ];
  }

  protected choose(key: string, value: string): void {
    const { rules, ...rest } = this.choices.value();
    this.choices.set({ ...rest, rules: { ...rules, [key]: value } });
  }

  /** Leaves a room out, or drafts it after all: also one in which somebody has set boxes. */
  protected toggle(roomId: string, isIn: boolean): void {
    const { rules, leaveOut, include } = this.choices.value();
    const others = (ids: readonly string[]): string[] => ids.filter((id) => id !== roomId);
    this.choices.set({
      rules,
      leaveOut: isIn ? [...others(leaveOut), roomId] : others(leaveOut),
      include: isIn ? others(include) : [...others(include), roomId],
    });
  }

  protected use(): void {
    const draft = this.look();
    if (!draft) return;
    const refusal = this.desk.make({
      kind: 'group',
      title: draft.isAgain ? $localize`Drafted the house again` : $localize`Drafted the house`,
      changes: [...draft.changes],
    });
    this.said.set(
      refusal?.message ?? $localize`It stands. Change what is wrong; drafting again leaves it so.`,
    );
    if (!refusal) this.choices.set({ ...this.choices.value(), rules: {} });
  }

  protected takeBack(): void {
    const house = this.house();
    const back = house && takeBackDraft(house);
    if (!back) return;
    const refusal = this.desk.make({
      kind: 'group',
      title: $localize`Took back the draft`,
      changes: [...back.changes],
    });
    this.said.set(
      refusal?.message ??
        (back.stays
          ? $localize`Taken back. ${back.stays} that somebody changed or worked on stay.`
          : $localize`Taken back.`),
    );
  }

  protected again(): void {
    this.answer.reload();
  }

  /** Boxes, devices and cable as lines of text. */
  protected listText({ count }: DraftLook): string {
    const say = this.derived.words()?.say;
    if (!say) return '';
    const line = (many: number | string, what: string): string => `${String(many).padStart(6)}  ${what}`;
    return [
      ...count.boxes
        .filter(({ catalogueId }) => builtInBox(catalogueId)?.kind !== 'buried-point')
        .map((one) => line(one.count, say.boxType(one.catalogueId))),
      '',
      ...count.devices.map((one) => line(one.count, say.deviceType(one.catalogueId))),
      '',
      ...count.cables.map((one) =>
        line(
          `${Math.ceil(say.units.inTyped(one.feet * 12))} ${say.units.typed}`,
          `${one.cable ?? this.derived.told('low voltage')} (${one.runs})`,
        ),
      ),
    ].join('\n');
  }

  protected async copy(): Promise<void> {
    const draft = this.look();
    if (!draft) return;
    try {
      await navigator.clipboard.writeText(this.listText(draft));
      this.said.set($localize`The list is copied.`);
    } catch {
      this.said.set($localize`This browser does not copy: mark the list and copy it by hand.`);
    }
  }
}
