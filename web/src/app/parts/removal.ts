import { Injectable, inject } from '@angular/core';
import type { TableName } from '@mule-tally/core';
import { removing } from '@mule-tally/core';
import { Desk } from '../state/desk';
import { Confirm } from './confirm';

/** How a removal ended: it is gone, it was kept, or a sentence why it cannot go. */
export type Removed =
  { readonly kind: 'gone' | 'kept' } | { readonly kind: 'refused'; readonly message: string };

/** Takes a record out, and asks first where others hang on it. */
@Injectable({ providedIn: 'root' })
export class Removal {
  private readonly desk = inject(Desk);
  private readonly confirm = inject(Confirm);

  /** `yes` is what the button says that removes it with everything. */
  async of(table: TableName, id: string, yes: string): Promise<Removed> {
    const inTheWay = this.desk.refusalOf(removing(table, id));
    const isUsed = inTheWay?.code === 'change.still-used';
    if (isUsed && !(await this.confirm.ask({ message: inTheWay.message, yes }))) return { kind: 'kept' };
    const refusal = this.desk.make(removing(table, id, isUsed));
    return refusal ? { kind: 'refused', message: refusal.message } : { kind: 'gone' };
  }
}
