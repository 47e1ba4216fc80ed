'use client';

import { liveIn } from '../../bench/state/known-state';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState, useDrafts } from '../../bench/bench-context';
import { stationName } from '../../bench/state/bench-state';
import { changeBothEnds, restartDrive } from '../../bench/procedures/link-procedures';
import { isRetrying, troubleOf } from '../../link/line-life';
import { OUTCOME_TEXT, isGood } from '../../bench/state/outcome-text';
import { useCurrent } from '../../bench/hooks/use-current';
import { useHarmless } from '../../bench/hooks/use-harmless';
import { identityReads, watchReads } from '../../bench/procedures/watch-reads';
import type { JobLine } from '../../core/job/job';
import { hasSerialSettings } from '../../core/job/line-text';
import { settingsText, type SerialSettings } from '../../core/line/settings';
import { choiceOf } from '../../core/drive/describe';
import { identityOf } from '../../core/drive/identity';
import { linkChange } from '../../core/papers/link-change';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ageText } from '../../ui/format';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Later } from '../../ui/later';
import { Panel, Warning } from '../../ui/panel';
import { LineForm } from './line-form';
import { LinkWorkPanel } from './link-work-panel';
import styles from './line.module.css';
import { PortPanel } from './port-panel';
import { useTyped } from '../../bench/hooks/use-typed';

/** Both ends side by side: what this end has, what the drive has and how that is known; and the acts that prove or change the link. */
export function EndsPart() {
  const { line, station, index, framing, isOpen } = useCurrent();
  const [editing, setEditing] = useState(false);
  if (!line) return null;
  return (
    <div className={styles.stack}>
      <Panel
        title="This end and the drive’s"
        aside={station ? stationName(station) : 'no station chosen'}
        tools={
          <Button variant="text" color="inherit" onClick={() => setEditing(!editing)} aria-expanded={editing}>
            {editing ? 'Put the set-up away' : 'Set up the line'}
          </Button>
        }
      >
        {editing ? (
          <LineForm />
        ) : line.serial && hasSerialSettings(line) ? (
          <SerialEnds serial={line.serial} />
        ) : (
          <TcpEnds />
        )}
      </Panel>
      <Later>
        <div className={styles.columns}>
          <div className={styles.stack}>
            <LinkWorkPanel />
            {station && index && framing && <ProvePanel />}
          </div>
          <div className={styles.stack}>
            {index && <IdentityPanel />}
            {line.far !== 'tcp' && <PortPanel />}
            {!isOpen && !index && (
              <Panel title="What to do first">
                Open the line, then prove it: both send nothing that turns a shaft.
              </Panel>
            )}
          </div>
        </div>
      </Later>
    </div>
  );
}

const RATES = ['1200', '2400', '4800', '9600', '19200', '38400', '57600', '115200'];

/** A rate as typed: the sentence for the field, or the number. */
function rateOf(text: string): number | string {
  const rate = /^\s*\d+\s*$/.test(text) ? parseInt(text, 10) : NaN;
  return rate >= 50 && rate <= 4_000_000 ? rate : `“${text.trim()}” is no rate: 50 to 4000000 bit/s`;
}

const PLAIN = { dataBits: ['7', '8'], parity: ['N', 'E', 'O'], stopBits: ['1', '2'] } as const;
const PARITY_NAME = { N: 'none', E: 'even', O: 'odd' } as const;

