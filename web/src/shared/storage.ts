/** What this browser keeps for its artist. Where it keeps nothing (private windows, a full disk, spoilt text), everything works without. */
export const stored = {
  /** What is kept under a name, as JSON; null where there is nothing that can be read. */
  read<Value>(name: string): Value | null {
    try {
      return JSON.parse(localStorage.getItem(name) ?? "null") as Value | null;
    } catch (fault) {
      console.warn(`The browser gives nothing for ${name}.`, fault);
      return null;
    }
  },
  /** Keep a value; false where the browser does not. */
  write(name: string, value: unknown): boolean {
    try {
      localStorage.setItem(name, JSON.stringify(value));
      return true;
    } catch (fault) {
      console.warn(`The browser has no room for ${name}.`, fault);
      return false;
    }
  },
  remove(name: string): void {
    try {
      localStorage.removeItem(name);
    } catch (fault) {
      console.warn(`The browser keeps ${name}.`, fault);
    }
  },
};
