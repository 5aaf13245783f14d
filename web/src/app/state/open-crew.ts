import { Injectable } from '@angular/core';
import type {
  CREW_LISTS,
  CrewApplied,
  CrewBook,
  CrewChangeBody,
  CrewHead,
  CrewList,
  HistoryOf,
} from '@mule-tally/core';
import { applyCrewChange, crewChangeWithWas } from '@mule-tally/core';
import { OpenDocument } from './open-document';

/** The crew book: open as long as the program is. */
@Injectable({ providedIn: 'root' })
export class OpenCrew extends OpenDocument<typeof CREW_LISTS, CrewHead, CrewChangeBody> {
  protected applied(crew: CrewBook, body: CrewChangeBody, history: HistoryOf<CrewList>): CrewApplied {
    return applyCrewChange(crew, body, history);
  }

  protected withWas(crew: CrewBook, body: CrewChangeBody): CrewChangeBody {
    return crewChangeWithWas(crew, body);
  }
}