function SerialEnds({ serial }: { readonly serial: SerialSettings }) {
  const bench = useBench();
  const { line, station, drive, index, isOpen, name } = useCurrent();
  const of = line?.id ?? '';
  const [rateText, setRate] = useTyped('ends', of, 'rate', `${serial.rate}`);
  const [dataBits, setDataBits] = useTyped('ends', of, 'data', `${serial.dataBits}`);
  const [parity, setParity] = useTyped('ends', of, 'parity', serial.parity);
  const [stopBits, setStopBits] = useTyped('ends', of, 'stop', `${serial.stopBits}`);
  const rate = rateOf(rateText);
  const wanted: SerialSettings | null =
    typeof rate === 'number'
      ? {
          rate,
          dataBits: dataBits === '7' ? 7 : 8,
          parity: parity === 'N' || parity === 'O' ? parity : 'E',
          stopBits: stopBits === '2' ? 2 : 1,
        }
      : null;
  const changed = wanted !== null && settingsText(wanted) !== settingsText(serial);
  const change = wanted && index && changed ? linkChange(index, serial, wanted) : null;
  return (
    <>
      <div className={styles.ends} role="group" aria-label="Settings of both ends">
        <span className={styles.head}>setting</span>
        <span className={styles.head}>this end</span>
        <span className={styles.head} />
        <span className={styles.head}>the drive</span>
        <span className={styles.head}>how that is known</span>
        <span>bit rate</span>
        <TypedField
          label="rate, bit/s"
          value={rateText}
          onChange={setRate}
          error={typeof rate === 'string' ? rate : ''}
          list="usual-rates"
          width={150}
        />
        <DriveCell role="bit-rate" mine={rateText} factory={`${index?.sheet.link?.serial?.rate ?? ''}`} />
        <span>character</span>
        <div className={styles.row} style={{ gap: 4, flexWrap: 'nowrap' }}>
          <ChoiceField
            label="data"
            value={dataBits}
            onChange={setDataBits}
            width={62}
            options={PLAIN.dataBits.map((bits) => [bits, bits] as const)}
          />
          <ChoiceField
            label="parity"
            value={parity}
            onChange={setParity}
            width={92}
            options={PLAIN.parity.map((id) => [id, PARITY_NAME[id]] as const)}
          />
          <ChoiceField
            label="stop"
            value={stopBits}
            onChange={setStopBits}
            width={62}
            options={PLAIN.stopBits.map((bits) => [bits, bits] as const)}
          />
        </div>
        <DriveCell
          role="character-form"
          mine={`${dataBits}${parity}${stopBits}`}
          factory={factoryForm(index?.sheet.link?.serial)}
        />
        <span>station</span>
        <span className={styles.mono}>{station?.station ?? ''}</span>
        <DriveCell role="station" mine={`${station?.station ?? ''}`} factory={`${index?.sheet.link?.station ?? ''}`} />
      </div>
      <div className={styles.row} style={{ marginTop: 10 }}>
        <datalist id="usual-rates">
          {RATES.map((usual) => (
            <option key={usual} value={usual} />
          ))}
        </datalist>
        <ActButton
          variant="outlined"
          color="inherit"
          off={changed ? '' : 'nothing was changed'}
          onClick={() => wanted && line && bench.setEnd(line.id, wanted)}
        >
          Set this end only{changed && wanted ? `: ${settingsText(wanted)}` : ''}
        </ActButton>
        <ActButton
          variant="contained"
          off={whyOff([!isOpen, LINE_CLOSED], [!change, 'nothing was changed'], [change?.ok === false, 'see beside'])}
          onClick={() =>
            change?.ok && index && wanted && drive && changeBothEnds(bench, drive, index, change.value, wanted)
          }
        >
          Set both ends, {name} first
        </ActButton>
        {changed && change && !change.ok && <span className={styles.soft}>Both ends: {change.error}.</span>}
        {changed && change?.ok && (
          <span className={styles.soft}>
            Writes {change.value.writes.map(({ parameter, raw }) => `${parameter.number} ← ${raw}`).join(', ')}
            {change.value.restarts ? '; the drive restarts' : ''}. Way back: {change.value.wayBack}.
          </span>
        )}
      </div>
    </>
  );
}

const factoryForm = (serial: SerialSettings | undefined): string =>
  serial ? `${serial.dataBits}${serial.parity}${serial.stopBits}` : '';

