'use client';

import { useEffect } from 'react';
import { createStore } from 'zustand/vanilla';
import { useStore } from 'zustand';

/** A stand-in that the local server runs on a loopback port. */
export interface NetworkStandin {
  readonly name: string;
  readonly port: number;
  /** The port that the demo job names; another program has it where the two differ. */
  readonly wanted: number;
  readonly behaviour: string;
  /** What a person can do at it, by the names of `HAND_TEXT`. */
  readonly hands: readonly string[];
}

/** How a network stand-in can be made to fail, in words. */
export const BEHAVIOUR_TEXT = {
  works: 'works',
  off: 'is off',
  silent: 'takes all, answers nothing',
  'hangs-up': 'hangs up',
  vanished: 'cable pulled',
} as const;

/** What a person at a network stand-in does, in words. */
export const HAND_TEXT = {
  'start-input': 'Press the button at its start input',
  'any-master': 'Let any master in, at its keys',
} as const;

const PATH = '/api/yard';
const store = createStore<{ readonly devices: readonly NetworkStandin[]; readonly asked: boolean }>(() => ({
  devices: [],
  asked: false,
}));

async function take(answer: Response): Promise<void> {
  if (answer.ok) store.setState({ devices: (await answer.json()) as readonly NetworkStandin[] });
}

/** The network stand-ins of this server; empty where it runs none. Asked for once a page. */
export function useNetworkYard(): readonly NetworkStandin[] {
  useEffect(() => {
    if (store.getState().asked) return;
    store.setState({ asked: true });
    fetch(PATH).then(take, () => undefined);
  }, []);
  return useStore(store, ({ devices }) => devices);
}

function order(what: Readonly<Record<string, string>>): void {
  fetch(PATH, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(what),
  }).then(take, () => undefined);
}

/** Makes a network stand-in fail, or work again. */
export const makeBehave = (name: string, behaviour: string): void => order({ name, behaviour });

/** Does what a person at a network stand-in would do. */
export const touchStandin = (name: string, hand: string): void => order({ name, hand });
