'use client';

import Button from '@mui/material/Button';
import { useEffect, useMemo, useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { forThisBench } from '../../bench/state/for-this-bench';
import { hexNumber } from '../../core/bytes/hex';
import { wholeIn } from '../../core/bytes/whole';
import { counted } from '../../core/counted';
import { messageOf } from '../../core/message-of';
import {
  afterReply,
  beginLook,
  lookAgain,
  MOST_SILENCES,
  movedBetween,
  nextAsk,
  NO_SUCH_COMMAND,
  progressOf,
  type Look,
  type LookSpace,
} from '../../core/registers/look';
import { dialectProtocol } from '../../core/protocol/dialect-protocol';
import { readAddress } from '../../core/registers/notation';
import { indexSheet, type PlacedParameter } from '../../core/sheet/index-sheet';
import type { Sheet } from '../../core/sheet/sheet';
import { HeadRow } from '../../ui/head-row';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel, Warning } from '../../ui/panel';
import { EntryButton } from './entry-button';
import { FindValuePanel } from './find-value-panel';
import { lookReply, lookRequest, notationText, parameterIn, readable, spaceName, spacesOf } from './look-space';
import { keepLooks, lookStore, recallLook, useLook } from './look-store';
import { setTyped, useTypedText } from './sheet-drafts';
import styles from './sheets.module.css';

/** More rows than this are counted only. */
const MOST_SHOWN = 300;
/** A pause between two reads: the line's other users come to their turn. */
const POLITE_MS = 40;

/** From the drive itself: which registers it has, what they hold, and which of them move when something is turned at the drive. */
export function DrivePart({ sheet }: { readonly sheet: Sheet }) {
  const { line, protocol } = useCurrent();
  useDriving(sheet);
  useKeptLook();
  if (!line || spacesOf(protocol?.family).length === 0)
    return (
      <Panel title="From the drive">
        Choose a station in Job: then its registers, parameters or commands can be looked for here.
      </Panel>
    );
  if (protocol?.family === 'ascii' && readable(sheet).length === 0)
    return (
      <Panel title="From the drive">
        Describe the commands that can be read, in Frames, Dialect: then a look tells which of them this drive has.
      </Panel>
    );
  if (protocol?.family === 'uss' && !sheet.uss)
    return (
      <Panel title="From the drive">
        Say under About, USS, how many words the parameter channel and the process data have: without that no telegram
        can be made.
      </Panel>
    );
  return (
    <div className={styles.stack}>
      <LookPanel sheet={sheet} />
      <MovedPanel sheet={sheet} />
      <FindValuePanel sheet={sheet} />
      <FoundPanel sheet={sheet} />
    </div>
  );
}

/** A look of this drive that an earlier start of the page began is there again; what is looked at now is kept. */
function useKeptLook(): void {
  const bench = useBench();
  const { drive } = useCurrent();
  useEffect(() => {
    forThisBench('looks', bench, () => keepLooks(bench));
    if (drive && !lookStore.getState().look)
      recallLook(bench, drive).catch((error: unknown) =>
        bench.state.setState({ refused: `what was looked for before was not read: ${messageOf(error)}` }),
      );
  }, [bench, drive]);
}

/** Sends the next read as soon as the last one is answered, while this view is open and the line is. */
function useDriving(sheet: Sheet): void {
  const bench = useBench();
  const { framing, isOpen, protocol: spoken, drive: chosen } = useCurrent();
  const isGoing = useLook((state) => state.isGoing);
  const ticket = useLook((state) => state.ticket);
  const look = useLook((state) => state.look);
  const drive = useLook((state) => state.drive);
  const commands = useLook((state) => state.commands);
  const result = useBenchState((state) => state.results.get(ticket) ?? null);
  // A dialect is looked through as it is described here, which may be more than the station's own sheet has.
  const protocol = useMemo(
    () => (spoken?.family === 'ascii' && sheet.dialect ? dialectProtocol(sheet.dialect) : spoken),
    [spoken, sheet.dialect],
  );
  useEffect(() => {
    if (!isGoing || !look || !drive) return undefined;
    // Another drive may be on a line that speaks otherwise; Stop ends whatever waits, this too.
    const isOther = chosen?.line !== drive.line || chosen.station !== drive.station;
    if (!isOpen || isOther || result?.outcome === 'abandoned' || result?.outcome === 'closed') {
      lookStore.setState({ isGoing: false, ticket: 0 });
      return undefined;
    }
    if (ticket !== 0 && !result) return undefined;
    const asked = nextAsk(look);
    const places = protocol?.placesOf(indexSheet(sheet)) ?? null;
    const way = { protocol, framing, places, commands };
    const now = result && asked ? afterReply(look, lookReply(look.table, asked, result, way)) : look;
    const next = nextAsk(now);
    if (!next || now.silences >= MOST_SILENCES) {
      lookStore.setState({ look: now, isGoing: false, ticket: 0 });
      return undefined;
    }
    const timer = setTimeout(() => {
      const bytes = lookRequest(now.table, next, drive.station, way);
      if (bytes) lookStore.setState({ look: now, ticket: bench.send(drive, bytes, 'look') });
      // What the description does not have any more cannot be asked; the look goes on to what it has.
      else if (now.table === 'command')
        lookStore.setState({ look: afterReply(now, { kind: 'exception', code: NO_SUCH_COMMAND }), ticket: 0 });
      else lookStore.setState({ look: now, isGoing: false, ticket: 0 });
    }, POLITE_MS);
    return () => clearTimeout(timer);
  }, [bench, chosen, commands, drive, framing, isGoing, isOpen, look, protocol, result, sheet, ticket]);
  // Another view sends nothing of this.
  useEffect(() => () => lookStore.setState({ isGoing: false, ticket: 0 }), []);
}

