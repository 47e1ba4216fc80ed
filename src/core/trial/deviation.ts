/** A speed that was asked for, and the one that was seen. */
export type SpeedPoint = readonly [asked: number, seen: number];

/** What lies within this share of the largest speed is as it should be: a tachometer shows no more. */
const EXACT = 0.005;

/**
 * Why what was seen is not what was asked for, by how it grows with the speed. A wrong scale grows with it. Slip grows with the load and not with the speed: under
 * a load that stays the same it is the same at every speed, under one that grows with the square of the speed, as that of a fan or a pump does, it grows with that
 * square too (below the rated load slip and torque go together: textbooks of induction machines, from memory). What is ahead of what was asked for is no
 * slip. Empty where there are fewer than three points, or where they lie too close together to tell.
 */
export function deviationText(points: readonly SpeedPoint[], unit: string): string {
  const own = points.map(([asked, seen]) => [Math.abs(asked), Math.abs(seen)] as const).sort(([a], [b]) => a - b);
  const [first, last] = [own[0], own.at(-1)];
  if (own.length < 3 || !first || !last || !(first[0] > 0) || last[0] < 1.5 * first[0]) return '';
  const behind = own.map(([asked, seen]) => asked - seen);
  const close = EXACT * last[0];
  if (behind.every((one) => Math.abs(one) <= close)) return 'scale and zero agree';
  const text = (value: number): string => `${Math.abs(value).toFixed(1)} ${unit}`;
  // What lies within the tachometer's own unrest says neither which way it is off nor how it grows.
  const told = own.flatMap(([asked, seen]) => (Math.abs(asked - seen) > close ? [[asked, asked - seen] as const] : []));
  const [low, high] = [told[0], told.at(-1)];
  if (!low || !high) return '';
  if (told.some(([, off]) => Math.sign(off) !== Math.sign(high[1])))
    return 'it is behind at one speed and ahead at another: its zero is off, or one of them was misread';
  if (low[0] === high[0])
    return `it is off by ${text(high[1])} at one speed only: that speed was misread, or more points tell why`;
  const [least, most] = [low[1], high[1]];
  // As the speed to the power of so much.
  const grows = Math.log(most / least) / Math.log(high[0] / low[0]);
  const scale = `the scale is off by ${((100 * -most) / high[0]).toFixed(1).replace('-', '−')} %: what is missing grows with the speed`;
  if (most < 0)
    return grows > 0.5
      ? scale.replace('missing', 'too much')
      : `it is ahead by ${text(most)} at every speed: its zero is off`;
  if (grows < 0.5)
    return `the scale agrees: it lags by ${text((least + most) / 2)} at every speed, as slip under a load that stays the same does`;
  if (grows < 1.5) return `${scale}, which slip does not`;
  return `the scale agrees: it lags by ${text(least)} at the lower and ${text(most)} at the higher speed, as slip under the load of a fan or a pump does`;
}
