import { ENGLISH } from '@mule-tally/core/work';
import type { Spoken } from './messages';
import { speak } from './language';
import { wordWith, worded } from './messages';

describe('The language of the person', () => {
  const count = 3;
  const said = (): string => $localize`Undo ${count} of ${4}`;
  const esperanto: Spoken = {
    trade: { ...ENGLISH, code: 'eo' },
    messages: {
      'Undo {} of {1}': '{1} estas, malfari {}',
      'Undo entry {}': 'Malfari {}',
    },
  };
  const languages = { eo: () => Promise.resolve(esperanto) };
  afterEach(() => {
    $localize.translate = undefined;
    wordWith((english) => english);
    document.documentElement.lang = 'en';
  });
  beforeEach(() => (document.documentElement.lang = 'en'));

  it('is loaded before anything is drawn, with what is put in where that language has it', async () => {
    expect((await speak('xx', languages)).code).toBe('en');
    expect([said(), document.documentElement.lang]).toEqual(['Undo 3 of 4', 'en']);
    expect((await speak('eo', languages)).code).toBe('eo');
    expect([said(), worded('Undo entry {}', 7)]).toEqual(['4 estas, malfari 3', 'Malfari 7']);
    expect(document.documentElement.lang).toBe('eo');
  });

  it('stays English word by word where it has none, and for a name that is no language', async () => {
    await speak('eo', languages);
    expect([$localize`Not ${1}\: said`, worded('Nor {1} before {}', 'b', 'a')]).toEqual([
      'Not 1: said',
      'Nor a before b',
    ]);
    expect((await speak('constructor')).code).toBe('en');
  });

  it('stays English where its words cannot be fetched', async () => {
    expect((await speak('eo', { eo: () => Promise.reject(new Error('away')) })).code).toBe('en');
    expect(said()).toBe('Undo 3 of 4');
  });

  it('marks every sentence, one that begins with a colon too', async () => {
    expect((await speak('marked')).told('Panel')).toBe('⟦Panel⟧');
    expect([said(), $localize`${1}\: two`, worded('Step {}', 2)]).toEqual([
      '⟦Undo 3 of 4⟧',
      '⟦1: two⟧',
      '⟦Step 2⟧',
    ]);
  });
});
