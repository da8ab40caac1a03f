/** What a browser remembers between visits, for tests that run without one. */
const kept = new Map<string, string>();

globalThis.localStorage = {
  get length() {
    return kept.size;
  },
  key: (at) => [...kept.keys()][at] ?? null,
  getItem: (name) => kept.get(name) ?? null,
  setItem: (name, value) => void kept.set(name, value),
  removeItem: (name) => void kept.delete(name),
  clear: () => kept.clear(),
};
