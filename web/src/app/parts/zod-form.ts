import type { AbstractControl, ValidationErrors, ValidatorFn } from '@angular/forms';
import { FormArray, FormControl, FormGroup } from '@angular/forms';
import type * as z from 'zod';

/** A typed form of which every field is a control of its own. */
export type FormOf<Value extends object> = FormGroup<{ [Field in keyof Value]: FormControl<Value[Field]> }>;

/** The first thing that a schema finds wrong with a form, and the field that it is about where it is one. */
interface Wrong {
  readonly sentence: string;
  readonly field: string | undefined;
}

/** Checks a form by a schema: the one way by which forms and schemas meet. */
export const zodValidator =
  (schema: z.ZodType): ValidatorFn =>
  (control: AbstractControl): ValidationErrors | null => {
    const read = schema.safeParse(control.value);
    if (read.success) return null;
    const [issue] = read.error.issues;
    const wrong: Wrong = { sentence: issue!.message, field: issue!.path[0]?.toString() };
    return { zod: wrong };
  };

/** A form with these values; the schema says what they have to be. */
export function formOf<Value extends object>(value: Value, schema: z.ZodType<unknown, Value>): FormOf<Value> {
  const controls = Object.fromEntries(
    Object.entries(value).map(([field, own]) => [field, new FormControl(own, { nonNullable: true })]),
  );
  return new FormGroup(controls, { validators: zodValidator(schema) }) as unknown as FormOf<Value>;
}

/** What stands in the way of a form, in a sentence; undefined where nothing does. */
export const problemOf = (form: AbstractControl): string | undefined =>
  (form.errors?.['zod'] as Wrong | undefined)?.sentence;

/** The control of a value with parts: groups for objects, arrays for lists, a control for everything else. */
export type ControlOf<Value> = [Value] extends [readonly (infer Entry)[]]
  ? FormArray<ControlOf<Entry>>
  : [Value] extends [object]
    ? FormGroup<{ [Field in keyof Value]: ControlOf<Value[Field]> }>
    : FormControl<Value>;

/** A control with this value; one with parts grows and shrinks by `FormArray.insert(at, controlOf(entry))`. */
export function controlOf<Value>(value: Value): ControlOf<Value> {
  const make = (part: unknown): AbstractControl => {
    if (Array.isArray(part)) return new FormArray(part.map(make));
    if (typeof part === 'object' && part !== null)
      return new FormGroup(
        Object.fromEntries(Object.entries(part).map(([field, own]) => [field, make(own)])),
      );
    return new FormControl(part, { nonNullable: true });
  };
  return make(value) as ControlOf<Value>;
}
