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

/** A larger archive is refused before it is opened, and so is one that says that it grows to more than that. */
const LARGEST = { packed: 100_000_000, file: 60_000_000, all: 200_000_000, files: 5_000 } as const;

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

/** What is whole of an archive; what is not is named. Nothing is written anywhere. */
export async function unpacked(bytes: Uint8Array): Promise<Result<Unpacked, string>> {
  if (bytes.length > LARGEST.packed) return failed('the archive is too large');
  const notes: string[] = [];
  let [all, count] = [0, 0];
  let read: Record<string, Uint8Array>;
  try {
    read = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (name.endsWith('/')) return false;
        count++;
        all += originalSize;
        const why = !isSafe(name)
          ? 'its path leads out of the archive'
          : originalSize > LARGEST.file || all > LARGEST.all
            ? 'it is too large unpacked'
            : count > LARGEST.files
              ? 'there are too many files'
              : '';
        if (why !== '' && notes.length < 50) notes.push(`${name.slice(0, 200)} is left: ${why}`);
        return why === '';
      },
    });
  } catch {
    return failed('it is no ZIP archive, or it is damaged');
  }
  const files = Object.entries(read).map(([path, own]): PackedFile => ({ path, bytes: own }));
  const digests = digestsIn(read[DIGEST_LIST]);
  if (!digests) notes.push('there is no list of digests: whether the files are as they were made cannot be told');
  for (const { path, bytes: own } of files) {
    const wanted = digests?.get(path);
    if (path === DIGEST_LIST || !digests) continue;
    if (wanted === undefined) notes.push(`${path} is not in the list of digests`);
    else if (wanted !== (await sha256(own))) notes.push(`${path} is not as it was when the archive was made`);
  }
  for (const path of digests?.keys() ?? [])
    if (!(path in read)) notes.push(`${path} is in the list of digests and not here`);
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
