import type { FaultList } from './description';

/** One section of a file of `[name]` and `key=value`; keys are without capitals. */
export interface Section {
  readonly name: string;
  readonly line: number;
  readonly entries: ReadonlyMap<string, { readonly value: string; readonly line: number }>;
}

/**
 * Sections of `key=value` by name without capitals. Written here and no package's, since a value may hold `;` and a section's name a point, and each
 * fault needs its line.
 */
export function readSections(text: string, faults: FaultList): ReadonlyMap<string, Section> {
  const sections = new Map<string, Section & { entries: Map<string, { value: string; line: number }> }>();
  let open: { entries: Map<string, { value: string; line: number }> } | null = null;
  text.split(/\r\n?|\n/).forEach((raw, i) => {
    const line = i + 1;
    const bare = raw.trim();
    if (bare === '' || bare.startsWith(';')) return;
    const name = /^\[([^\]]*)\]$/.exec(bare)?.[1]?.trim();
    if (name !== undefined) {
      const key = name.toLowerCase();
      if (sections.has(key)) faults.add(line, `the section [${name}] stands here a second time`);
      const section = { name, line, entries: new Map<string, { value: string; line: number }>() };
      sections.set(key, section);
      open = section;
      return;
    }
    const at = bare.indexOf('=');
    if (at <= 0) return faults.add(line, `“${bare.slice(0, 60)}” is neither a section nor an entry with =`);
    if (!open) return faults.add(line, `“${bare.slice(0, 60)}” stands before the first section`);
    open.entries.set(bare.slice(0, at).trim().toLowerCase(), { value: bare.slice(at + 1).trim(), line });
  });
  return sections;
}
