'use client';

import Button from '@mui/material/Button';
import Papa from 'papaparse';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { useCurrent } from '../../bench/hooks/use-current';
import { settingsText } from '../../core/line/settings';
import { cardRows, wordCard } from '../../core/papers/word-card';
import type { PartProps } from './parts';
import styles from './scaling.module.css';
import { Telegrams } from './telegrams-part';

/** For the controller's programmer: words, addresses in every notation, scale and byte order, to look at, to print and as a file. */
export function CardPart({ index }: PartProps) {
  const { line, station, places } = useCurrent();
  if (!line || !station) return null;
  const link = [line.name, line.protocol, line.serial ? settingsText(line.serial) : ''].filter(Boolean).join(', ');
  const card = wordCard(index, station.station, link, places);
  const save = (): void => {
    const text = Papa.unparse(
      cardRows(card).map((row) => [...row]),
      { newline: '\r\n', escapeFormulae: true },
    );
    saveFile(new Blob([text], { type: 'text/csv' }), fileName(`${card.title} words`, 'csv'));
  };
  return (
    <div data-testid="word-card">
      <div className={styles.pairs} data-no-print>
        <Button variant="outlined" color="inherit" onClick={save}>
          Save as CSV
        </Button>
        <Button variant="outlined" color="inherit" onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <p className={styles.note}>
        <strong>{card.title}</strong> · {card.link} · {card.byteOrder}
      </p>
      {card.scale.map((text) => (
        <p key={text} className={styles.note}>
          {text}
        </p>
      ))}
      <table className={styles.table}>
        <thead>
          <tr>
            <th scope="col">word</th>
            <th scope="col">hex</th>
            <th scope="col">decimal</th>
            <th scope="col">binary</th>
            <th scope="col">frame</th>
          </tr>
        </thead>
        <tbody>
          {card.words.map((word) => (
            <tr key={`${word.name} ${word.hex}`}>
              <td>{word.name}</td>
              <td>{word.hex}</td>
              <td>{word.decimal}</td>
              <td>{word.binary}</td>
              <td>{word.frame}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <table className={styles.table}>
        <thead>
          <tr>
            <th scope="col">place</th>
            <th scope="col">number</th>
            <th scope="col">from 0</th>
            <th scope="col">from 1</th>
            <th scope="col">hex</th>
            <th scope="col">5 digits</th>
            <th scope="col">6 digits</th>
            <th scope="col">scale</th>
          </tr>
        </thead>
        <tbody>
          {card.places.map((place) => (
            <tr key={place.number}>
              <td>{place.name}</td>
              <td>{place.number}</td>
              <td>{place.fromZero}</td>
              <td>{place.fromOne}</td>
              <td>{place.hex}</td>
              <td>{place.reference5}</td>
              <td>{place.reference6}</td>
              <td>{place.scale}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {index.profile?.id === 'profidrive' && <Telegrams />}
    </div>
  );
}
