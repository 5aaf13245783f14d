import { clearTranslations } from '@angular/localize';
import { speak } from './language';

describe('The language of the person', () => {
  const said = (): string => $localize`:@@undo:Undo`;
  afterEach(() => {
    clearTranslations();
    document.documentElement.lang = 'en';
  });

  beforeEach(() => (document.documentElement.lang = 'en'));

  it('is loaded before anything is drawn; where there is none the words stay English', async () => {
    await speak('xx', { eo: () => Promise.resolve({ undo: 'Malfari' }) });
    expect([said(), document.documentElement.lang]).toEqual(['Undo', 'en']);
    await speak('eo', { eo: () => Promise.resolve({ undo: 'Malfari' }) });
    expect([said(), document.documentElement.lang]).toEqual(['Malfari', 'eo']);
    await speak('constructor');
    expect(said()).toBe('Malfari');
  });
});
