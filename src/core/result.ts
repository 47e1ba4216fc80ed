/** A value or the reason why there is none; failure is normal here, so it is data and not an exception. */
export type Result<T, E> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: E };

/** @example done(3) // { ok: true, value: 3 } */
export const done = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });

/** @example failed('no link') // { ok: false, error: 'no link' } */
export const failed = <E>(error: E): { readonly ok: false; readonly error: E } => ({ ok: false, error });

/** Ends a switch over a union: a new member fails to compile wherever it matters. */
export function unreachable(value: never): never {
  throw new Error(`not handled: ${JSON.stringify(value)}`);
}
