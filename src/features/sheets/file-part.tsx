'use client';

import { useState } from 'react';
import { askFileWorker } from '../../bench/workers/ask-file-worker';
import { counted } from '../../core/counted';
import { KIND_NAMES } from '../../core/devices/description';
import { takenInto } from '../../core/sheet/adopt-described';
import type { AdoptedDescription } from '../../messages/file';
import type { Sheet } from '../../core/sheet/sheet';
import { ActButton } from '../../ui/act-button';
import { FileButton } from '../../ui/file-button';
import { Facts, Panel, Warning } from '../../ui/panel';
import { FoundTable } from './found-table';
import { editSheet, merged, setEntry, setPart } from './sheet-drafts';
import styles from './sheets.module.css';

/** A device description file: identity, entries, images. Nothing is taken before the user says so, and nothing leaves this computer. */
export function FilePart({ sheet }: { readonly sheet: Sheet }) {
  const [opened, setOpened] = useState<{ readonly name: string; readonly description: AdoptedDescription } | null>(
    null,
  );
  const [said, setSaid] = useState('');
  const open = (file: File): void =>
    void askFileWorker({ kind: 'describe', file }).then((told) => {
      setSaid(told.kind === 'faults' ? told.faults.map(({ text }) => text).join('; ') : '');
      if (told.kind === 'description') setOpened({ name: file.name, description: told.description });
    });
  return (
    <div className={styles.stack}>
      <Panel
        title="From a device description"
        aside="CANopen EDS, EtherNet/IP EDS, IODD, GSDML"
        tools={
          <FileButton label="Description file" accept=".eds,.xml" onFile={open}>
            Open a description file
          </FileButton>
        }
      >
        {said !== '' && <p className={styles.bad}>{said}</p>}
        {opened ? (
          <Identity name={opened.name} description={opened.description} />
        ) : (
          <p>Open a file: it is read here, and nothing of it is sent anywhere.</p>
        )}
      </Panel>
      {opened && <Entries sheet={sheet} name={opened.name} description={opened.description} />}
    </div>
  );
}

function Identity({ name, description }: { readonly name: string; readonly description: AdoptedDescription }) {
  const { kind, identity, adopted, images, faults } = description;
  return (
    <>
      <Facts
        rows={[
          ['file', name],
          ['kind', kind ? KIND_NAMES[kind] : 'none that is known'],
          ['device', identity.name ?? 'not said'],
          ['vendor', identity.vendor ?? 'not said'],
          ['product', identity.product ?? 'not said'],
          ['revision', identity.revision ?? 'not said'],
          ['entries', `${adopted.length}`],
          ...images.map(
            (image) =>
              [
                image.direction === 'to-drive' ? 'to the drive' : 'from the drive',
                `${image.name || image.id}, ${image.bytes} bytes: ${image.items.map((item) => item.name).join(', ')}`,
              ] as const,
          ),
        ]}
      />
      {faults.slice(0, 8).map(({ line, text }, i) => (
        <Warning key={i}>
          Line {line}: {text}.
        </Warning>
      ))}
      {faults.length > 8 && <p>And {faults.length - 8} more like these.</p>}
    </>
  );
}

function Entries({
  sheet,
  name,
  description,
}: {
  readonly sheet: Sheet;
  readonly name: string;
  readonly description: AdoptedDescription;
}) {
  const { adopted } = description;
  const speaks402 = ['0X6040:00', '0X6041:00'].every((key) =>
    adopted.some(({ parameter }) => parameter.number.toUpperCase() === key),
  );
  const take = (): void => {
    const { parameters } = takenInto(
      sheet.parameters ?? [],
      adopted.map(({ parameter }) => ({ ...parameter, source: { kind: 'file', text: name } })),
      false,
    );
    editSheet((before) =>
      merged(before, {
        parameters: [...parameters],
        ...(speaks402 && !before.profile ? { profile: { kind: 'cia402', modes: ['velocity'] } } : {}),
      }),
    );
    setEntry(0);
    setPart('parameters');
  };
  return (
    <Panel
      title={counted(adopted.length, 'entry', 'entries')}
      aside={
        speaks402 && !sheet.profile
          ? 'with them the sheet takes the states of CiA 402, which such files do not hold'
          : ''
      }
    >
      <p className={styles.soft}>
        The file does not say how these are reached over a line of this bench. With a rule under “About”, or an address
        at an entry, they are; until then they are kept as a description.
      </p>
      <FoundTable found={adopted} label="Entries of the description" about={({ assumed }) => assumed.join('; ')} />
      <ActButton variant="contained" off={adopted.length === 0 ? 'the file describes no entry' : ''} onClick={take}>
        Take {counted(adopted.length, 'entry', 'entries')} into {sheet.name}
      </ActButton>
    </Panel>
  );
}