const begin = (look: Look, more: Partial<ReturnType<typeof lookStore.getState>>): void =>
  lookStore.setState({ look, isGoing: true, ticket: 0, sinceMs: Date.now(), knownThen: look.found.size, ...more });

function LookPanel({ sheet }: { readonly sheet: Sheet }) {
  const { drive, name, isOpen, line, protocol } = useCurrent();
  const spaces = spacesOf(protocol?.family);
  const typed = useTypedText('look table');
  const usual: LookSpace = spaces.includes('holding-register') ? 'holding-register' : (spaces[0] ?? 'uss');
  const table = spaces.find((space) => space === typed) ?? usual;
  const commands = readable(sheet);
  const [from, to] = [useTypedText('look from'), useTypedText('look to')];
  const { look, isGoing, name: about, drive: own, sinceMs, knownThen } = useLook((state) => state);
  const addressIn = (text: string): number | null =>
    table === 'uss' || table === 'command' ? wholeIn(text) : (readAddress(text, table)[0]?.address ?? null);
  const [first, last] = table === 'command' ? [0, commands.length - 1] : [addressIn(from), addressIn(to)];
  const others = (line?.stations.length ?? 0) > 1;
  const trouble = (text: string): string => (text.trim() !== '' && addressIn(text) === null ? 'no address' : '');
  const start = (): void => {
    if (first !== null && last !== null && drive)
      begin(beginLook(table, first, last), { drive, name, commands, before: null });
  };
  const isSame = own?.line === drive?.line && own?.station === drive?.station;
  return (
    <Panel
      title={`Look for ${spaceName(table)}s at ${name}`}
      aside={
        table === 'command'
          ? `reads only; each of the ${commands.length} that can be read is asked once`
          : 'reads only; blocks that are refused are halved until each address is known'
      }
    >
      <div className={styles.row}>
        <ChoiceField
          label="Table"
          width={180}
          value={table}
          onChange={(value) => setTyped('look table', value)}
          options={spaces.map((space) => [space, `${spaceName(space)}s`] as const)}
        />
        {table !== 'command' && (
          <>
            <TypedField
              label="From"
              width={120}
              value={from}
              error={trouble(from)}
              onChange={(value) => setTyped('look from', value)}
            />
            <TypedField
              label="To"
              width={120}
              value={to}
              error={trouble(to)}
              onChange={(value) => setTyped('look to', value)}
            />
          </>
        )}
        {isGoing ? (
          <Button variant="outlined" onClick={() => lookStore.setState({ isGoing: false, ticket: 0 })}>
            Pause
          </Button>
        ) : (
          <ActButton
            variant="outlined"
            off={whyOff([!isOpen, LINE_CLOSED], [first === null || last === null, 'say from which address to which'])}
            onClick={start}
          >
            Look
          </ActButton>
        )}
        {look && !isGoing && nextAsk(look) !== null && isSame && (
          <ActButton
            variant="outlined"
            off={isOpen ? '' : LINE_CLOSED}
            onClick={() => begin({ ...look, silences: 0 }, {})}
          >
            Go on
          </ActButton>
        )}
      </div>
      {look && <p role="status">{progressText(look, about, isGoing, sinceMs, knownThen)}</p>}
      <p className={styles.soft}>
        A read has effects in rare drives: a counter starts anew, an event is acknowledged. Begin with what the manual
        names.
        {others && ' Other stations of this line are asked less often meanwhile.'}
      </p>
    </Panel>
  );
}

function progressText(look: Look, about: string, isGoing: boolean, sinceMs: number, knownThen: number): string {
  const { known, of } = progressOf(look);
  const there = [...look.found.values()].filter(({ kind }) => kind === 'there').length;
  const seconds = (Date.now() - sinceMs) / 1000;
  const rate = seconds > 0.5 ? (known - knownThen) / seconds : 0;
  const left = isGoing && rate > 0 ? `, ${rate.toFixed(0)} a second, ${Math.ceil((of - known) / rate)} s left` : '';
  const silent = look.silences >= MOST_SILENCES ? '; paused, since it does not answer' : '';
  return `${about}: ${known} of ${of} known, ${there} there, ${counted(look.requests, 'read')}${left}${silent}`;
}

