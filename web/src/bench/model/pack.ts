import type { Draft, History, Past } from "./edits";
import { begin } from "./edits";

/**
 * A history as it is kept with its piece. States share nearly everything, so every object and list is kept once, in a table, and named by
 * its place there: `{ "@": 3 }`. A long list that is mostly another one is told by what it has in place of what: `{ "~": the other, from,
 * to, with }` are its first `from` and its last `to` entries, and what stands between; the other may be one of the present's: `{ "^": path }`.
 */
export type Packed = {
  table: unknown[];
  past: { name: string; document: unknown; done: string }[];
  future: { name: string; document: unknown; done: string }[];
};

/** So many states before and after the present are kept at most, and so many characters in all. */
export const MOST_STATES = 200;
export const MOST_TEXT = 6_000_000;
/** Lists of more objects or lists are told by what they differ in. */
const LONG = 40;
/** So many of the last long lists are looked at for one that is much the same. */
const LATELY = 8;

interface Base {
  list: unknown[];
  reference: unknown;
}

const isNode = (value: unknown): value is object => typeof value === "object" && value !== null;

const isLong = (value: unknown): value is unknown[] => Array.isArray(value) && value.length > LONG && isNode(value[0]);

/** The long lists of a document, with where they stand in it. */
function longLists(value: unknown, path: string, found: Base[]): Base[] {
  if (isLong(value)) found.push({ list: value, reference: { "^": path } });
  if (isNode(value)) {
    for (const [key, inner] of Object.entries(value)) if (isNode(inner)) longLists(inner, path ? `${path}/${key}` : key, found);
  }
  return found;
}

/** What a list has of another: how many of its first and of its last entries. */
function alikeEnds(list: unknown[], other: unknown[]): { from: number; to: number } {
  const shorter = Math.min(list.length, other.length);
  let from = 0;
  while (from < shorter && list[from] === other[from]) from += 1;
  let to = 0;
  while (to < shorter - from && list[list.length - 1 - to] === other[other.length - 1 - to]) to += 1;
  return { from, to };
}

function packer(present: unknown) {
  const table: unknown[] = [];
  const seen = new Map<object, unknown>();
  const alike = new Map<string, unknown>();
  const own = longLists(present, "", []);
  const lately: Base[] = [];
  let size = 0;
  const shortened = (list: unknown[]): unknown => {
    for (const { list: other, reference } of [...own, ...lately]) {
      const { from, to } = alikeEnds(list, other);
      if (from + to > list.length / 2) return { "~": reference, from, to, with: list.slice(from, list.length - to).map(put) };
    }
    return undefined;
  };
  const put = (value: unknown): unknown => {
    if (!isNode(value)) return value;
    const known = seen.get(value);
    if (known) return known;
    const flat =
      (isLong(value) && shortened(value)) ||
      (Array.isArray(value) ? value.map(put) : Object.fromEntries(Object.entries(value).map(([k, v]) => [k, put(v)])));
    const text = JSON.stringify(flat);
    let reference = alike.get(text);
    if (!reference) {
      reference = { "@": table.length };
      table.push(flat);
      size += text.length + 8;
      alike.set(text, reference);
    }
    seen.set(value, reference);
    if (isLong(value)) {
      lately.unshift({ list: value, reference });
      lately.length = Math.min(lately.length, LATELY);
    }
    return reference;
  };
  return { table, put, size: () => size };
}

/**
 * Pack the states before and after the present, the nearest first in what is kept, in no more than so many characters; the present itself
 * is the piece's document.
 */
export function pack(history: History, most = MOST_TEXT): Packed {
  const { table, put, size } = packer(history.present.document);
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

/** Bring back what `packedText` wrote. Whatever it holds that this page does not understand leaves just the present. */
export function unpackText(text: string | null, present: Draft): History {
  try {
    return unpack(JSON.parse(text ?? "null"), present);
  } catch {
    return begin(present);
  }
}

/** Bring a packed history back around a present state; null, and what is no history, leave just the present. */
export function unpack(packed: unknown, present: Draft): History {
  const { table, past, future } = (packed ?? {}) as Partial<Packed>;
  if (!Array.isArray(table) || !Array.isArray(past) || !Array.isArray(future)) return begin(present);
  // Entries name only earlier ones, so each is made from what is there already, and what states shared they share again.
  const made: unknown[] = [];
  const get = (value: unknown): unknown => (isNode(value) && "@" in value ? made[value["@"] as number] : value);
  const other = (value: unknown): unknown[] => {
    const list = isNode(value) && "^" in value ? at(present.document, String(value["^"])) : get(value);
    if (!Array.isArray(list)) throw new Error("a history names a list that is not there");
    return list;
  };
  for (const flat of table) {
    if (Array.isArray(flat)) made.push(flat.map(get));
    else if (isNode(flat) && "~" in flat) {
      const { "~": base, from, to, with: between } = flat as { "~": unknown; from: number; to: number; with: unknown[] };
      const list = other(base);
      made.push([...list.slice(0, from), ...between.map(get), ...list.slice(list.length - to)]);
    } else made.push(Object.fromEntries(Object.entries(flat as Record<string, unknown>).map(([k, v]) => [k, get(v)])));
  }
  const state = ({ name, document, done }: Packed["past"][number]): Past => ({
    draft: { name, document: get(document) as Draft["document"] },
    done,
  });
  return { past: past.map(state), present, future: future.map(state), gesture: null };
}

/** What stands at a path in a document. */
const at = (document: unknown, path: string): unknown =>
  path.split("/").reduce<unknown>((node, key) => (isNode(node) ? (node as Record<string, unknown>)[key] : undefined), document);
