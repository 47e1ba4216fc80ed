'use client';

import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { SCALE_PRESETS } from '../../core/scaling/presets';
import { parseQuantity } from '../../core/scaling/quantity';
import { toRaw } from '../../core/scaling/scale';
import { Warning } from '../../ui/panel';
import { ChainBoxes } from './chain-boxes';
import { useTakeChain } from './chain-drafting';
import type { PartProps } from './parts';
import styles from './scaling.module.css';

/** Usual full scales beside the sheet's own: a value through any of their chains, with every sum. */
export function PresetsPart({ index }: Partial<PartProps>) {
  const { key } = useCurrent();
  const [id, setId] = useTyped('usual scale', key, 'scale', 'n2');
  const [text, setText] = useTyped('usual scale', key, 'value', '50');
  const preset = SCALE_PRESETS.find((known) => known.id === id) ?? SCALE_PRESETS[0];
  const value = parseQuantity(text, preset?.chain.unit ?? '');
  const scaled = preset && value.ok ? toRaw(preset.chain, value.value) : null;
  const take = useTakeChain();
  if (!preset) return null;
  return (
    <div className={styles.stack}>
      <div className={styles.pairs}>
        <TextField
          select
          label="usual scale"
          value={preset.id}
          helperText={preset.source}
          onChange={(event) => setId(event.target.value)}
          sx={{ minWidth: 320 }}
        >
          {SCALE_PRESETS.map(({ id: own, name }) => (
            <MenuItem key={own} value={own}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label={`value, ${preset.chain.unit}`}
          value={text}
          error={!value.ok}
          helperText={value.ok ? '' : value.error.text}
          onChange={(event) => setText(event.target.value)}
        />
      </div>
      {value.ok && scaled?.ok && (
        <ChainBoxes chain={preset.chain} wanted={value.value} scaled={scaled.value} number="raw" />
      )}
      {index && (
        <div>
          <Button variant="outlined" color="inherit" onClick={() => take(preset.chain)}>
            Take into the chain
          </Button>
        </div>
      )}
      {scaled?.ok && scaled.value.faults.map(({ text: why }) => <Warning key={why}>{why}.</Warning>)}
    </div>
  );
}
