'use client';

import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useBench, useDrafts } from '../../bench/bench-context';
import { liveOf } from '../../bench/known-state';
import { useCurrent } from '../../bench/use-current';
import { useWrite } from '../../bench/use-write';
import { hexNumber } from '../../core/bytes/hex';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { jogCaution, jogWords } from '../../core/sheet/jog';
import { HoldButton } from '../../ui/hold-button';
import { Panel, Warning } from '../../ui/panel';

/** Jogging: the shaft turns only while the button is held, and what stops it should the link break. */
export function JogPanel({ index }: { readonly index: SheetIndex }) {
  const bench = useBench();
  const { view, key, name, isOpen } = useCurrent();
  const send = useWrite('jog');
  const proven = useDrafts((drafts) => drafts.typed.get(`${key} watchdog proven`) === 'yes');
  const jog = jogWords(index);
  if (!jog) return null;
  const caution = jogCaution(index, (role) => liveOf(index, view, role)?.word, proven);
  return (
    <Panel title="Jog" aside="turns only while it is held down">
      <HoldButton
        disabled={!isOpen}
        onHold={() => send('control-word', jog.hold)}
        onRelease={() => send('control-word', jog.release)}
      >
        Hold: {jog.name}, {hexNumber(jog.hold)} to {name}; let go: {hexNumber(jog.release)}
      </HoldButton>
      {caution !== '' && <Warning>{caution}</Warning>}
      <FormControlLabel
        control={
          <Checkbox
            checked={proven}
            onChange={(event) =>
              bench.drafts.getState().setTyped(`${key} watchdog proven`, event.target.checked ? 'yes' : '')
            }
          />
        }
        label="I saw the shaft stop by itself when the link was cut"
      />
    </Panel>
  );
}