/** The next look at what is there, and what moved since. */
function MovedPanel({ sheet }: { readonly sheet: Sheet }) {
  const { isOpen } = useCurrent();
  const { look, before, isGoing, commands } = useLook((state) => state);
  const isDone = look !== null && nextAsk(look) === null;
  const there = look ? [...look.found.values()].some(({ kind }) => kind === 'there') : false;
  if (!look || !(there || before)) return null;
  const moved = before && isDone ? movedBetween(before, look) : [];
  return (
    <Panel title="What changed?" aside="look, turn one setting at the drive, look again: the few that moved are it">
      <ActButton
        variant="outlined"
        off={whyOff([isGoing, 'a look is under way'], [!isDone, 'this look is not done'], [!isOpen, LINE_CLOSED])}
        onClick={() => begin(lookAgain(look), { before: look })}
      >
        I turned something at the drive: look again
      </ActButton>
      {before && isDone && moved.length === 0 && <p>Nothing moved between the last two looks.</p>}
      {moved.length > 0 && (
        <table className={styles.found} aria-label="Registers that moved">
          <HeadRow names={['register', 'before', 'after', 'by', 'with the one behind it', 'make an entry of it']} />
          <tbody>
            {moved.slice(0, MOST_SHOWN).map(({ address, before: was, after: is, wide }) => (
              <tr key={address}>
                <td className={styles.mono}>{nameAt(look, address, commands)}</td>
                <td className={styles.mono}>{was}</td>
                <td className={styles.mono}>{is}</td>
                <td className={styles.mono}>{signed(is) - signed(was)}</td>
                <td className={styles.soft}>
                  {wide.map(({ as, before: old, after: now }) => `${as}: ${short(old)} → ${short(now)}`).join('; ')}
                </td>
                <td>
                  <EntryButton sheet={sheet} look={look} address={address} said={`moved from ${was} to ${is}`} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Panel>
  );
}

const signed = (word: number): number => (word >= 0x8000 ? word - 0x10000 : word);
const short = (value: number): string => String(Number(value.toPrecision(7)));

/** An entry's number and name, once where they are the same. */
const entryTitle = ({ number, name }: PlacedParameter): string => (number === name ? name : `${number} ${name}`);

/** A place as it is named: its address, or the command. */
const nameAt = (look: Look, address: number, commands: readonly string[]): string =>
  look.table === 'command' ? (commands[address] ?? '') : `${address}`;

function FoundPanel({ sheet }: { readonly sheet: Sheet }) {
  const look = useLook((state) => state.look);
  const commands = useLook((state) => state.commands);
  const [all, setAll] = useState(false);
  if (!look || look.found.size === 0) return null;
  const index = indexSheet(sheet);
  const rows = [...look.found].filter(([, { kind }]) => all || kind !== 'missing').sort(([a], [b]) => a - b);
  const missing = [...look.found.values()].filter(({ kind }) => kind === 'missing').length;
  const refused = rows.filter(([, { kind }]) => kind === 'refused').length;
  return (
    <Panel
      title={`${counted(rows.length - refused, spaceName(look.table))} found`}
      aside={`${missing} are not there${refused > 0 ? `, ${refused} are refused for another reason` : ''}`}
      tools={
        <Button variant="text" color="inherit" aria-pressed={all} onClick={() => setAll(!all)}>
          Show what is missing too
        </Button>
      }
    >
      <table className={styles.found} aria-label="Registers that were found">
        <tbody>
          {rows.slice(0, MOST_SHOWN).map(([address, finding]) => {
            const parameter = parameterIn(index, look.table, address, commands);
            return (
              <tr key={address}>
                <td className={styles.mono}>
                  {nameAt(look, address, commands)}{' '}
                  <span className={styles.soft}>{notationText(look.table, address)}</span>
                </td>
                <td className={styles.mono}>
                  {finding.kind === 'there'
                    ? (finding.text ?? `${finding.word} = ${hexNumber(finding.word)}`)
                    : finding.kind === 'missing'
                      ? 'not there'
                      : `refused, ${look.table === 'command' ? 'error' : 'exception'} ${finding.code}`}
                </td>
                <td>{parameter && entryTitle(parameter)}</td>
                <td>
                  {finding.kind === 'there' && !parameter && (
                    <EntryButton sheet={sheet} look={look} address={address} said={`held ${finding.word}`} />
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {rows.length > MOST_SHOWN && <p className={styles.soft}>And {rows.length - MOST_SHOWN} more.</p>}
      {look.table === 'holding-register' && rows.length === 0 && nextAsk(look) === null && (
        <Warning>No holding register was found in this range.</Warning>
      )}
    </Panel>
  );
}
