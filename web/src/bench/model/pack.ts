import type { Draft, History, Past } from "./edits";
import { begin } from "./edits";

/**
 * A history as it is kept with its piece. States share nearly everything, so every object and list is kept once, in a table, and named by
 * its place there: `{ "@": 3 }`.
 */
export type Packed = {
  table: unknown[];
  past: { name: string; document: unknown; done: string }[];
  future: { name: string; document: unknown; done: string }[];
};

/** So many states before and after the present are kept at most, and so many characters in all. */
export const MOST_STATES = 200;
export const MOST_TEXT = 6_000_000;

const isNode = (value: unknown): value is object => typeof value === "object" && value !== null;

function packer() {
  const table: unknown[] = [];
  const seen = new Map<object, unknown>();
  const alike = new Map<string, unknown>();
  let size = 0;
  const put = (value: unknown): unknown => {
    if (!isNode(value)) return value;
    const known = seen.get(value);
    if (known) return known;
    const flat = Array.isArray(value) ? value.map(put) : Object.fromEntries(Object.entries(value).map(([k, v]) => [k, put(v)]));
    const text = JSON.stringify(flat);
    let reference = alike.get(text);
    if (!reference) {
      reference = { "@": table.length };
      table.push(flat);
      size += text.length + 8;
      alike.set(text, reference);
    }
    seen.set(value, reference);
    return reference;
  };
  return { table, put, size: () => size };
}

/**
 * Pack the states before and after the present, the nearest first in what is kept, in no more than so many characters; the present itself
 * is the piece's document.
 */
export function pack(history: History, most = MOST_TEXT): Packed {
  const { table, put, size } = packer();
  const packed: Pick<Packed, "past" | "future"> = { past: [], future: [] };
  const fits = ({ draft, done }: Past, keep: (state: Packed["past"][number]) => void): boolean => {
    const before = table.length;
    const state = { name: draft.name, document: put(draft.document), done };
    if (size() <= most) keep(state);
    else table.length = before;
    return size() <= most;
  };
  const past = history.past.slice(-MOST_STATES).reverse();
  const future = history.future.slice(0, MOST_STATES);
  if (past.every((state) => fits(state, (one) => packed.past.unshift(one))))
    future.every((state) => fits(state, (one) => packed.future.push(one)));
  return { table, ...packed };
}

/** The same as text, as the server keeps it. */
export const packedText = (history: History, most = MOST_TEXT): string => JSON.stringify(pack(history, most));

/** Bring back what `packedText` wrote. */
export function unpackText(text: string | null, present: Draft): History {
  try {
    return unpack(JSON.parse(text ?? "null"), present);
  } catch {
    return begin(present); // no text of ours
  }
}

/** Bring a packed history back around a present state. Whatever it holds that this page does not understand leaves just the present. */
export function unpack(packed: unknown, present: Draft): History {
  const { table, past, future } = (packed ?? {}) as Partial<Packed>;
  if (!Array.isArray(table) || !Array.isArray(past) || !Array.isArray(future)) return begin(present);
  // Entries name only earlier ones, so each is made from what is there already, and what states shared they share again.
  const made: unknown[] = [];
  const get = (value: unknown): unknown => (isNode(value) && "@" in value ? made[value["@"] as number] : value);
  for (const flat of table) {
    made.push(
      Array.isArray(flat)
        ? flat.map(get)
        : Object.fromEntries(Object.entries(flat as Record<string, unknown>).map(([k, v]) => [k, get(v)])),
    );
  }
  const state = ({ name, document, done }: Packed["past"][number]): Past => ({
    draft: { name, document: get(document) as Draft["document"] },
    done,
  });
  return { past: past.map(state), present, future: future.map(state), gesture: null };
}
