import type { WiringFacts } from '../../core/cable/check-wiring';
import { MEDIA, type Wiring } from '../../core/cable/wiring';
import { drawWiring, type DrawnDevice, type DrawnLink } from '../../core/cable/wiring-picture';
import styles from './line.module.css';

/** Pixels: a device's box, and from one to the next. */
const BOX = { width: 150, height: 34 };
const PITCH = { x: 270, y: 62 };
const MARGIN = 12;
/** A link turns into its device's row within so much. */
const BEND = 44;
/** How far a link that closes a ring hangs down. */
const BOW = 34;

const leftOf = ({ column }: DrawnDevice): number => MARGIN + column * PITCH.x;
const middleOf = ({ row }: DrawnDevice): number => MARGIN + row * PITCH.y + BOX.height / 2;

/** The devices as boxes from the root to the right, the links between their ports; one that closes a ring hangs below in dashes. */
export function WiringPicture({ wiring, facts }: { readonly wiring: Wiring; readonly facts: WiringFacts }) {
  const { devices, links, columns, rows } = drawWiring(facts);
  const wrong = new Set(facts.notes.flatMap(({ link, weight }) => (weight === 'fault' ? [link] : [])));
  const width = Math.max(1, columns) * PITCH.x - (PITCH.x - BOX.width) + 2 * MARGIN;
  const height = Math.max(1, rows) * PITCH.y + MARGIN + (links.some(({ closes }) => closes) ? BOW / 2 : 0);
  return (
    <svg
      className={styles.wiring}
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${devices.length} devices and ${links.length} links, from ${wiring.root}`}
    >
      {links.map((drawn) => (
        <LinkLine key={drawn.link} wiring={wiring} drawn={drawn} isWrong={wrong.has(drawn.link)} />
      ))}
      {devices.map((device) => (
        <g key={device.name}>
          <rect
            x={leftOf(device)}
            y={middleOf(device) - BOX.height / 2}
            width={BOX.width}
            height={BOX.height}
            fill="var(--bujo-palette-bench-byte)"
            stroke="var(--bujo-palette-bench-ink)"
            strokeWidth={device.name === wiring.root.trim() ? 3 : 1}
          />
          <text x={leftOf(device) + BOX.width / 2} y={middleOf(device) + 5} textAnchor="middle">
            {device.name.length > 20 ? `${device.name.slice(0, 19)}…` : device.name}
            <title>{device.name}</title>
          </text>
        </g>
      ))}
    </svg>
  );
}

interface LineProps {
  readonly wiring: Wiring;
  readonly drawn: DrawnLink;
  readonly isWrong: boolean;
}

/** A link with its ports as they follow each other from left to right: beside the device that it leads to, or below both where it closes a ring. */
function LinkLine({ wiring, drawn: { link, from, to, closes }, isWrong }: LineProps) {
  const spec = wiring.links[link];
  if (!spec) return null;
  const [near, far, ports] =
    to.column >= from.column ? [from, to, [spec.a.port, spec.b.port]] : [to, from, [spec.b.port, spec.a.port]];
  const said = ports.map((port) => (port.trim() === '' ? '?' : port)).join(' – ');
  const bottom = BOX.height / 2;
  const [x1, y1, x2, y2] = closes
    ? [leftOf(near) + BOX.width * 0.7, middleOf(near) + bottom, leftOf(far) + BOX.width * 0.3, middleOf(far) + bottom]
    : [leftOf(near) + BOX.width, middleOf(near), leftOf(far), middleOf(far)];
  const half = (x1 + x2) / 2;
  return (
    <g>
      <path
        d={
          closes
            ? `M ${x1} ${y1} C ${x1} ${y1 + BOW}, ${x2} ${y2 + BOW}, ${x2} ${y2}`
            : `M ${x1} ${y1} C ${x1 + BEND} ${y1}, ${x1} ${y2}, ${x1 + BEND} ${y2} L ${x2} ${y2}`
        }
        fill="none"
        stroke={isWrong ? 'var(--bujo-palette-bench-alarm)' : 'var(--bujo-palette-bench-ink)'}
        strokeWidth={isWrong ? 3 : 2}
        strokeDasharray={closes ? '7 5' : undefined}
      >
        <title>{`link ${link + 1}, ${MEDIA[spec.medium].name}${spec.lengthM.trim() === '' ? '' : `, ${spec.lengthM.trim()} m`}`}</title>
      </path>
      <text
        className={styles.core}
        x={closes ? half : x2 - 8}
        y={closes ? (y1 + y2) / 2 + BOW * 0.6 : y2 - 6}
        textAnchor={closes ? 'middle' : 'end'}
      >
        {isWrong ? `✗ ${link + 1}: ` : ''}
        {said}
      </text>
    </g>
  );
}
