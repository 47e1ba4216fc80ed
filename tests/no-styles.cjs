/**
 * Emotion's style sheet in Jest: no style is laid in. jsdom would go through all of them at every question whether something can be seen, which costs more than
 * the tests themselves; how something looks is asked in a browser only.
 */
exports.StyleSheet = class StyleSheet {
  constructor({ key, nonce, container }) {
    Object.assign(this, { key, nonce, container, tags: [] });
  }
  hydrate() {}
  insert() {}
  flush() {}
};
