import { done, failed, type Result } from '../result';
import type { ScalingChain } from '../scaling/chain';
import type { PlacedParameter, SheetIndex } from './index-sheet';
import type { Sheet } from './sheet';

type Scalings = NonNullable<Sheet['scalings']>;

/** Sections of a sheet after a change, to be read by `loadSheet` like any file. */
export interface ChainChange {
  readonly parameters: readonly object[];
  readonly scalings: readonly object[];
}

/** The sections of a sheet that change where a place is scaled by another chain; the error is a sentence. */
export function withChain(
  { parameters = [], scalings = [] }: Sheet,
  { number, name, scale }: PlacedParameter,
  chain: ScalingChain,
): Result<ChainChange, string> {
  if (scale?.kind === 'chain') {
    const { id } = scale;
    const changed = scalings.map((one) => (one.id === id ? { ...one, chain } : one));
    return done({ parameters, scalings: changed });
  }
  if (!parameters.some((one) => one.number === number))
    return failed(`how ${name} is scaled stands in the description of its commands or telegrams, not in a chain`);
  const id = freeId(scalings, `scale-${number.replaceAll('.', '-')}`);
  return done({
    parameters: parameters.map((one) => (one.number === number ? { ...one, scale: { kind: 'chain', id } } : one)),
    scalings: [...scalings, { id, name, chain }],
  });
}

function freeId(scalings: Scalings, wanted: string): string {
  const taken = new Set(scalings.map(({ id }) => id));
  let id = wanted;
  for (let i = 2; taken.has(id); i++) id = `${wanted}-${i}`;
  return id;
}

/** Other places that a chain of this one scales too, as number and name. */
export function sharesChain({ parameters }: SheetIndex, { number, scale }: PlacedParameter): readonly string[] {
  if (scale?.kind !== 'chain') return [];
  return parameters.flatMap((other) =>
    other.number !== number && other.scale?.kind === 'chain' && other.scale.id === scale.id
      ? [`${other.number} ${other.name}`]
      : [],
  );
}
