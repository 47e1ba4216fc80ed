'use client';

import Button from '@mui/material/Button';
import { parseRational } from '../../core/scaling/rational';
import type { Sheet } from '../../core/sheet/sheet';
import { ActButton } from '../../ui/act-button';
import { ChoiceField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { PartField } from '../../ui/part-field';
import { editSheet, merged } from './sheet-drafts';
import styles from './sheets.module.css';
import { StoredMovesRows } from './stored-moves-rows';

type Axis = NonNullable<Sheet['axis']>;

/** Longest text of one of its fields. */
const LONGEST = 80;

const putAxis = (axis: Axis | undefined): void => editSheet((sheet) => merged(sheet, { axis }));

/** The axis of a drive that is sent to positions: what its counts are on the machine, and what the manual leaves open. */
export function AxisPanel({ sheet: { axis, scalings = [], parameters = [] } }: { readonly sheet: Sheet }) {
  const [first] = scalings;
  if (!axis)
    return (
      <Panel title="Axis" aside="of a drive that is sent to positions">
        <ActButton
          variant="outlined"
          off={first ? '' : 'add the scaling of its position first, above'}
          onClick={() => first && putAxis({ chain: first.id, homeShows: 'minus-offset' })}
        >
          It moves an axis to positions
        </ActButton>
      </Panel>
    );
  const put = (change: Partial<Record<keyof Axis, unknown>>): void => putAxis(merged(axis, change));
  const unit = scalings.find(({ id }) => id === axis.chain)?.chain.unit ?? '';
  return (
    <Panel title="Axis" aside="its settings are the entries with the roles of a position, a window, a limit, homing">
      <div className={styles.row}>
        <ChoiceField
          label="Its position is scaled by"
          width={240}
          value={axis.chain}
          onChange={(chain) => put({ chain })}
          options={scalings.map(({ id, name }) => [id, name] as const)}
        />
        <PartField
          label={`The machine goes from … to, ${unit}`}
          width={220}
          value={axis.travel ? `${axis.travel.from} to ${axis.travel.to}` : ''}
          note="such as -20 to 1240; empty: not known"
          read={travelIn}
          onValue={put}
        />
        <PartField
          label={`One turn, where it goes round, ${unit}`}
          width={220}
          value={axis.round?.turn ?? ''}
          note="such as 360; empty: it goes straight"
          read={(text) => turnIn(text, axis.round)}
          onValue={put}
        />
        {(['forward', 'backward'] as const).map((way) => (
          <PartField
            key={way}
            label={way === 'forward' ? 'The way in which it rises' : 'The other way'}
            width={180}
            value={axis[way] ?? ''}
            note={way === 'forward' ? 'such as up' : 'such as down'}
            read={(text) =>
              text.length > LONGEST ? `at most ${LONGEST} characters` : { [way]: text.trim() || undefined }
            }
            onValue={put}
          />
        ))}
        <ChoiceField
          label="At home the position shows"
          width={260}
          value={axis.homeShows}
          onChange={(homeShows) => put({ homeShows })}
          options={[
            ['minus-offset', 'minus the home offset, as the standard draws it'],
            ['offset', 'the home offset'],
          ]}
        />
        <Button variant="text" color="inherit" onClick={() => putAxis(undefined)}>
          It moves none
        </Button>
      </div>
      <StoredMovesRows
        storedMoves={axis.storedMoves}
        numbers={new Set(parameters.map(({ number }) => number))}
        onMoves={(storedMoves) => put({ storedMoves })}
      />
    </Panel>
  );
}

/** One turn, as it is typed; what else is said of going round stays. */
function turnIn(text: string, round: Axis['round']): { readonly round: Axis['round'] } | string {
  const turn = text.trim();
  if (turn === '') return { round: undefined };
  if (turn.length > LONGEST) return `at most ${LONGEST} characters`;
  return parseRational(turn).ok ? { round: { ...round, turn } } : 'a number, such as 360';
}

/** Where the travel begins and ends, as it is typed. */
function travelIn(text: string): { readonly travel: Axis['travel'] } | string {
  if (text.trim() === '') return { travel: undefined };
  if (text.length > LONGEST) return `at most ${LONGEST} characters`;
  const [from, to] = text
    .replaceAll('−', '-')
    .split(/\s*(?:to|\.\.|…|;)\s*/i)
    .map((end) => end.trim());
  const isExact = (end: string | undefined): end is string => end !== undefined && parseRational(end).ok;
  return isExact(from) && isExact(to) ? { travel: { from, to } } : 'two numbers, such as -20 to 1240';
}
