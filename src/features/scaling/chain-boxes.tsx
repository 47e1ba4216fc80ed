'use client';

import { bytesToHex } from '../../core/bytes/hex';
import { decimalText, subtract, type Rational } from '../../core/scaling/rational';
import { ROUNDING_TEXT } from '../../core/scaling/rounding';
import { signTrouble, toValue, type Scaled } from '../../core/scaling/scale';
import { stagesOf } from '../../core/scaling/scale';
import { show } from '../../core/scaling/steps';
import { signText, wireBytes } from '../../core/scaling/wire';
import type { ScalingChain } from '../../core/scaling/chain';
import styles from './scaling.module.css';

/** The chain as boxes, each with its sum; what rounding costs stands where it happens. */
export function ChainBoxes({
  chain,
  wanted,
  scaled,
  number,
}: {
  readonly chain: ScalingChain;
  readonly wanted: Rational;
  readonly scaled: Scaled;
  readonly number: string;
}) {
  const stages = stagesOf(chain);
  const names = stages.ok ? stages.value.map(({ name }) => name) : [];
  const cost =
    scaled.error.num === 0n
      ? 'nothing to round'
      : `off by ${decimalText(scaled.error, 3, false)} count, ${decimalText(subtract(scaled.sent, wanted), 3, false)} ${chain.unit}`;
  const trouble = signTrouble(chain, scaled.wire);
  const bytes = bytesToHex(wireBytes(scaled.wire, chain.word), ' ').toUpperCase();
  const boxes: readonly (readonly [string, string, string])[] = [
    ['wanted', `${decimalText(wanted, 4)} ${chain.unit}`, ''],
    ...names.map((name, i): readonly [string, string, string] => {
      const [sum = '', result = ''] = (scaled.working[i] ?? '').split(' = ');
      return [name, sum, result === '' || result.startsWith('≈') ? result : `= ${result}`];
    }),
    ['rounding', `${scaled.raw}`.replace('-', '−'), `${ROUNDING_TEXT[chain.rounding]}; ${cost}`],
    [
      'sign',
      chain.word.signed ? signText(chain.word) : 'no sign',
      scaled.raw < 0n ? `backward, ${scaled.hex}` : 'forward',
    ],
    [
      'on the wire',
      `${number} ← ${bytes}`,
      `${chain.word.bits} bits, ${chain.word.order ? `order ${chain.word.order}` : 'high byte first'}`,
    ],
  ];
  return (
    <>
      <ol className={styles.chain} aria-label="Chain of working">
        {boxes.map(([title, sum, note], i) => (
          <li key={`${i} ${title}`}>
            <span>{title}</span>
            <strong>{sum}</strong>
            <div>{note}</div>
          </li>
        ))}
      </ol>
      {trouble !== '' && <p className={styles.note}>{trouble}</p>}
      <Unscaled chain={chain} wanted={wanted} />
    </>
  );
}

/** Where a chain begins at another device's counts: what copying them without scaling would do. */
function Unscaled({ chain, wanted }: { readonly chain: ScalingChain; readonly wanted: Rational }) {
  if (chain.steps[0]?.kind !== 'source-counts' || wanted.den !== 1n || wanted.num < 0n) return null;
  const rest = { ...chain, steps: chain.steps.slice(1) };
  const right = toValue(rest, BigInt(wanted.num));
  const meant = stagesOf({ ...chain, steps: chain.steps.slice(0, 1) });
  const source = meant.ok ? meant.value[0]?.forward(wanted).value : undefined;
  return right.ok && source ? (
    <p className={styles.note}>
      Copied without scaling, {wanted.num.toString()} counts would mean {show(right.value.value)} and not {show(source)}
      .
    </p>
  ) : null;
}
