import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { SHORTCUTS } from '../parts/shortcuts';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-shortcut-sheet',
  template: `
    <div class="modal-header">
      <h2 i18n class="modal-title" id="keys">Keys</h2>
      <button i18n type="button" class="btn btn-line" (click)="modal.close()">Close</button>
    </div>
    <div class="modal-body" tabindex="0">
      <table class="ledger">
        <tbody>
          @for (shortcut of shortcuts; track shortcut.keys) {
            <tr>
              <th scope="row">
                <kbd>{{ shortcut.keys }}</kbd>
              </th>
              <td>{{ shortcut.says }}</td>
            </tr>
          }
        </tbody>
      </table>
      <p i18n class="soft">
        Keys work when no field is being typed in. Tab and Shift + Tab walk the sheet, Enter presses, Esc
        closes.
      </p>
    </div>
  `,
})
export class ShortcutSheet {
  protected readonly modal = inject(NgbActiveModal);
  protected readonly shortcuts = SHORTCUTS;
}
