'use client';

import { useState } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { usePhotoRows, usePhotos } from '../../bench/hooks/use-photos';
import { photoPlaces, strayPlaces } from '../../core/handover/sections/photographs';
import { ChoiceField } from '../../ui/fields';
import { PhotoStrip } from '../../ui/photo-strip';
import styles from './handover.module.css';

/** Photographs of the plant, its lines and its drives; those of a trial are put to its run, in Trials. */
export function PhotosPart() {
  const job = useBenchState((state) => state.job);
  const [chosen, setChosen] = useState(0);
  const photos = usePhotoRows();
  const places = job ? [...photoPlaces(job), ...strayPlaces(job, photos)] : [];
  const [name = '', of = { of: 'plant' }] = places[chosen] ?? places[0] ?? [];
  const strip = usePhotos(of);
  return (
    <div className={styles.photos}>
      <ChoiceField
        label="Of what"
        width={320}
        value={`${places[chosen] ? chosen : 0}`}
        onChange={(next) => setChosen(parseInt(next, 10))}
        options={places.map(([text], i) => [`${i}`, text])}
      />
      <PhotoStrip name={name} {...strip} />
    </div>
  );
}
