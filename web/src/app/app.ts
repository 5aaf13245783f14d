import { Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';

@Component({ selector: 'mt-app', imports: [RouterOutlet], template: '<router-outlet />' })
export class App {}
