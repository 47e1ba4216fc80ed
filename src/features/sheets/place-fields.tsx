'use client';

import Button from '@mui/material/Button';
import { wholeIn } from '../../core/bytes/whole';
import { readAddress } from '../../core/registers/notation';
import { TABLE_NAMES, type ModbusTable } from '../../core/registers/tables';
import { indexSheet } from '../../core/sheet/index-sheet';
import type { Parameter } from '../../core/sheet/parameter-section';
import type { Place } from '../../core/sheet/place';
import type { Sheet } from '../../core/sheet/sheet';
import { ChoiceField } from '../../ui/fields';
import { PartField } from '../../ui/part-field';
import { NumberField } from './about-part';

const TABLES = (Object.entries(TABLE_NAMES) as [ModbusTable, string][]).map(([id, name]) => [id, name] as const);

/** Most ways to one value that a sheet holds. */
const MOST_WAYS = 8;

/** All ways to an entry, such as its register and its place in a list that the drive gathers. */
export function WaysFields({
  sheet,
  parameter,
  onWays,
}: {
  readonly sheet: Sheet;
  readonly parameter: Parameter;
  readonly onWays: (at: readonly Place[]) => void;
}) {
  const ways = parameter.at ?? [];
  const set = (which: number, place: Place | null): void =>
    onWays(
      place === null
        ? ways.filter((_, i) => i !== which)
        : which < ways.length
          ? ways.map((own, i) => (i === which ? place : own))
          : [...ways, place],
    );
  // The rule's place is written down once there is another: the first way stays what it was.
  const ruled = ways.length === 0 ? indexSheet(sheet).byNumber.get(parameter.number)?.place : undefined;
  return (
    <>
      <PlaceFields
        sheet={sheet}
        parameter={parameter}
        place={ways[0]}
        isOnly={ways.length < 2}
        onPlace={(place) => set(0, place)}
      />
      {ways.slice(1).map((place, i) => (
        <PlaceFields
          key={i}
          further={i + 2}
          sheet={sheet}
          parameter={parameter}
          place={place}
          onPlace={(next) => set(i + 1, next)}
        />
      ))}
      {(ways.length > 0 || ruled) && ways.length < MOST_WAYS && (
        <Button
          variant="text"
          color="inherit"
          onClick={() =>
            onWays([...(ruled ? [ruled] : ways), { kind: 'register', table: 'holding-register', address: 0 }])
          }
        >
          Reached in another way too
        </Button>
      )}
    </>
  );
}

function PlaceFields({
  sheet,
  parameter,
  place,
  isOnly = false,
  further,
  onPlace,
}: {
  readonly sheet: Sheet;
  readonly parameter: Parameter;
  readonly place: Place | undefined;
  readonly isOnly?: boolean;
  /** The number of a way that is not the first. */
  readonly further?: number;
  readonly onPlace: (place: Place | null) => void;
}) {
  const label = (name: string): string => (further === undefined ? name : `${name}, way ${further}`);
  const begin = (kind: string): Place | null => {
    switch (kind) {
      case 'register':
        return { kind, table: 'holding-register', address: 0 };
      case 'uss':
        return { kind, number: wholeIn(parameter.number) ?? 0 };
      case 'process-out':
      case 'process-in':
        return { kind: 'process', direction: kind === 'process-out' ? 'out' : 'in', word: 0 };
      case 'command':
        return { kind, command: sheet.dialect?.commands[0]?.id ?? 'read' };
      default:
        return null;
    }
  };
  const kind = place?.kind === 'process' ? `process-${place.direction}` : (place?.kind ?? '');
  return (
    <>
      <ChoiceField
        label={label('Reached as')}
        width={210}
        value={kind}
        onChange={(next) => onPlace(begin(next))}
        options={[
          ...(isOnly ? [['', sheet.addressRule ? 'by the rule from its number' : 'not said'] as const] : []),
          ...(further === undefined ? [] : [['', 'not any more'] as const]),
          ['register', 'a place of a Modbus table'],
          ['uss', 'a parameter of USS'],
          ['process-out', 'process data to the drive'],
          ['process-in', 'process data from the drive'],
          ...(sheet.dialect ? [['command', 'a command of its dialect'] as const] : []),
        ]}
      />
      {place?.kind === 'register' && (
        <>
          <ChoiceField
            label={label('Table')}
            width={160}
            value={place.table}
            onChange={(table) => onPlace({ ...place, table: table as ModbusTable })}
            options={TABLES}
          />
          <AddressField label={label('Address')} place={place} onPlace={onPlace} />
        </>
      )}
      {place?.kind === 'uss' && (
        <>
          <NumberField
            label={label('Parameter')}
            width={110}
            value={place.number}
            range={[0, 9999]}
            isNeeded
            onNumber={(number) => onPlace({ ...place, number: number ?? 0 })}
          />
          <NumberField
            label={label('Elements')}
            width={100}
            value={place.elements}
            range={[2, 255]}
            onNumber={(elements) =>
              onPlace(elements === undefined ? { kind: 'uss', number: place.number } : { ...place, elements })
            }
          />
        </>
      )}
      {place?.kind === 'process' && (
        <NumberField
          label={label('Word')}
          width={90}
          value={place.word + 1}
          range={[1, 16]}
          isNeeded
          onNumber={(word) => onPlace({ ...place, word: (word ?? 1) - 1 })}
        />
      )}
      {place?.kind === 'command' && sheet.dialect && (
        <ChoiceField
          label={label('Command')}
          width={180}
          value={place.command}
          onChange={(command) => onPlace({ ...place, command })}
          options={sheet.dialect.commands.map(({ id, name, verb }) => [id, `${verb} ${name}`] as const)}
        />
      )}
    </>
  );
}

/** An address in any notation; what was made of it stands below. */
function AddressField({
  label,
  place,
  onPlace,
}: {
  readonly label: string;
  readonly place: Extract<Place, { kind: 'register' }>;
  readonly onPlace: (place: Place) => void;
}) {
  return (
    <PartField
      label={label}
      width={150}
      value={`${place.address}`}
      note={`${place.address} counted from 0, 0x${place.address.toString(16).toUpperCase().padStart(4, '0')}`}
      read={(text) => {
        const [reading] = readAddress(text);
        if (!reading) return 'an address or a reference, such as 107, 0x6B or 40108';
        return { ...place, address: reading.address, ...(reading.table ? { table: reading.table } : {}) };
      }}
      onValue={onPlace}
    />
  );
}
