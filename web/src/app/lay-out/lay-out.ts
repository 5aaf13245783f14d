import { OnlyFor } from '../parts/only-for';
import { WordsPipe } from '../parts/words';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Tabs } from '../parts/tabs';
import { Derived } from '../state/derived';
import { Rights } from '../state/rights';
import { AsksSheet } from './asks-sheet';
import { CircuitsEditor } from './circuits-editor';
import { ControlsEditor } from './controls-editor';
import { DraftSheet } from './draft-sheet';
import { PanelSheet } from './panel-sheet';
import { PlanSheet } from './plan-sheet';
import { RoomBoxes } from './room-boxes';
import { RoomsEditor } from './rooms-editor';
import { DrillSheetPage } from './drill-sheet';
import { ExchangeSheet } from './exchange-sheet';
import { SetSheet } from './set-sheet';

/** What is where and what switches what: boxes and devices of a room, controls, circuits, rooms. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-lay-out',
  imports: [
    OnlyFor,
    WordsPipe,
    Tabs,
    RoomBoxes,
    ControlsEditor,
    CircuitsEditor,
    RoomsEditor,
    DraftSheet,
    PanelSheet,
    PlanSheet,
    DrillSheetPage,
    SetSheet,
    AsksSheet,
    ExchangeSheet,
  ],
  template: `
    <h1>
      {{ ['boxes', 'controls', 'set', 'drill'].includes(shown()!) ? roomName() : ('Whole house' | words) }}
    </h1>
    @if (!rights.isLead() && !['set', 'drill', 'asks', 'exchange'].includes(shown()!)) {
      <p i18n class="strip note">
        <strong>To look at.</strong> Only a lead changes what the house is to become.
      </p>
    }
    <mt-tabs [tabs]="tabs" [shown]="shown()" param="of" i18n-label label="Parts of the lay-out">
      @switch (shown()) {
        @case ('boxes') {
          <mt-room-boxes [roomId]="room()" [open]="box()" />
        }
        @case ('controls') {
          <fieldset mtOnlyFor="lead"><mt-controls-editor [roomId]="room()" /></fieldset>
        }
        @case ('circuits') {
          <fieldset mtOnlyFor="lead"><mt-circuits-editor /></fieldset>
        }
        @case ('rooms') {
          <fieldset mtOnlyFor="lead"><mt-rooms-editor /></fieldset>
        }
        @case ('draft') {
          @defer (on immediate) {
            <fieldset mtOnlyFor="lead"><mt-draft-sheet /></fieldset>
          }
        }
        @case ('plan') {
          @defer (on immediate) {
            <mt-plan-sheet [room]="room()" [box]="box()" [run]="run()" />
          }
        }
        @case ('set') {
          @defer (on immediate) {
            <mt-set-sheet [room]="room()" />
          }
        }
        @case ('drill') {
          @defer (on immediate) {
            <mt-drill-sheet [room]="room()" />
          }
        }
        @case ('panel') {
          @defer (on immediate) {
            <mt-panel-sheet />
          }
        }
        @case ('asks') {
          @defer (on immediate) {
            <mt-asks-sheet />
          }
        }
        @case ('exchange') {
          @defer (on immediate) {
            <mt-exchange-sheet />
          }
        }
      }
    </mt-tabs>
  `,
})
export class LayOut {
  private readonly derived = inject(Derived);
  protected readonly rights = inject(Rights);
  readonly room = input<string>();
  readonly box = input<string>();
  readonly run = input<string>();
  readonly of = input<string>();
  protected readonly tabs = [
    { id: 'rooms', name: $localize`Rooms` },
    { id: 'draft', name: $localize`Draft` },
    { id: 'plan', name: $localize`Plan` },
    { id: 'set', name: $localize`Set` },
    { id: 'drill', name: $localize`Drill` },
    { id: 'boxes', name: $localize`Boxes and devices` },
    { id: 'controls', name: $localize`What switches what` },
    { id: 'circuits', name: $localize`Circuits` },
    { id: 'panel', name: $localize`Panel` },
    { id: 'asks', name: $localize`To ask` },
    { id: 'exchange', name: $localize`Out and in` },
  ];
  protected readonly shown = computed(() =>
    this.tabs.some(({ id }) => id === this.of()) ? this.of() : 'boxes',
  );
  protected readonly roomName = computed(
    () => this.derived.reader()?.get('rooms', this.room() ?? '')?.name ?? '',
  );
}
