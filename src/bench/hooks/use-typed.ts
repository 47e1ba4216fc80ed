'use client';

import { useBench, useDrafts } from '../bench-context';
import type { FormFields, FormName } from '../state/forms';

/** The texts of a form that outlive its view. `of` is what the form stands for: a drive, a line, an entry. */
export function useForm<F extends FormName>(
  form: F,
  of = '',
): {
  readonly text: (field: FormFields[F], first?: string) => string;
  readonly put: (field: FormFields[F], text: string) => void;
} {
  const bench = useBench();
  const texts = useDrafts((drafts) => drafts.forms.get(form)?.get(of));
  return {
    text: (field, first = '') => texts?.get(field) ?? first,
    put: (field, text) => bench.drafts.getState().setTyped(form, of, field, text),
  };
}

/** One field of a form, with what it begins as. */
export function useTyped<F extends FormName>(
  form: F,
  of: string,
  field: FormFields[F],
  first: string,
): readonly [string, (text: string) => void] {
  const { text, put } = useForm(form, of);
  return [text(field, first), (next) => put(field, next)];
}
