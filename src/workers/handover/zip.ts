import { unzipSync, zipSync, type Zippable } from 'fflate';
import { failed, done, type Result } from '../../core/result';
import { sha256 } from '../../store/digest';

/** A file of an archive as bytes. */
export interface PackedFile {
  readonly path: string;
  readonly bytes: Uint8Array;
}

/** Name of the list of digests, in the form that `sha256sum -c` reads. */
export const DIGEST_LIST = 'SHA256SUMS';

/** A ZIP archive with a list of the digests of its files. The same files at the same time give the same bytes. */
export async function packed(files: readonly PackedFile[], madeMs: number): Promise<Uint8Array> {
  const lines: string[] = [];
  const all: Zippable = {};
  // A ZIP's times have no zone; it is the moment in UTC whatever the computer's zone is.
  const mtime = new Date(madeMs + new Date(madeMs).getTimezoneOffset() * 60_000);
  for (const { path, bytes } of files) {
    lines.push(`${await sha256(bytes)}  ${path}\n`);
    all[path] = [bytes, { mtime, level: 6 }];
  }
  all[DIGEST_LIST] = [new TextEncoder().encode(lines.join('')), { mtime, level: 6 }];
  return zipSync(all);
}

/** A larger archive is refused before it is read. */
export const LARGEST_ARCHIVE = 100_000_000;
/** What it says that it grows to, file by file and together; more of it is left. */
const LARGEST = { file: 60_000_000, all: 200_000_000, files: 5_000 } as const;
/** Sentences on what is not whole; more would be read by nobody. */
const MOST_NOTES = 50;

export interface Unpacked {
  readonly files: readonly PackedFile[];
  /** What is not as the list of digests says, or could not be taken, in sentences. */
  readonly notes: readonly string[];
}

/** Paths that lead out of their folder, or are none. */
const isSafe = (path: string): boolean =>
  path !== '' &&
  !path.startsWith('/') &&
  !/^[a-z]:/i.test(path) &&
  !path.includes('\\') &&
  !path.split('/').includes('..');

/** Why an entry is left, by what the archive says of it; empty where it is taken. */
function whyLeft(name: string, size: number, before: { readonly files: number; readonly bytes: number }): string {
  if (!isSafe(name)) return 'its path leads out of the archive';
  if (size > LARGEST.file || before.bytes + size > LARGEST.all) return 'it is too large unpacked';
  return before.files >= LARGEST.files ? 'there are too many files' : '';
}

/** What is whole of an archive; what is not is named. Nothing is written anywhere, and no entry grows beyond what it says. */
export async function unpacked(bytes: Uint8Array): Promise<Result<Unpacked, string>> {
  if (bytes.length > LARGEST_ARCHIVE) return failed('the archive is too large');
  const notes: string[] = [];
  const note = (text: string): void => void (notes.length < MOST_NOTES && notes.push(text));
  const names: string[] = [];
  let [entries, grown] = [0, 0];
  try {
    unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (name.endsWith('/')) return false;
        const why = whyLeft(name, originalSize, { files: entries, bytes: grown });
        entries++;
        if (why === '') {
          names.push(name);
          grown += originalSize;
        } else note(`${name.slice(0, 200)} is left: ${why}`);
        return false;
      },
    });
  } catch {
    return failed('it is no ZIP archive, or it is damaged');
  }
  const read: Record<string, Uint8Array> = {};
  const wanted = new Set(names);
  try {
    Object.assign(read, unzipSync(bytes, { filter: ({ name }) => wanted.has(name) }));
  } catch {
    // One of them is damaged: each is tried by itself, so that what is whole is not lost with it.
    for (const own of wanted) {
      try {
        Object.assign(read, unzipSync(bytes, { filter: ({ name }) => name === own }));
      } catch {
        note(`${own.slice(0, 200)} is damaged`);
      }
    }
  }
  const files = Object.entries(read).map(([path, own]): PackedFile => ({ path, bytes: own }));
  const digests = digestsIn(read[DIGEST_LIST]);
  if (!digests) note('there is no list of digests: whether the files are as they were made cannot be told');
  for (const { path, bytes: own } of files) {
    const digest = digests?.get(path);
    if (path === DIGEST_LIST || !digests) continue;
    if (digest === undefined) note(`${path} is not in the list of digests`);
    else if (digest !== (await sha256(own))) note(`${path} is not as it was when the archive was made`);
  }
  for (const path of digests?.keys() ?? [])
    if (!Object.hasOwn(read, path)) note(`${path} is in the list of digests and not here`);
  return done({ files, notes });
}

function digestsIn(list: Uint8Array | undefined): ReadonlyMap<string, string> | null {
  if (!list) return null;
  const lines = new TextDecoder().decode(list).split('\n');
  return new Map(
    lines.flatMap((line) => {
      const found = /^([0-9a-f]{64}) [ *](.+)$/.exec(line);
      return found?.[1] !== undefined && found[2] !== undefined ? [[found[2], found[1]] as const] : [];
    }),
  );
}
