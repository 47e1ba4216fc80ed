import { toBase64 } from '../../bytes/base64';
import type { Job } from '../../job/job';
import type { Block } from '../document';
import { driveName, timeText, type HandoverInput } from '../drive';
import { sameOf, type Photo, type PhotoOf } from '../photo';

/** All that a photograph can be put to but runs of trials, in words: the plant, its lines, its drives. */
export const photoPlaces = ({ name, lines }: Job): readonly (readonly [string, PhotoOf])[] => [
  [name, { of: 'plant' }],
  ...lines.flatMap((line): readonly (readonly [string, PhotoOf])[] => [
    [line.name, { of: 'line', line: line.id }],
    ...line.stations.map(
      (station) => [driveName({ line, station }), { of: 'drive', line: line.id, station: station.id }] as const,
    ),
  ]),
];

/** What photographs are of that is not in the job any more: they are lost with it neither to the record nor to who wants them away. */
export function strayPlaces(job: Job, photos: readonly Photo[]): readonly (readonly [string, PhotoOf])[] {
  const known = photoPlaces(job).map(([, of]) => of);
  const strays = photos.map(({ of }) => of).filter((of) => of.of !== 'run' && !known.some((one) => sameOf(one, of)));
  return strays
    .filter((of, i) => strays.findIndex((one) => sameOf(one, of)) === i)
    .map((of) => [`a ${of.of} that is not in the job any more`, of]);
}

/** Photographs of the plant, its lines and its drives; those of trials stand with their runs. */
export const photographBlocks = (input: HandoverInput): readonly Block[] =>
  [...photoPlaces(input.job), ...strayPlaces(input.job, input.photos)].flatMap(([name, of]) =>
    pictures(name, of, input),
  );

/** The photographs of one thing, the oldest first. */
export const pictures = (name: string, of: PhotoOf, { photos, zoneMinutes }: HandoverInput): readonly Block[] =>
  photos
    .filter((photo) => sameOf(photo.of, of))
    .sort((a, b) => a.atMs - b.atMs)
    .map((photo) => picture(name, photo, zoneMinutes));

const picture = (name: string, { caption, atMs, width, height, jpeg }: Photo, zoneMinutes: number): Block => ({
  kind: 'picture',
  title: [name, caption]
    .filter((part) => part !== '')
    .join(': ')
    .slice(0, 400),
  put: timeText(atMs, zoneMinutes),
  width,
  height,
  jpeg: toBase64(jpeg),
  from: { of: 'person' },
});
