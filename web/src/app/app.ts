import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-app',
  imports: [RouterOutlet],
  template: '<router-outlet />',
})
export class App {}
