import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import * as z from 'zod';
import { Value } from './value';
import { formOf, problemOf } from './zod-form';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-fields',
  imports: [Value],
  template: `
    <input id="each" [mtValue]="name()" (mtValueChange)="told.push($event)" />
    <input id="leave" [mtValue]="name()" mtOnLeave (mtValueChange)="told.push($event)" />
    <input id="check" type="checkbox" [mtValue]="isOn()" (mtValueChange)="told.push($event)" />
    <input id="number" type="number" [mtValue]="loop()" (mtValueChange)="told.push($event)" />
    <select id="amps" [mtValue]="amps()" (mtValueChange)="told.push($event)">
      @for (size of sizes(); track size) {
        <option [value]="size">{{ size }}</option>
      }
    </select>
  `,
})
class Fields {
  readonly told: unknown[] = [];
  readonly name = signal('S1');
  readonly isOn = signal(false);
  readonly loop = signal<number | null>(6);
  readonly amps = signal(20);
  readonly sizes = signal([15, 20]);
}

describe('A field by itself', () => {
  const open = () => {
    const fixture = TestBed.createComponent(Fields);
    const element = fixture.nativeElement as HTMLElement;
    const field = (id: string) => element.querySelector<HTMLInputElement>(`#${id}`)!;
    const enter = (id: string, value: string, ...events: string[]): void => {
      field(id).value = value;
      for (const event of events) field(id).dispatchEvent(new Event(event, { bubbles: true }));
    };
    TestBed.tick();
    return { own: fixture.componentInstance, field, enter };
  };

  it('shows its value, also where the options come later, and tells it in its own kind', () => {
    const { own, field, enter } = open();
    expect([field('each').value, field('amps').value, field('number').value]).toEqual(['S1', '20', '6']);
    own.sizes.set([15, 20, 30]);
    own.amps.set(30);
    TestBed.tick();
    expect(field('amps').value).toBe('30');
    enter('each', 'S2', 'input');
    enter('leave', 'S3', 'input');
    enter('leave', 'S4', 'input', 'change');
    enter('amps', '15', 'input', 'change');
    enter('number', '8', 'input');
    enter('number', '', 'input');
    field('check').click();
    expect(own.told).toEqual(['S2', 'S4', 15, 8, null, true]);
  });

  it('keeps what was typed until the value itself changes', () => {
    const { own, field, enter } = open();
    enter('leave', '', 'input', 'change');
    TestBed.tick();
    expect(field('leave').value).toBe('');
    own.name.set('S9');
    TestBed.tick();
    expect(field('leave').value).toBe('S9');
  });
});

describe('A form by a schema', () => {
  const schema = z
    .object({ from: z.string().min(1, 'Pick a box.'), feet: z.string().transform(Number) })
    .refine(({ feet }) => feet >= 0, 'Feet are a number.');

  it('has a control for each field, and says the first thing that is wrong', () => {
    const form = formOf({ from: '', feet: 'x' }, schema);
    expect([form.valid, problemOf(form)]).toEqual([false, 'Pick a box.']);
    form.controls.from.setValue('S1');
    expect(problemOf(form)).toBe('Feet are a number.');
    form.controls.feet.setValue('12');
    expect([form.valid, problemOf(form)]).toEqual([true, undefined]);
    expect(schema.parse(form.getRawValue())).toEqual({ from: 'S1', feet: 12 });
  });
});
