import '@testing-library/jest-dom';
import { configure } from '@testing-library/dom';
import * as React from 'react';

// On a loaded computer a part that is loaded when it is shown takes its time; what is there is found at once all the same.
configure({ asyncUtilTimeout: 40_000 });

/**
 * React keeps a stack of each element that it makes, for its warnings; a quarter of a view's test goes there. It stops after so many of them by itself: it
 * is told that they are reached. A warning still comes, and names its component.
 */
const internals: unknown = Object.entries(React).find(([name]) => name.startsWith('__CLIENT_INTERNALS'))?.[1];
if (internals && typeof internals === 'object')
  Object.defineProperty(internals, 'recentlyCreatedOwnerStacks', { get: () => Infinity, set: () => undefined });
