const { options } = require('./.dependency-cruiser.cjs');

/** Folders of the core import each other one way only. Tests may look both ways, so they are left out here. */
module.exports = {
  forbidden: [
    {
      name: 'core-folders-one-way',
      severity: 'error',
      scope: 'folder',
      from: { path: '^src/core/[^/]+' },
      to: { circular: true },
    },
  ],
  options: { ...options, exclude: { path: '\\.test\\.tsx?$' } },
};