/** The drive's side of a row: read and verified, else what the sheet says, else unknown; with source and age. */
function DriveCell({
  role,
  mine,
  factory,
}: {
  readonly role: ParameterRole;
  readonly mine: string;
  readonly factory: string;
}) {
  const { index, view } = useCurrent();
  const nowUs = useBenchState((state) => state.nowUs);
  const place = index?.byRole.get(role);
  const live = place && liveIn(place, view.values);
  const read = live && place ? (choiceOf(place, live.word)?.name ?? `${live.word}`) : null;
  const shown = read ?? factory;
  const mark = read === null ? '?' : shown === mine ? '=' : '≠';
  const text = { '?': 'not known', '=': 'the same', '≠': 'they differ' }[mark];
  return (
    <>
      <span
        className={mark === '=' ? styles.good : mark === '≠' ? styles.bad : styles.soft}
        title={text}
        aria-label={text}
      >
        {mark}
      </span>
      <span className={styles.mono} data-testid={`drive-${role}`}>
        {shown === '' ? 'not known' : shown}
        {read !== null && live && place ? (
          <span className={styles.soft}>
            {' '}
            (code {live.word} in {place.number})
          </span>
        ) : null}
      </span>
      <span className={styles.soft}>
        {read !== null && live
          ? `read over the link, ${ageText(nowUs - live.atUs)}`
          : factory === ''
            ? 'no sheet says it, and it was not read'
            : 'sheet: as it leaves the factory; not read yet, so it may be another'}
      </span>
    </>
  );
}

function TcpEnds() {
  const { line, lineState, index } = useCurrent();
  const where = line?.tcp ? `${line.tcp.host} port ${line.tcp.port}` : 'no address yet';
  return (
    <div className={styles.ends} role="group" aria-label="Both ends of the connection">
      <span className={styles.head}>setting</span>
      <span className={styles.head}>this end</span>
      <span className={styles.head} />
      <span className={styles.head}>the device</span>
      <span className={styles.head}>how that is known</span>
      <span>address</span>
      <span className={styles.mono}>{where}</span>
      <span className={lineState?.open ? styles.good : styles.soft}>{lineState?.open ? '=' : '?'}</span>
      <span>
        {lineState?.open
          ? 'takes the connection'
          : isRetrying(lineState?.life)
            ? 'lost; tried again by itself'
            : 'not connected'}
      </span>
      <span className={styles.soft}>
        {troubleOf(lineState?.life)?.text ||
          (lineState?.open ? 'the local server holds the connection' : 'open the line')}
      </span>
      <span>protocol</span>
      <span className={styles.mono}>{line?.protocol}</span>
      <span className={styles.soft}>?</span>
      <span>{index?.sheet.link?.protocol ?? 'not known'}</span>
      <span className={styles.soft}>{index ? 'sheet' : 'no sheet'}; proved by an answer only</span>
    </div>
  );
}

/** What any good answer proves, whatever it says: a frame with a good check came from the station that was asked. */
const provesText = (line: JobLine | null, station: number): string =>
  line?.serial && hasSerialSettings(line)
    ? `This proves rate and form ${settingsText(line.serial)} and station ${station}, whatever the answer says.`
    : `This proves the connection and station ${station}, whatever the answer says.`;

