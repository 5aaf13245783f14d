import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { TradePipe } from './trade';
import type { PlanPicture } from './plan-picture';

/** Walls, doors, what is built in and names of a plan: what is drawn the same wherever a plan is shown. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  // Inside of an svg only its own elements are drawn.
  // eslint-disable-next-line @angular-eslint/component-selector
  selector: 'g[mtPlanLines]',
  imports: [TradePipe],
  template: `
    @for (wall of picture().walls; track $index) {
      <svg:line
        class="wall"
        [attr.x1]="wall.x1"
        [attr.y1]="wall.y1"
        [attr.x2]="wall.x2"
        [attr.y2]="wall.y2"
        [attr.stroke-width]="wall.depth"
      />
    }
    @for (wall of picture().walls; track $index) {
      <svg:line
        class="between"
        [attr.x1]="wall.x1"
        [attr.y1]="wall.y1"
        [attr.x2]="wall.x2"
        [attr.y2]="wall.y2"
        [attr.stroke-width]="wall.depth - 1.6"
      />
    }
    @for (band of picture().bands; track band.id) {
      <svg:polygon class="band" [class.high]="band.isHigh" [attr.points]="band.points" />
      <svg:text class="size mid" [attr.x]="band.x" [attr.y]="band.y + 4">{{ band.name | trade }}</svg:text>
    }
    @for (opening of picture().openings; track opening.id) {
      <svg:line
        class="opening"
        [class.window]="opening.isWindow"
        [class.off]="opening.isOff"
        [attr.x1]="opening.x1"
        [attr.y1]="opening.y1"
        [attr.x2]="opening.x2"
        [attr.y2]="opening.y2"
      />
      @if (opening.leaf; as leaf) {
        <svg:line
          class="leaf"
          [attr.x1]="leaf.x1"
          [attr.y1]="leaf.y1"
          [attr.x2]="leaf.x2"
          [attr.y2]="leaf.y2"
        />
      }
    }
    @for (far of picture().far; track $index) {
      <svg:line class="far" [attr.x1]="far.x1" [attr.y1]="far.y1" [attr.x2]="far.x2" [attr.y2]="far.y2" />
    }
    @for (room of picture().rooms; track room.id) {
      <svg:text class="name" [attr.x]="room.at.x" [attr.y]="room.at.y">{{ room.name }}</svg:text>
      <svg:text class="size" [attr.x]="room.at.x" [attr.y]="room.at.y + 13">{{ room.size }}</svg:text>
    }
  `,
  styleUrl: './plan-lines.scss',
})
export class PlanLines {
  readonly picture = input.required<PlanPicture>();
}
