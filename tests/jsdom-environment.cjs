const { webcrypto } = require('node:crypto');
const { TestEnvironment } = require('jest-environment-jsdom');
const { endStorages } = require('./end-storages.cjs');

/** jsdom without the globals of Node that our code uses; MessageChannel stays out, it would keep Jest from ending. */
module.exports = class extends TestEnvironment {
  constructor(config, context) {
    super(config, context);
    Object.assign(this.global, { structuredClone, TextEncoder, TextDecoder, Uint8Array });
    Object.defineProperty(this.global.crypto, 'subtle', { value: webcrypto.subtle });
  }

  async teardown() {
    await super.teardown();
    endStorages();
  }
};
