import { TermPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import type { SaidCable, SaidMakeUp } from '@mule-tally/core/work';
import { Derived } from '../state/derived';
import { OTHER_SHEATH, SHEATHS, WIRE_LOOKS } from '../parts/wire-colours';
import type { DeviceShape, RowShape, ScrewShape, WireShape } from './box-drawing';
import { NARROW, WIDE, drawBox } from './box-drawing';

/** A line of the legend of an exported picture, in its units. */
const LEGEND = 24;

/**
 * The box from the inside, seen from the room: cables at their slots, conductors in their colours with code and dashes,
 * joints in the order of the make-up, devices by gang. Everything is drawn with plain attributes, so that what is exported
 * looks the same without this app.
 */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-box-picture',
  imports: [TermPipe, WordsPipe],
  templateUrl: './box-picture.html',
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 100%;
      max-width: calc(var(--drawn) * 1px);
      max-height: var(--picture-height, none);
      height: auto;
      margin: 0 auto;
      border: 1.5px solid var(--ink);
      background: #fcf8ee;
    }
    .wire {
      cursor: pointer;
    }
    .wire:focus-visible {
      outline: none;
    }
    .wire:focus-visible .hit {
      stroke: #1b4f8a;
      stroke-opacity: 0.3;
    }
  `,
})
export class BoxPicture {
  readonly made = input.required<SaidMakeUp>();
  readonly title = input('');
  /** The step that is being made; all else is dimmed. */
  readonly step = input<number | undefined>();
  /** `<run> <conductor>` of the conductors of a way that is followed. */
  readonly way = input<ReadonlySet<string>>(new Set());
  /** Held in one hand: everything close together. */
  readonly narrow = input(false);
  readonly touched = output<{ runId: string; key: string }>();
  readonly picked = output<number>();

  private readonly derived = inject(Derived);
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  protected readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly drawing = computed(() => drawBox(this.made(), this.narrow() ? NARROW : WIDE));
  protected readonly looks = WIRE_LOOKS;

  protected sheath(gauge: string): string {
    return SHEATHS[gauge] ?? OTHER_SHEATH;
  }

  protected opacity(step: number): number {
    const now = this.step();
    return now === undefined || now === step ? 1 : 0.16;
  }

  protected isOnWay(wire: WireShape): boolean {
    return wire.runId !== undefined && this.way().has(wire.id);
  }

  protected label(wire: WireShape): string {
    const step = this.made().steps[wire.step]!;
    const end = step.conductors.find(({ runId, colour }) => runId === wire.runId && colour === wire.colour);
    const phrases = this.derived.phrases();
    return `${phrases.wireTo(phrases.colours[wire.colour], end?.toward ?? phrases.aDevice)}: ${step.title}`;
  }

  protected touch(wire: WireShape): void {
    if (wire.runId && wire.key) this.touched.emit({ runId: wire.runId, key: wire.key });
  }

  protected nameOf({ sheet, width }: DeviceShape): string {
    const whole = `${sheet.onYoke ? `${sheet.gang}: ` : ''}${sheet.name}`;
    return this.narrow() ? this.short(whole, Math.floor((width - 8) / 6.6)) : whole;
  }

  /** So that the words of a slot stay within the sheath. */
  protected slotSize(cable: SaidCable, width: number): number {
    return Math.min(17, (width - 8) / (0.42 * this.slotOf(cable).length));
  }

  protected slotOf({ slot, suggestedSlot }: SaidCable): string {
    const { phrases } = this.derived;
    if (slot) return phrases().slot(slot);
    if (suggestedSlot) return `(${phrases().slot(suggestedSlot)})`;
    return this.narrow() ? '–' : $localize`any knockout`;
  }

  /** A plain cone, or a plain block with a lever over each wire. */
  protected connectorPath({ at, y, connector }: RowShape): string {
    return connector?.id.startsWith('lever')
      ? `M${at - 12} ${y - 8} h24 v17 h-24 Z M${at - 8} ${y - 8} v-6 h6 v6 M${at + 2} ${y - 8} v-6 h6 v6`
      : `M${at - 9} ${y + 9} L${at - 4} ${y - 12} h8 L${at + 9} ${y + 9} Z`;
  }

  /** The first word of what it is called says which size it is. */
  protected shortConnector({ connector }: RowShape): string {
    return this.short(connector?.name.replace(/ (twist-on|lever connector).*$/, '') ?? '', 14);
  }

  protected screwText({ x, y }: ScrewShape): string {
    return this.narrow() ? `translate(${x - 5} ${y + 14}) rotate(90)` : `translate(${x} ${y + 25})`;
  }

  /** So that the name of a device stays within it: a bold letter is about 0.39 of its size wide. */
  protected titleSize(device: DeviceShape): number {
    return Math.min(19, (device.width - 12) / (0.39 * this.nameOf(device).length));
  }

  protected short(text: string, length: number): string {
    return text.length > length ? `${text.slice(0, length - 1)}…` : text;
  }

  /** The picture as a file that any program for SVG opens. */
  svgText(): string {
    const copy = this.svg().nativeElement.cloneNode(true) as SVGSVGElement;
    copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
    copy.querySelectorAll('.hit').forEach((hit) => hit.remove());
    // On its own it has no steps beside it: they stand beneath.
    const { width, height, rows } = this.drawing();
    copy.setAttribute('viewBox', `0 0 ${width} ${height + rows.length * LEGEND + 12}`);
    copy.setAttribute('height', String(height + rows.length * LEGEND + 12));
    for (const { step, label } of rows) {
      const line = document.createElementNS('http://www.w3.org/2000/svg', 'text');
      line.setAttribute('x', '18');
      line.setAttribute('y', String(height + (step + 1) * LEGEND));
      line.setAttribute('font-size', '18');
      line.setAttribute('fill', '#2a2826');
      line.textContent = `${step + 1}. ${label}`;
      copy.append(line);
    }
    [copy, ...copy.querySelectorAll('*')].forEach((part) => {
      for (const name of [...part.attributes].map((attribute) => attribute.name))
        if (/^_ng|^tabindex$|^role$|^class$/.test(name)) part.removeAttribute(name);
    });
    return `<?xml version="1.0" encoding="UTF-8"?>\n${copy.outerHTML}\n`;
  }
}
