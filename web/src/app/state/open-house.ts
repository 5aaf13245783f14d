import { Injectable } from '@angular/core';
import type { Applied, ChangeBody, History, House, HouseHead, TABLES } from '@mule-tally/core';
import { applyChange, withWas } from '@mule-tally/core';
import { OpenDocument } from './open-document';

/** The house that is open. */
@Injectable({ providedIn: 'root' })
export class OpenHouse extends OpenDocument<typeof TABLES, HouseHead, ChangeBody> {
  protected applied(house: House, body: ChangeBody, history: History): Applied {
    return applyChange(house, body, history);
  }

  protected withWas(house: House, body: ChangeBody): ChangeBody {
    return withWas(house, body);
  }
}
