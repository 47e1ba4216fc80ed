'use client';

import Button from '@mui/material/Button';
import { useMemo } from 'react';
import { toBase64 } from '../core/bytes/base64';
import type { Photo } from '../core/handover/photo';
import { TypedField } from './fields';
import { FileButton } from './file-button';
import { Warning } from './panel';
import styles from './photo-strip.module.css';

interface StripProps {
  /** What they are of, in words. */
  readonly name: string;
  readonly photos: readonly Photo[];
  readonly isMaking: boolean;
  readonly trouble: string;
  /** The one that was taken away last, in words; empty: none. */
  readonly gone: string;
  readonly onAdd: (file: File) => void;
  readonly onCaption: (id: string, text: string) => void;
  readonly onRemove: (id: string) => void;
  readonly onPutBack: () => void;
}

/** Photographs of one thing, each with what somebody says of it. */
export function PhotoStrip({ name, photos, isMaking, trouble, gone, ...acts }: StripProps) {
  return (
    <div role="group" aria-label={`Photographs of ${name}`}>
      <div className={styles.head}>
        <FileButton label={`photograph of ${name}`} accept="image/*" variant="outlined" onFile={acts.onAdd}>
          Add a photograph
        </FileButton>
        <span className={styles.soft}>
          {isMaking
            ? 'it is being made smaller …'
            : 'kept in this browser, sized down; where and when it was taken is left out of it'}
        </span>
      </div>
      {trouble !== '' && <Warning>{trouble}</Warning>}
      {gone !== '' && (
        <p role="status">
          {gone} is taken away.{' '}
          <Button variant="text" color="inherit" size="small" onClick={acts.onPutBack}>
            Put it back
          </Button>
        </p>
      )}
      {photos.length > 0 && (
        <ul className={styles.strip}>
          {photos.map((photo, i) => (
            <li key={photo.id}>
              <Picture photo={photo} />
              <TypedField
                label={`What photograph ${i + 1} shows`}
                width="100%"
                value={photo.caption}
                onChange={(text) => acts.onCaption(photo.id, text)}
              />
              <Button
                variant="text"
                color="inherit"
                size="small"
                aria-label={`Take photograph ${i + 1} away`}
                onClick={() => acts.onRemove(photo.id)}
              >
                Take it away
              </Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Picture({ photo: { jpeg, width, height, caption } }: { readonly photo: Photo }) {
  const address = useMemo(() => `data:image/jpeg;base64,${toBase64(jpeg)}`, [jpeg]);
  // The framework's own image server is not there, and the picture comes from nowhere.
  // eslint-disable-next-line @next/next/no-img-element
  return <img src={address} width={width} height={height} alt={caption || 'a photograph that nobody described yet'} />;
}
