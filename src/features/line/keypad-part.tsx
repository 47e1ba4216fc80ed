'use client';

import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { withStation, type JobStation } from '../../core/job/job';
import { keypadCard, type KeypadStep, type StepCheck } from '../../core/papers/keypad-card';
import { ActButton, LINE_CLOSED } from '../../ui/act-button';
import { ageText } from '../../ui/format';
import { TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import styles from './line.module.css';
import { useTyped } from '../../bench/hooks/use-typed';

/** What must be set at the drive's own keypad, in order: ticked by hand, then verified over the link. */
export function KeypadPart() {
  const bench = useBench();
  const { line, station, index, view, places, isOpen, name } = useCurrent();
  const nowUs = useBenchState((state) => state.nowUs);
  if (!line || !station || !index?.sheet.keypad)
    return <Panel title="Keypad card">This station has no sheet that says what is set at its keypad.</Panel>;
  const steps = keypadCard(index, line.serial ?? null, station.station, (cell) => view.values.get(cell));
  const ticked = new Set(station.ticked ?? []);
  const put = (change: (own: JobStation) => JobStation): void =>
    void bench.changeJob((job) => withStation(job, line.id, station.station, change));
  const tick = (at: number): void =>
    put((own) => ({ ...own, ticked: ticked.has(at) ? [...ticked].filter((other) => other !== at) : [...ticked, at] }));
  const verify = (): void => {
    const wanted = steps.flatMap(({ parameter }) => parameter ?? []);
    for (const bytes of places?.read(station.station, wanted) ?? [])
      bench.send({ line: line.id, station: station.station }, bytes, 'keypad card');
  };
  const met = steps.filter(({ check }) => check.kind === 'met').length;
  const checkable = steps.filter(({ check }) => check.kind !== 'by-hand').length;
  return (
    <div className={styles.stack}>
      <Panel
        title={`At the keypad of ${name}`}
        aside={index.sheet.keypad.confirm}
        tools={
          <ActButton variant="outlined" color="inherit" off={isOpen ? '' : LINE_CLOSED} onClick={verify}>
            Verify over the link
          </ActButton>
        }
      >
        <div className={styles.scroll}>
          <table className={styles.table}>
            <thead>
              <tr>
                <th>done</th>
                <th>where</th>
                <th>what</th>
                <th>display</th>
                <th>over the link: {checkable === 0 ? 'nothing' : `${met} of ${checkable} met`}</th>
              </tr>
            </thead>
            <tbody>
              {steps.map((step, i) => (
                <StepRow
                  key={step.path + step.what}
                  step={step}
                  done={ticked.has(i)}
                  nowUs={nowUs}
                  onTick={() => tick(i)}
                />
              ))}
            </tbody>
          </table>
        </div>
      </Panel>
      <Notes put={put} />
    </div>
  );
}

function StepRow({
  step,
  done,
  nowUs,
  onTick,
}: {
  readonly step: KeypadStep;
  readonly done: boolean;
  readonly nowUs: number;
  readonly onTick: () => void;
}) {
  const { path, what, note, parameter, display, meaning, check } = step;
  return (
    <tr data-step={parameter?.number ?? path}>
      <td>
        <Checkbox
          size="small"
          checked={done}
          onChange={onTick}
          slotProps={{ input: { 'aria-label': `done: ${what}` } }}
          sx={{ padding: 0 }}
        />
      </td>
      <td>{path}</td>
      <td>
        {what}
        {note !== '' && <div className={styles.soft}>{note}</div>}
      </td>
      <td>
        <strong className={styles.mono}>{display}</strong>
        {meaning !== '' && <div className={styles.soft}>{meaning}</div>}
      </td>
      <td>
        <CheckText check={check} nowUs={nowUs} />
      </td>
    </tr>
  );
}

function CheckText({ check, nowUs }: { readonly check: StepCheck; readonly nowUs: number }) {
  switch (check.kind) {
    case 'by-hand':
      return <span className={styles.soft}>leaves no value to read</span>;
    case 'unknown':
      return <span className={styles.soft}>not read yet</span>;
    case 'met':
      return (
        <>
          <strong className={styles.good}>✓ met</strong>{' '}
          <span className={styles.soft}>{ageText(nowUs - check.atUs)}</span>
        </>
      );
    case 'differs':
      return (
        <>
          <strong className={styles.bad}>✗ the drive has {check.text}</strong>{' '}
          <span className={styles.soft}>{ageText(nowUs - check.atUs)}</span>
        </>
      );
  }
}

/** A manual that contradicts the drive: both values and what was found, kept in the job. */
function Notes({ put }: { readonly put: (change: (own: JobStation) => JobStation) => void }) {
  const { station, key } = useCurrent();
  const [setting, setSetting] = useTyped('keypad note', key, 'setting', '');
  const [manual, setManual] = useTyped('keypad note', key, 'manual', '');
  const [tried, setTried] = useTyped('keypad note', key, 'tried', '');
  const [remark, setRemark] = useTyped('keypad note', key, 'remark', '');
  const notes = station?.notes ?? [];
  const add = (): void => {
    put((own) => ({ ...own, notes: [...(own.notes ?? []), { setting: setting.trim(), manual, tried, remark }] }));
    for (const clear of [setSetting, setManual, setTried, setRemark]) clear('');
  };
  return (
    <Panel title="Where manual and drive contradict each other" aside="kept in the job">
      <table className={styles.table}>
        <tbody>
          {notes.map((note, i) => (
            <tr key={`${note.setting} ${i}`}>
              <td>{note.setting}</td>
              <td>manual: {note.manual}</td>
              <td>tried: {note.tried}</td>
              <td className={styles.soft}>{note.remark}</td>
              <td>
                <Button
                  variant="text"
                  color="inherit"
                  onClick={() => put((own) => ({ ...own, notes: notes.filter((_, at) => at !== i) }))}
                >
                  Remove
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className={styles.row}>
        <TypedField label="setting" value={setting} onChange={setSetting} width={160} />
        <TypedField label="manual says" value={manual} onChange={setManual} width={150} />
        <TypedField label="what works" value={tried} onChange={setTried} width={150} />
        <TypedField label="remark" value={remark} onChange={setRemark} width={240} />
        <ActButton variant="contained" off={setting.trim() === '' ? 'name the setting' : ''} onClick={add}>
          Keep the note
        </ActButton>
      </div>
    </Panel>
  );
}
