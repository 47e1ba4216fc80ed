'use client';

import TextField from '@mui/material/TextField';
import { liveOf } from '../../bench/state/known-state';
import { useCurrent } from '../../bench/hooks/use-current';
import { useWrite } from '../../bench/hooks/use-write';
import { useTyped } from '../../bench/hooks/use-typed';
import { meaningOf } from '../../core/drive/describe';
import { storedTableOf } from '../../core/motion/stored-moves';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Panel } from '../../ui/panel';
import { countsOf, targetOf } from './target';
import { numberOfPattern, patternOfNumber } from '../../core/values/pattern';
import styles from './words.module.css';

/** The mode of operation of a drive that has several, and the target of its moves. */
export function ModePanel({ index }: { readonly index: SheetIndex }) {
  const { view } = useCurrent();
  const mode = index.byRole.get('mode');
  if (index.modes.size < 2 || !mode) return null;
  const shown = liveOf(index, view, 'mode-display');
  const place = index.byRole.get('mode-display') ?? mode;
  return (
    <Panel
      title={`▸ Mode, ${mode.number}`}
      aside={shown ? `the drive is in ${meaningOf(index, place, shown.word)}` : 'the drive’s mode is not read yet'}
    >
      <ModeEntry index={index} />
      {index.profile?.takes === 'stored-move' && <StoredEntry index={index} />}
      {index.byRole.has('target-position') && <TargetEntry index={index} />}
    </Panel>
  );
}

function ModeEntry({ index }: { readonly index: SheetIndex }) {
  const { key, name, view, isOpen } = useCurrent();
  const send = useWrite('Words');
  const mode = index.byRole.get('mode');
  const type = mode?.type ?? 'int16';
  const shown = liveOf(index, view, 'mode-display')?.word;
  const present = shown === undefined ? (mode?.default ?? 0) : numberOfPattern(type, shown);
  const [chosen, setChosen] = useTyped('mode', key, 'mode', `${present}`);
  return (
    <div className={styles.ready}>
      <select aria-label="mode of operation" value={chosen} onChange={(event) => setChosen(event.target.value)}>
        {(mode?.choices ?? []).map(({ value, name: text }) => (
          <option key={value} value={value}>
            {value}: {text}
          </option>
        ))}
      </select>
      <ActButton
        variant="outlined"
        off={isOpen ? '' : LINE_CLOSED}
        onClick={() => send('mode', patternOfNumber(type, parseInt(chosen, 10)))}
      >
        Set the mode of {name}
      </ActButton>
    </div>
  );
}

/** Which of its own moves a start begins. */
function StoredEntry({ index }: { readonly index: SheetIndex }) {
  const { key, name, view, isOpen } = useCurrent();
  const send = useWrite('Words');
  const rows = storedTableOf(index)?.rows ?? [];
  const held = liveOf(index, view, 'stored-move')?.word;
  const underWay = liveOf(index, view, 'stored-move-display')?.word;
  const [chosen, setChosen] = useTyped('mode', key, 'stored move', `${held ?? 0}`);
  return (
    <div className={styles.ready}>
      <select aria-label="stored move to start" value={chosen} onChange={(event) => setChosen(event.target.value)}>
        {[0, ...rows.map(({ number }) => number)].map((number) => (
          <option key={number} value={number}>
            {number === 0 ? 'none' : `move ${number}`}
          </option>
        ))}
      </select>
      <ActButton
        variant="outlined"
        off={isOpen ? '' : LINE_CLOSED}
        onClick={() => send('stored-move', parseInt(chosen, 10))}
      >
        Choose it for {name}
      </ActButton>
      <span>
        {held === undefined ? 'not read yet' : `a start begins ${held === 0 ? 'none' : `move ${held}`}`}
        {underWay === undefined || underWay === 0 ? '' : `; move ${underWay} is under way`}
      </span>
    </div>
  );
}

function TargetEntry({ index }: { readonly index: SheetIndex }) {
  const { key, name, view, isOpen } = useCurrent();
  const write = useWrite('Words');
  const [text, setText] = useTyped('target position', key, 'counts', '');
  const { typed, trouble, held, differs } = targetOf(index, view, text);
  const position = countsOf(index, view, 'actual-position');
  const send = (): void => {
    const place = index.byRole.get('target-position');
    if (typed !== null && place) write('target-position', patternOfNumber(place.type, typed));
  };
  return (
    <div className={styles.ready}>
      <TextField
        label="target position, counts"
        value={text}
        error={trouble !== ''}
        helperText={trouble || 'Enter sends it; the move starts as bit 4 rises'}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && !event.ctrlKey) send();
        }}
        sx={{ width: 260 }}
      />
      <ActButton
        variant="outlined"
        off={whyOff([!isOpen, LINE_CLOSED], [typed === null, 'no target that fits is typed'])}
        onClick={send}
      >
        Send the target to {name}
      </ActButton>
      <span>
        the drive holds{' '}
        <strong data-testid="held-target" className={differs ? styles.differs : ''}>
          {held ?? 'not read yet'}
        </strong>
        {differs ? ' ≠ what is typed' : ''}; position now{' '}
        <strong data-testid="position">{position ?? 'not read yet'}</strong>
      </span>
    </div>
  );
}
