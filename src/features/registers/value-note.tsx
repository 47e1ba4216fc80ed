'use client';

import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { withStation } from '../../core/job/job';
import type { PlacedParameter } from '../../core/sheet/index-sheet';
import { ActButton } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import styles from './registers.module.css';

/** Where manual and drive contradict each other: kept at the station, and shown on its keypad card too. */
export function ValueNote({ parameter }: { readonly parameter: PlacedParameter }) {
  const bench = useBench();
  const { line, station, key } = useCurrent();
  const of = `${key} ${parameter.number}`;
  const [manual, setManual] = useTyped('entry note', of, 'manual', '');
  const [drive, setDrive] = useTyped('entry note', of, 'tried', '');
  if (!line || !station) return null;
  const setting = `${parameter.number} ${parameter.name}`.slice(0, 400);
  const notes = (station.notes ?? []).filter((note) => note.setting === setting);
  const add = (): void => {
    bench.changeJob((job) =>
      withStation(job, line.id, station.station, (own) => ({
        ...own,
        notes: [...(own.notes ?? []), { setting, manual: manual.trim(), tried: drive.trim(), remark: '' }],
      })),
    );
    setManual('');
    setDrive('');
  };
  return (
    <>
      <h3 className={styles.part}>The manual says, the drive does</h3>
      {notes.map((note, i) => (
        <p key={i}>
          The manual says {note.manual || 'nothing'}, the drive does {note.tried || 'something else'}
          {note.remark === '' ? '' : `: ${note.remark}`}.
        </p>
      ))}
      <form
        className={styles.row}
        onSubmit={(event) => {
          event.preventDefault();
          if (manual.trim() !== '' || drive.trim() !== '') add();
        }}
      >
        <TypedField label="The manual says" width={150} value={manual} onChange={setManual} />
        <TypedField label="The drive does" width={150} value={drive} onChange={setDrive} />
        <ActButton
          type="submit"
          variant="text"
          color="inherit"
          off={manual.trim() === '' && drive.trim() === '' ? 'say what differs' : ''}
        >
          Note it
        </ActButton>
      </form>
    </>
  );
}
