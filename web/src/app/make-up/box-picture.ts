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
import type { SaidMakeUp } from '@mule-tally/core';
import { OTHER_SHEATH, SHEATHS, WIRE_LOOKS } from '../parts/wire-colours';
import type { DeviceShape, WireShape } from './box-drawing';
import { drawBox } from './box-drawing';

/**
 * The box from the inside, seen from the room: cables at their slots, conductors in their colours with code and dashes,
 * joints in the order of the make-up, devices by gang. Everything is drawn with plain attributes, so that what is exported
 * looks the same without this app.
 */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-box-picture',
  templateUrl: './box-picture.html',
  styles: `
    :host {
      display: block;
      overflow-x: auto;
    }
    svg {
      display: block;
      max-width: 100%;
      min-width: calc(var(--drawn) * 0.68px);
      height: auto;
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
    @media (max-width: 700px) {
      svg {
        min-width: calc(var(--drawn) * 0.9px);
      }
    }
    @media print {
      svg {
        min-width: 0;
      }
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
  readonly touched = output<{ runId: string; key: string }>();
  readonly picked = output<number>();

  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  protected readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly drawing = computed(() => drawBox(this.made()));
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
    return `${WIRE_LOOKS[wire.colour].name} to ${end?.toward ?? 'a device'}: ${step.title}`;
  }

  protected touch(wire: WireShape): void {
    if (wire.runId && wire.key) this.touched.emit({ runId: wire.runId, key: wire.key });
  }

  protected nameOf({ sheet }: DeviceShape): string {
    return `${sheet.onYoke ? `${sheet.gang}: ` : ''}${sheet.name}`;
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
    [copy, ...copy.querySelectorAll('*')].forEach((part) => {
      for (const name of [...part.attributes].map((attribute) => attribute.name))
        if (/^_ng|^tabindex$|^role$|^class$/.test(name)) part.removeAttribute(name);
    });
    return `<?xml version="1.0" encoding="UTF-8"?>\n${copy.outerHTML}\n`;
  }
}
