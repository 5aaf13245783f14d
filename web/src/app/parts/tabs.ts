import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { NgbNavModule } from '@ng-bootstrap/ng-bootstrap/nav';

import { Screen } from './screen';
import { TradePipe } from './trade';
import { Value } from './value';

export interface Tab {
  readonly id: string;
  readonly name: string;
}

/** Parts of a sheet, one of which is shown (as what stands in this element): each has an address of its own; arrow keys go from one to the next. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-tabs',
  imports: [NgbNavModule, RouterLink, TradePipe, Value],
  template: `
    @if (screen.isPhone() && tabs().length > 4) {
      <select
        class="form-select"
        [attr.aria-label]="label()"
        [mtValue]="shown()"
        (mtValueChange)="go($event)"
      >
        @for (tab of tabs(); track tab.id) {
          <option [value]="tab.id">{{ tab.name | trade }}</option>
        }
      </select>
    } @else {
      <div ngbNav class="tabs" keyboard="changeWithArrows" [activeId]="shown()" [attr.aria-label]="label()">
        @for (tab of tabs(); track tab.id) {
          <ng-container [ngbNavItem]="tab.id" [domId]="param() + '-' + tab.id">
            <a
              ngbNavLink
              class="btn btn-line"
              [routerLink]="[]"
              [queryParams]="at(tab.id)"
              queryParamsHandling="merge"
              >{{ tab.name | trade }}</a
            >
          </ng-container>
        }
      </div>
    }
    <div
      role="tabpanel"
      [id]="param() + '-' + shown() + '-panel'"
      [attr.aria-labelledby]="param() + '-' + shown()"
    >
      <ng-content />
    </div>
  `,
})
export class Tabs {
  readonly tabs = input.required<readonly Tab[]>();
  readonly shown = input.required<string | undefined>();
  /** The part of the address that says which one is shown. */
  readonly param = input.required<string>();
  readonly label = input.required<string>();

  protected readonly screen = inject(Screen);
  private readonly router = inject(Router);

  /** On a phone many parts are picked from a list. */
  protected go(id: string | undefined): void {
    if (id) void this.router.navigate([], { queryParams: this.at(id), queryParamsHandling: 'merge' });
  }

  protected at(id: string): Record<string, string> {
    return { [this.param()]: id };
  }
}
