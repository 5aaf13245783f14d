/**
 * Which crew's work this device keeps where. The first crew that it was used for has the database of old; another one that
 * somebody signs in to has its own, so that nobody sees, or sends, what is of another crew.
 */
const FIRST = 'mule-tally.first-crew';
const NOW = 'mule-tally.crew';

/** The device works for this crew from the next start of the page on. */
export function worksFor(crewId: string): void {
  if (localStorage.getItem(FIRST) === null) localStorage.setItem(FIRST, crewId);
  localStorage.setItem(NOW, crewId);
}

/** Name of the database of the crew that this device works for. */
export function databaseName(): string {
  const crew = localStorage.getItem(NOW);
  return crew === null || crew === localStorage.getItem(FIRST) ? 'mule-tally' : `mule-tally-${crew}`;
}
