import type { CommandRole } from '../dialect/roles';
import { actOf, type DialectAct } from './dialect-act';
import type { SheetIndex } from '../sheet/index-sheet';
import { bitOfRole, withBit } from '../words/read';
import type { KnownWord, PlaceLink } from './place-link';

/** One direction of a jog: what is sent when the key goes down, and when it is let go. */
export interface Jog {
  readonly id: 'forward' | 'backward';
  readonly press: readonly Uint8Array[];
  readonly release: readonly Uint8Array[];
  /** What goes out, in words: `0x0045, then 0x0005`. */
  readonly shown: string;
}

export type Jogs =
  | {
      readonly kind: 'jogs';
      readonly jogs: readonly Jog[];
      /** How fast: at the drive's own jog speed, at a reference that is sent first, or at the speed that is set for moves. */
      readonly at: 'jog-speed' | 'reference' | 'move-speed';
    }
  | { readonly kind: 'none'; readonly why: string };

interface Words {
  readonly id: Jog['id'];
  readonly hold: number;
  readonly release: number;
  /** The reference that goes before the word; null where the word says it all. */
  readonly reference: number | null;
}

/** PROFIdrive: in operation, with bits 4 to 6 at 0, bit 8 or 9 turns at a jog speed (from memory of the published description). */
const PROFIDRIVE_JOG = { base: 0x040f, forward: 8, backward: 9, release: 0x047e } as const;
/** With these bits of the base the drive is on its way to operation before the jog bit counts. */
const PROFIDRIVE_READY = 0x047e;

/**
 * How a drive is jogged over its link: by a jog bit of its own, by PROFIdrive's bits, by a command of its dialect, or, where it has none of
 * these, by holding the run word at a reference that is sent first. `reference` is that reference as a raw number, null where none is typed.
 */
export function jogsOf(
  index: SheetIndex,
  places: PlaceLink,
  station: number,
  known: KnownWord,
  reference: number | null,
): Jogs {
  if (index.sheet.dialect) return dialectJogs(index, station);
  const control = index.byRole.get('control-word');
  if (!control || !index.words) return { kind: 'none', why: 'the sheet does not say where the control word is' };
  const words = ownJog(index) ?? profidriveJog(index);
  const held = words ?? heldRun(index, reference);
  if (typeof held === 'string') return { kind: 'none', why: held };
  const speed = index.byRole.get('speed-reference');
  const jogs = held.flatMap(({ id, hold, release, reference: first }): readonly Jog[] => {
    const write = (word: number): Uint8Array | null =>
      places.write(station, control, word, withReference(known, first));
    const before = first !== null && speed ? places.write(station, speed, first & 0xffff, known) : null;
    const [press, up] = [write(hold), write(release)];
    if (!press || !up || (first !== null && !before)) return [];
    const ready = index.profile?.id === 'profidrive' ? write(PROFIDRIVE_READY) : null;
    return [
      {
        id,
        press: [ready, before, press].filter((bytes) => bytes !== null),
        release: [up],
        shown: `${first === null ? '' : `reference ${hex(first & 0xffff)}, `}${hex(hold)}; let go: ${hex(release)}`,
      },
    ];
  });
  return jogs.length > 0
    ? { kind: 'jogs', jogs, at: words ? 'jog-speed' : 'reference' }
    : { kind: 'none', why: 'this link cannot write the control word' };
}

const hex = (word: number): string => `0x${word.toString(16).toUpperCase().padStart(4, '0')}`;

/** A link that carries the reference along with the word must carry the one that was just given. */
const withReference =
  (known: KnownWord, reference: number | null): KnownWord =>
  (role) =>
    role === 'speed-reference' && reference !== null ? reference & 0xffff : known(role);

/** From the first command of the sheet that has its jog bit set; null where it has none. */
function ownJog({ words, commands }: SheetIndex): readonly Words[] | null {
  const bit = words && bitOfRole(words.control, 'jog')?.bit;
  const command = bit === undefined ? undefined : commands.find(({ word }) => ((word >>> bit) & 1) === 1);
  if (bit === undefined || !command) return null;
  const reverse = words && bitOfRole(words.control, 'reverse');
  const forward = {
    id: 'forward',
    hold: command.word,
    release: withBit(command.word, bit, 0),
    reference: null,
  } as const;
  if (!reverse) return [forward];
  const level = reverse.active === 'low' ? 0 : 1;
  return [forward, { ...forward, id: 'backward', hold: withBit(command.word, reverse.bit, level) }];
}

function profidriveJog({ profile }: SheetIndex): readonly Words[] | null {
  if (profile?.id !== 'profidrive') return null;
  const { base, release } = PROFIDRIVE_JOG;
  return (['forward', 'backward'] as const).map((id) => ({
    id,
    hold: withBit(base, PROFIDRIVE_JOG[id], 1),
    release,
    reference: null,
  }));
}

/** The run word held, and the last of the stop words when it is let go; the sign of the reference gives the direction. */
function heldRun({ profile, sheet, byRole }: SheetIndex, reference: number | null): readonly Words[] | string {
  const stops = sheet.commands?.stop.words ?? [];
  const release = stops[stops.length - 1];
  if (!profile?.runs || release === undefined) return 'the sheet knows no jog, no run word and no stop word';
  if (!byRole.has('speed-reference')) return 'in this mode the drive takes no speed reference; jog it in a speed mode';
  if (reference === null || reference === 0)
    return 'it has no jog of its own: type the speed at which it shall turn while held';
  const hold = profile.runs.value;
  const size = Math.abs(reference);
  return [
    { id: 'forward', hold, release, reference: size },
    { id: 'backward', hold, release, reference: -size },
  ];
}

function dialectJogs(index: SheetIndex, station: number): Jogs {
  const line = (role: CommandRole): DialectAct | null => actOf(index, station, role);
  const stop = line('stop');
  if (!stop) return { kind: 'none', why: 'this dialect has no command that stops' };
  const jogs = (['forward', 'backward'] as const).flatMap((id): readonly Jog[] => {
    const go = line(`jog-${id}`);
    return go ? [{ id, press: [go.bytes], release: [stop.bytes], shown: `${go.verb}; let go: ${stop.verb}` }] : [];
  });
  return jogs.length > 0
    ? { kind: 'jogs', jogs, at: 'move-speed' }
    : { kind: 'none', why: 'this dialect has no command that jogs' };
}