/** One harmless exchange: is there an answer, and what is it? */
function ProvePanel() {
  const bench = useBench();
  const { line, drive, index, places, isOpen, key, name, protocol } = useCurrent();
  const ticket = useDrafts((drafts) => drafts.asked.line.get(key) ?? 0);
  const result = useBenchState((state) => state.results.get(ticket) ?? null);
  const harmless = useHarmless();
  const hasRegisters = (index?.parameters.length ?? 0) > 0;
  const restart = index?.byRole.get('restart');
  const prove = (): void => {
    const bytes = harmless();
    if (bytes.length > 0 && drive) bench.drafts.getState().setAsked('line', key, bench.send(drive, bytes, 'Line'));
  };
  const readAll = (): void => {
    if (!drive || !index || !places) return;
    const link = (['station', 'bit-rate', 'character-form', 'restart'] as const).flatMap(
      (role) => index.byRole.get(role) ?? [],
    );
    for (const bytes of [
      ...watchReads(drive.station, index, places),
      ...identityReads(drive.station, index, places),
      ...(link.length > 0 ? places.read(drive.station, link) : []),
    ])
      bench.send(drive, bytes, 'Line');
  };
  return (
    <Panel title="Prove the link" aside="one read; nothing that can turn a shaft">
      <div className={styles.row}>
        <ActButton
          variant="contained"
          off={whyOff([!isOpen, LINE_CLOSED], [harmless().length === 0, 'nothing harmless is known to ask it'])}
          onClick={prove}
        >
          {hasRegisters ? `Ask ${name} for its status` : `Ask ${name} something harmless`}
        </ActButton>
        <ActButton
          variant="outlined"
          color="inherit"
          off={whyOff([!isOpen, LINE_CLOSED], [!hasRegisters, 'its sheet names none'])}
          onClick={readAll}
        >
          Read its link settings and identity
        </ActButton>
        {restart && index && (
          <ActButton
            variant="outlined"
            color="inherit"
            off={isOpen ? '' : LINE_CLOSED}
            onClick={() => drive && restartDrive(bench, drive, index)}
          >
            Restart {name}
          </ActButton>
        )}
      </div>
      {!isOpen && <p className={styles.soft}>The line is closed; opening it sends nothing.</p>}
      {ticket !== 0 && (
        <p data-testid="prove-outcome">
          {result ? (
            <>
              <strong className={isGood(result.outcome) ? styles.good : styles.bad}>
                {OUTCOME_TEXT[result.outcome]}
              </strong>
              {result.reply && ` ${((result.endedUs - result.sentUs) / 1000).toFixed(1)} ms after the request`}
              {result.reply &&
                protocol &&
                `: ${protocol.sentence(result.reply, 'response', result.request.bytes, index)}`}
              {isGood(result.outcome) && `. ${provesText(line, drive?.station ?? 0)}`}
              {!isGood(result.outcome) && (
                <>
                  {' · '}
                  <Button variant="text" color="inherit" onClick={() => bench.drafts.getState().setLinePart('doctor')}>
                    Why? Ask the doctor
                  </Button>
                </>
              )}
            </>
          ) : (
            'waiting for the drive …'
          )}
        </p>
      )}
      {line?.far === 'yard' && <p className={styles.soft}>The drives of this line are stand-ins in this page.</p>}
    </Panel>
  );
}

const VERDICT = { same: '=', differs: '≠', unknown: '?' } as const;

/** Type, firmware and size against the sheet; and the way to make the device show itself. */
function IdentityPanel() {
  const bench = useBench();
  const { index, view, drive, places, isOpen, name } = useCurrent();
  const rows = index ? identityOf(index, (cell) => view.values.get(cell)) : [];
  const showItself = index?.byRole.get('show-itself');
  const flash = (word: number): void => {
    const bytes = showItself && drive && places ? places.write(drive.station, showItself, word, () => undefined) : null;
    if (bytes && drive) bench.send(drive, bytes, 'Line');
  };
  const shows = showItself ? liveIn(showItself, view.values)?.word === 1 : false;
  return (
    <Panel title="Which drive is it?" aside="against its sheet, before anything is written">
      <table className={styles.table}>
        <tbody>
          {rows.map(({ parameter, expected, actual, verdict }) => (
            <tr key={parameter.number}>
              <td>{parameter.name}</td>
              <td className={verdict === 'differs' ? styles.bad : verdict === 'same' ? styles.good : styles.soft}>
                {VERDICT[verdict]}
              </td>
              <td className={styles.mono}>{actual ?? 'not read'}</td>
              <td className={styles.soft}>sheet: {expected}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.some(({ verdict }) => verdict === 'differs') && (
        <Warning>It differs from the sheet: registers and limits may differ too. Compare before you write.</Warning>
      )}
      {showItself && (
        <div className={styles.row} style={{ marginTop: 8 }}>
          <ActButton
            variant="outlined"
            color="inherit"
            off={isOpen ? '' : LINE_CLOSED}
            onClick={() => flash(shows ? 0 : 1)}
          >
            {shows ? `Let the display of ${name} rest` : `Let the display of ${name} flash`}
          </ActButton>
        </div>
      )}
    </Panel>
  );
}
