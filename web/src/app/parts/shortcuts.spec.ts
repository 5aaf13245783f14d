import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Keys } from './keys';
import { SHORTCUTS, STAGES } from './shortcuts';

const pressed: string[] = [];
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-below',
  template: '<input /><select></select><textarea></textarea>',
})
class Below {
  constructor() {
    inject(Keys).while({
      undo: () => pressed.push('undo'),
      redo: () => pressed.push('redo'),
      help: () => pressed.push('help'),
    });
  }
}
@Component({ changeDetection: ChangeDetectionStrategy.OnPush, selector: 'mt-above', template: '' })
class Above {
  constructor() {
    inject(Keys).while({ undo: () => pressed.push('undo above') });
  }
}

describe('Keys', () => {
  const press = (key: string, more: KeyboardEventInit = {}, target: EventTarget = window): boolean =>
    target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
  const after = (...keys: Parameters<typeof press>): string[] => {
    pressed.length = 0;
    press(...keys);
    return [...pressed];
  };

  it('are each there once, and lead to every stage', () => {
    expect(new Set(SHORTCUTS.map(({ keys }) => keys)).size).toBe(SHORTCUTS.length);
    for (const stage of STAGES)
      expect(SHORTCUTS.some(({ does }) => does === stage.path))
        .withContext(stage.path)
        .toBeTrue();
  });

  it('do what is shown on top says, nothing while somebody types, nothing with keys of the browser', () => {
    const below = TestBed.createComponent(Below);
    document.body.append(below.nativeElement as HTMLElement);
    expect(after('u')).toEqual(['undo']);
    expect(after('z', { ctrlKey: true })).toEqual(['undo']);
    expect(after('U', { shiftKey: true })).toEqual(['redo']);
    expect(after('?', { shiftKey: true })).toEqual(['help']);
    expect(after('?')).toEqual(['help']);
    expect(after('u', { altKey: true })).toEqual([]);
    expect(after('u', { ctrlKey: true }))
      .withContext('Ctrl + U shows the source')
      .toEqual([]);
    for (const field of (below.nativeElement as HTMLElement).children)
      expect(after('u', {}, field))
        .withContext(field.tagName)
        .toEqual([]);
    expect(after('n')).withContext('no bench is open').toEqual([]);
    const above = TestBed.createComponent(Above);
    expect(after('u')).toEqual(['undo above']);
    above.destroy();
    expect(after('u')).toEqual(['undo']);
    below.destroy();
    expect(after('u')).toEqual([]);
  });
});
