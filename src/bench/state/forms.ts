import type { PaceField } from '../../core/motion/axis-pace';
import type { Nameplate } from '../../core/motor/nameplate';
import type { FirstRole } from '../../core/sheet/begin-sheet';

/**
 * The forms whose texts outlive their view, each with its fields. `string` stands where the fields are data themselves, such as the items of a block.
 * A form stands for a thing, `of`, as the comment says; for none it is empty.
 */
export interface FormFields {
  /** Of a line. */
  readonly target: 'host' | 'port' | 'refused';
  readonly timeout: 'ms';
  readonly 'new station': 'number' | 'name' | 'sheet';
  readonly ends: 'rate' | 'data' | 'parity' | 'stop';
  readonly cable: string;
  readonly terminal: 'out' | 'in' | 'echo' | 'look';
  readonly replay: 'listing' | 'pause';
  /** Suspects that were tried. */
  readonly doctor: string;
  readonly 'address sweep': 'hosts' | 'port';
  /** Of a drive. */
  readonly 'station sweep': 'first' | 'last';
  readonly time: 'request' | 'reply' | 'delay' | 'stations' | 'cycle';
  readonly 'keypad note': 'setting' | 'manual' | 'tried' | 'remark';
  readonly 'begun sheet': FirstRole | 'profile' | 'speeds' | 'raw' | 'value' | 'unit';
  readonly 'no stop': 'known';
  readonly 'pasted reply': 'bytes';
  readonly 'bit table': 'of' | 'control' | 'status';
  readonly 'compared words': 'first' | 'second';
  readonly jog: 'speed' | 'watchdog';
  readonly mode: 'mode' | 'stored move';
  readonly 'target position': 'counts';
  readonly route: 'target';
  readonly 'machine unit': 'unit' | 'per';
  readonly 'usual scale': 'scale' | 'value';
  readonly 'scale pairs': 'count' | `${number} display` | `${number} raw`;
  readonly ramp: 'reference' | 'seconds' | 'jerk seconds';
  readonly 'read-back': 'written' | 'read' | 'resolution';
  readonly 'planned value': string;
  readonly plan: 'memory';
  readonly plate: keyof Nameplate | 'intent';
  readonly visit: 'name';
  readonly 'cycle block': string;
  readonly 'cycle life': 'blocks' | 'item' | 'form' | 'bit' | 'back' | 'cycles';
  readonly move: 'to' | 'kind' | PaceField | 'times' | 'dwell' | 'step';
  /** `row` and `first` are numbers of moves, the others what is typed for an entry of the drive's table. */
  readonly 'stored moves': string;
  /** Of an entry of a drive's sheet. */
  readonly 'entry note': 'manual' | 'tried' | 'remark';
  /** Of a block. */
  readonly 'known items': string;
  readonly 'own block': 'rows';
  readonly 'block at the drive': 'first' | 'table';
  /** Of nothing: one of each. */
  readonly 'any word': 'profile' | 'which' | 'text';
  readonly 'unknown bytes': 'text';
  readonly 'dialect samples': 'text';
  readonly dialect: 'base';
  readonly block: 'numbers' | 'block' | 'order' | 'start' | 'counts' | 'form' | 'bytes' | 'before' | 'at' | 'table';
  readonly cycle: 'every' | 'lost' | 'way';
  readonly 'one address': 'address' | 'table';
  readonly scaling: 'part' | 'picture' | 'editor';
}

export type FormName = keyof FormFields;

/** What was typed into one form, by field. */
export type FormTexts = ReadonlyMap<string, string>;

/** What was typed, by form and by what the form is of. */
export type Forms = ReadonlyMap<FormName, ReadonlyMap<string, FormTexts>>;

/** A field's text; undefined where nothing was typed yet. */
export const textOf = <F extends FormName>(
  forms: Forms,
  form: F,
  of: string,
  field: FormFields[F],
): string | undefined => forms.get(form)?.get(of)?.get(field);

/** The same with a field's text. */
export function withText<F extends FormName>(
  forms: Forms,
  form: F,
  of: string,
  field: FormFields[F],
  text: string,
): Forms {
  const things = forms.get(form);
  const texts = new Map(things?.get(of)).set(field, text);
  return new Map(forms).set(form, new Map(things).set(of, texts));
}

/** The same without all that was typed into one form, whatever it is of. */
export function withoutForm(forms: Forms, form: FormName): Forms {
  const left = new Map(forms);
  left.delete(form);
  return left;
}
