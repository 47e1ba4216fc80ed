'use client';

import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { bytesToHex } from '../../core/bytes/hex';
import type { Round } from '../../core/capture/rounds';
import { counted } from '../../core/counted';
import { functionName } from '../../core/modbus/lookup';
import { STANDARD_BLOCKS, type Block } from '../../core/process-image/blocks';
import { ORDER_NAMES } from '../../core/process-image/order-names';
import type { ImageOrder } from '../../core/process-image/image';
import type { OwnBlock } from '../../core/process-image/own-block-schema';
import { blocksOfDrive } from '../../core/process-image/register-blocks';
import { ChoiceField } from '../../ui/fields';
import { inMs } from '../../ui/format';
import { HeadRow } from '../../ui/head-row';
import { Panel } from '../../ui/panel';
import type { CaptureActions, CaptureState, Watched, Watching } from './capture-store';
import { WatchedPanel } from './capture-watched';
import styles from './frames.module.css';

const NO_BLOCKS: readonly OwnBlock[] = [];
const WAYS = [
  ['out', 'what is sent'],
  ['in', 'what comes back'],
] as const;

const nameOf = ({ fc, address, quantity, length }: Round, isModbus: boolean): string =>
  isModbus
    ? `${functionName(fc)}, ${quantity > 0 ? `${quantity} from ${address} on` : counted(length, 'byte')}`
    : `telegrams of ${counted(length, 'byte')}`;

/** What others keep going in a capture: which exchanges go round, and what one of them carries. */
export function CaptureRounds({ capture }: { readonly capture: CaptureState & CaptureActions }) {
  const { opened, setup } = capture;
  const [rounds, setRounds] = useState<readonly Round[]>([]);
  const [watching, setWatching] = useState<Watching | null>(null);
  const [watched, setWatched] = useState<Watched | null>(null);
  const layouts = useLayouts(watched?.bytes?.length ?? 0);
  const [order, setOrder] = useState<ImageOrder>('big');
  const [layout, setLayout] = useState('');
  useEffect(() => {
    let isHere = true;
    void capture.rounds().then((found) => isHere && setRounds(found));
    return () => {
      isHere = false;
    };
    // A capture that is opened anew has other rounds.
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the actions are the same for the page's life
  }, [opened]);
  const watch = (next: Watching): void => {
    setWatching(next);
    void capture.watch(next).then(setWatched);
  };
  const begin = (round: Round): void => {
    setLayout('');
    setWatched(null);
    const isRead = round.fc === 3 || round.fc === 4 || round.fc === 23;
    watch({ round, way: isRead || isUss ? 'in' : 'out', layout: null });
  };
  const isUss = setup.protocol === 'uss';
  const isModbus = !isUss && setup.protocol !== 'dialect';
  const take = (id: string, next: ImageOrder): void => {
    const block = layouts.find((one) => one.id === id);
    setLayout(id);
    setOrder(next);
    if (watching) watch({ ...watching, layout: block ? { items: block.items, order: next } : null });
  };
  if (rounds.length === 0) return null;
  return (
    <>
      <Panel title="What goes round" aside="requests that come again and again; a press shows what one of them carries">
        <div className={styles.scrollX}>
          <table className={styles.table} aria-label="What goes round">
            <HeadRow names={['station', 'request', 'cycles', 'lost', 'every, ms', '']} />
            <tbody>
              {rounds.map((round) => (
                <tr key={JSON.stringify(round)}>
                  <th scope="row">{round.unit}</th>
                  <td>{nameOf(round, isModbus || round.tcp)}</td>
                  <td>{round.cycles}</td>
                  <td>{round.lost}</td>
                  <td>{inMs(round.meanUs)}</td>
                  <td>
                    <Button
                      size="small"
                      variant={watching?.round === round ? 'outlined' : 'text'}
                      color="inherit"
                      aria-pressed={watching?.round === round}
                      onClick={() => begin(round)}
                    >
                      Watch
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </Panel>
      {watching && (
        <Panel
          title="What it carries"
          aside={
            watched
              ? watched.bytes
                ? `${counted(watched.bytes.length, 'byte')}; last ${bytesToHex(watched.bytes.slice(0, 16), ' ').toUpperCase()}${watched.bytes.length > 16 ? ' …' : ''}`
                : 'nothing goes this way'
              : 'it is gone through …'
          }
        >
          <div className={styles.stack}>
            <div className={styles.tools}>
              <ChoiceField
                label="Way"
                width={160}
                value={watching.way}
                onChange={(way) => {
                  setLayout('');
                  watch({ ...watching, way: way === 'out' ? 'out' : 'in', layout: null });
                }}
                options={WAYS}
              />
              <ChoiceField
                label="Read as"
                width={340}
                value={layout}
                onChange={(id) => take(id, layouts.find((one) => one.id === id)?.order ?? 'big')}
                options={[['', 'its words'], ...layouts.map(({ id, name }) => [id, name] as const)]}
              />
              {layout !== '' && (
                <ChoiceField
                  label="Its bytes come"
                  width={280}
                  value={order}
                  onChange={(next) => take(layout, next as ImageOrder)}
                  options={Object.entries(ORDER_NAMES)}
                />
              )}
            </div>
            {watched?.bytes && <WatchedPanel key={`${watching.way} ${layout}`} told={watched.told} />}
          </div>
        </Panel>
      )}
    </>
  );
}

/** Blocks of so many bytes that the bench knows: the user's own, those of the current drive, those of standards. */
function useLayouts(size: number): readonly (Pick<Block, 'id' | 'name' | 'items'> & { readonly order?: ImageOrder })[] {
  const { index } = useCurrent();
  const mine = useBenchState(({ job }) => job?.blocks ?? NO_BLOCKS);
  const all = [...mine, ...(index ? blocksOfDrive(index) : []), ...STANDARD_BLOCKS];
  return size === 0 ? [] : all.filter((block) => block.size === size && block.items.length > 0);
}
