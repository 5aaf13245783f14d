import { SHORTCUTS, STAGES, shortcutFor } from './shortcuts';

const press = (key: string, more: KeyboardEventInit = {}, target?: HTMLElement): KeyboardEvent => {
  const event = new KeyboardEvent('keydown', { key, ...more });
  if (target) Object.defineProperty(event, 'target', { value: target });
  return event;
};

describe('Keys', () => {
  it('are each there once, and lead to every stage that is built', () => {
    expect(new Set(SHORTCUTS.map(({ keys }) => keys)).size).toBe(SHORTCUTS.length);
    for (const stage of STAGES)
      if (stage.built)
        expect(SHORTCUTS.some(({ does }) => does === stage.path))
          .withContext(stage.path)
          .toBeTrue();
  });

  it('do nothing while somebody types, or with keys of the browser', () => {
    expect(shortcutFor(press('u'))?.does).toBe('undo');
    expect(shortcutFor(press('z', { ctrlKey: true }))?.does).toBe('undo');
    expect(shortcutFor(press('u', { altKey: true }))).toBeUndefined();
    expect(shortcutFor(press('p', { ctrlKey: true })))
      .withContext('Ctrl + P prints')
      .toBeUndefined();
    for (const name of ['input', 'select', 'textarea'])
      expect(shortcutFor(press('u', {}, document.createElement(name))))
        .withContext(name)
        .toBeUndefined();
  });
});
