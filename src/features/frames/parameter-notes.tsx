'use client';

import Button from '@mui/material/Button';
import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { withStation, type JobStation } from '../../core/job/job';
import { ActButton } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import styles from './frames.module.css';

/** Where the manual and the drive contradict each other at this place, whatever it is: kept in the job with the notes of the keypad card. */
export function ParameterNotes({ place }: { readonly place: string }) {
  const bench = useBench();
  const { line, station, key } = useCurrent();
  const of = `${key} ${place}`;
  const [manual, setManual] = useTyped('entry note', of, 'manual', '');
  const [tried, setTried] = useTyped('entry note', of, 'tried', '');
  const [remark, setRemark] = useTyped('entry note', of, 'remark', '');
  if (!line || !station) return null;
  const notes = station.notes ?? [];
  const put = (change: (own: JobStation) => JobStation): void =>
    void bench.changeJob((job) => withStation(job, line.id, station.station, change));
  const add = (): void => {
    put((own) => ({ ...own, notes: [...(own.notes ?? []), { setting: place, manual, tried, remark }] }));
    for (const clear of [setManual, setTried, setRemark]) clear('');
  };
  return (
    <Panel title={`Manual against drive: ${place}`} aside="kept in the job">
      {notes.map((note, i) =>
        note.setting === place ? (
          <p key={`${note.manual} ${i}`} data-testid="parameter-note">
            manual: {note.manual} · what works: {note.tried}
            {note.remark === '' ? '' : ` · ${note.remark}`}{' '}
            <Button
              variant="text"
              color="inherit"
              onClick={() => put((own) => ({ ...own, notes: (own.notes ?? []).filter((_, at) => at !== i) }))}
            >
              Remove
            </Button>
          </p>
        ) : null,
      )}
      <div className={styles.compose}>
        <TypedField label="manual says" value={manual} onChange={setManual} width={190} />
        <TypedField label="what works" value={tried} onChange={setTried} width={190} />
        <TypedField label="remark" value={remark} onChange={setRemark} width={260} />
        <ActButton
          variant="outlined"
          color="inherit"
          off={manual.trim() === '' && tried.trim() === '' ? 'say what the manual says, or what works' : ''}
          onClick={add}
        >
          Keep the note
        </ActButton>
      </div>
    </Panel>
  );
}
