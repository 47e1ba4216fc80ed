import curlew from '../../sheets/curlew.json';
import dunlin from '../../sheets/dunlin.json';
import linnet from '../../sheets/linnet.json';
import pipit from '../../sheets/pipit.json';
import siskin from '../../sheets/siskin.json';
import tern from '../../sheets/tern.json';
import wren from '../../sheets/wren.json';
import { loadSheet } from '../core/sheet/load-sheet';
import type { Sheet } from '../core/sheet/sheet';

/** The sheets that ship, by their ids; each is read only when it is asked for. */
const FILES: Readonly<Record<string, unknown>> = { tern, wren, dunlin, curlew, pipit, siskin, linnet };
export const SHEET_IDS: readonly string[] = Object.keys(FILES);

export function shippedSheet(id: string): Sheet | null {
  const loaded = Object.hasOwn(FILES, id) ? loadSheet(FILES[id]) : null;
  return loaded?.ok ? loaded.value : null;
}
