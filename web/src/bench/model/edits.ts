import { editedAlike } from "./layers";
import {
  allEntries,
  allLayers,
  changeEntry,
  copyOf,
  distinct,
  type Entry,
  entryOf,
  freshLayerIds,
  isGroup,
  type Layer,
  layerOf,
  linkable,
  type PieceBox,
  type PieceDocument,
  type Settings,
  type Sheet,
  type Source,
  type Step,
  stepsOf,
  withSource,
  withSteps,
} from "./piece";
import { NO_RULES, type Rules, sameDocument, settled } from "./rules";
import { told } from "./telling";

/** What is edited and undone: the document and the piece's name. */
export interface Draft {
  name: string;
  document: PieceDocument;
}

/** Where an entry is put: right above or below another, or on top of what is in a group. */
export type Side = "above" | "below" | "into";

/** For which document a list was drawn that the core draws: null while that is not known. What is a step's own is drawn for none. */
export type DrawnFor = PieceDocument | null | undefined;

interface OfLayer {
  /** Whose steps are meant; the lowest layer when left out. */
  layer?: string | null;
}

/** Every change goes through one of these. Edits of one `gesture` (a drag) count as one for undo. */
export type Edit =
  | ({ type: "set"; step: string; settings: Settings; gesture?: string; drawnFor?: DrawnFor } & OfLayer)
  | ({ type: "step"; step: string; change: Partial<Omit<Step, "id" | "kind">>; gesture?: string } & OfLayer)
  | ({ type: "source"; settings: Settings; gesture?: string } & OfLayer)
  | { type: "ground"; layer: string; source: Source }
  | ({ type: "add"; at: number; steps: Step[] } & OfLayer)
  | ({ type: "remove"; step: string } & OfLayer)
  | ({ type: "move"; step: string; to: number } & OfLayer)
  | ({ type: "switch"; step: string; on: boolean } & OfLayer)
  | { type: "entry"; id: string; change: Partial<Sheet> | Partial<Pick<Layer, "place">>; gesture?: string }
  | { type: "addEntry"; entry: Entry; on: string | null; side: Side }
  | { type: "removeEntry"; id: string }
  | { type: "moveEntry"; id: string; by: 1 | -1 }
  | { type: "dropEntry"; id: string; on: string; side: Side }
  | { type: "duplicate"; id: string; linked?: boolean }
  | { type: "group"; id: string }
  | { type: "ungroup"; id: string }
  | { type: "ratio"; ratio: number | null; gesture?: string }
  | { type: "box"; box: PieceBox | null; gesture?: string }
  | { type: "replace"; document: PieceDocument; what: string }
  | { type: "rename"; name: string };

/** A state that can be gone back to, and what was done to leave it. */
export interface Past {
  draft: Draft;
  done: string;
}

export interface History {
  past: Past[];
  present: Draft;
  future: Past[];
  /** The gesture the last edit belonged to. */
  gesture: string | null;
}

export const begin = (present: Draft): History => ({ past: [], present, future: [], gesture: null });

const mapStep = (document: PieceDocument, edit: { step: string } & OfLayer, change: (step: Step) => Step): PieceDocument =>
  withSteps(
    document,
    stepsOf(document, edit.layer).map((step) => (step.id === edit.step ? change(step) : step)),
    edit.layer,
  );

function moved(steps: Step[], id: string, to: number): Step[] {
  const step = steps.find((s) => s.id === id);
  if (!step) return steps;
  const rest = steps.filter((s) => s.id !== id);
  return [...rest.slice(0, to), step, ...rest.slice(to)];
}

/** Put an entry beside another, or into it where it is a group; on top of all where there is none of that id. */
function put(document: PieceDocument, entry: Entry, on: string | null, side: Side): PieceDocument {
  if (!on || !entryOf(document, on)) return { ...document, layers: [...document.layers, entry] };
  return changeEntry(document, on, (one) => {
    if (side === "into" && isGroup(one)) return [{ ...one, layers: [...one.layers, entry] }];
    return side === "below" ? [entry, one] : [one, entry];
  });
}

/** Take an entry from where it lies and put it elsewhere; nothing happens where it would lie within itself. */
function dropped(document: PieceDocument, id: string, on: string, side: Side): PieceDocument {
  const entry = entryOf(document, id);
  if (!entry || allEntries([entry]).some((one) => one.id === on)) return document;
  return put(
    changeEntry(document, id, () => []),
    entry,
    on,
    side,
  );
}

/** Move an entry of this list one place on; into a group that is its neighbour, or out of the list (null) at its end. */
function shiftedHere(entries: Entry[], index: number, by: 1 | -1): Entry[] | null {
  const [one, other] = [entries[index], entries[index + by]];
  if (!one || !other) return null;
  if (!isGroup(other)) return entries.map((entry, n) => (n === index ? other : n === index + by ? one : entry));
  const joined: Entry = { ...other, layers: by > 0 ? [one, ...other.layers] : [...other.layers, one] };
  return entries.flatMap((entry, n) => (n === index ? [] : n === index + by ? [joined] : [entry]));
}

/** Move an entry one place forward or back, through groups on its way; nothing happens at the ends of the piece. */
function shifted(entries: Entry[], id: string, by: 1 | -1): Entry[] {
  const index = entries.findIndex((one) => one.id === id);
  if (index >= 0) return shiftedHere(entries, index, by) ?? entries;
  return entries.flatMap((group) => {
    if (!isGroup(group)) return [group];
    const at = group.layers.findIndex((one) => one.id === id);
    const one = group.layers[at];
    if (!one) return [{ ...group, layers: shifted(group.layers, id, by) }];
    const moved = shiftedHere(group.layers, at, by);
    if (moved) return [{ ...group, layers: moved }];
    const rest = group.layers.filter((inner) => inner.id !== id);
    const left: Entry[] = rest.length ? [{ ...group, layers: rest }] : [];
    return by > 0 ? [...left, one] : [one, ...left];
  });
}

function applyToLayers(document: PieceDocument, edit: Edit): PieceDocument {
  switch (edit.type) {
    case "entry":
      return changeEntry(document, edit.id, (entry) => [{ ...entry, ...edit.change } as Entry]);
    case "addEntry":
      return put(document, edit.entry, edit.on, edit.side);
    case "removeEntry":
      return changeEntry(document, edit.id, () => []);
    case "moveEntry":
      return { ...document, layers: shifted(document.layers, edit.id, edit.by) };
    case "dropEntry":
      return dropped(document, edit.id, edit.on, edit.side);
    case "duplicate":
      return changeEntry(document, edit.id, (entry) => {
        // Of a linked pair both know the link: the first copy gives it its name.
        const own = edit.linked ? linkable(entry) : entry;
        return [own, copyOf(document, own, edit.linked)];
      });
    case "group": {
      const [id = "group"] = freshLayerIds(document, 1);
      return changeEntry(document, edit.id, (entry) => [{ id, name: distinct(document, "Group"), layers: [entry] }]);
    }
    case "ungroup":
      return changeEntry(document, edit.id, (entry) => (isGroup(entry) ? entry.layers : [entry]));
    case "ratio":
      return { ...document, frame: { ...document.frame, ratio: edit.ratio } };
    case "box":
      return { ...document, frame: { ratio: document.frame?.ratio ?? null, box: edit.box } };
    default:
      return document;
  }
}

/** What an edit leaves, and what was changed besides, in words; or why it is not made. */
export type Outcome = { draft: Draft; said: string[] } | { refused: string };

/** Make one edit as the core allows it; pure. */
export function attempt(draft: Draft, edit: Edit, rules: Rules): Outcome {
  if (edit.type === "rename") {
    const name = edit.name.trim().slice(0, LONGEST_NAME);
    return { draft: name ? { ...draft, name } : draft, said: [] };
  }
  const { document } = draft;
  const raw = changedBy(document, edit);
  const layer = "layer" in edit && edit.type !== "ground" ? layerOf(document, edit.layer).id : null;
  const found = settled(document, layer ? editedAlike(document, raw, layer) : raw, rules);
  if ("refused" in found) return found;
  return { draft: { ...draft, document: found.document }, said: found.said };
}

/** Return the draft after one edit, or the same where it is not made. */
export function applyEdit(draft: Draft, edit: Edit, rules: Rules = NO_RULES): Draft {
  const outcome = attempt(draft, edit, rules);
  return "refused" in outcome ? draft : outcome.draft;
}

/** The document with one edit alone, whether the core takes it or not. */
function changedBy(document: PieceDocument, edit: Exclude<Edit, { type: "rename" }>): PieceDocument {
  switch (edit.type) {
    case "set":
      return mapStep(document, edit, (s) => ({ ...s, settings: { ...s.settings, ...edit.settings } }));
    case "step":
      return mapStep(document, edit, (s) => ({ ...s, ...edit.change }));
    case "source":
      return withSource(document, { ...layerOf(document, edit.layer).source, ...edit.settings }, edit.layer);
    case "ground":
      return withSource(document, edit.source, edit.layer);
    case "add": {
      const steps = stepsOf(document, edit.layer);
      return withSteps(document, [...steps.slice(0, edit.at), ...edit.steps, ...steps.slice(edit.at)], edit.layer);
    }
    case "remove":
      return withSteps(
        document,
        stepsOf(document, edit.layer).filter((s) => s.id !== edit.step),
        edit.layer,
      );
    case "move":
      return withSteps(document, moved(stepsOf(document, edit.layer), edit.step, edit.to), edit.layer);
    case "switch":
      return mapStep(document, edit, (s) => ({ ...s, on: edit.on }));
    case "replace":
      return edit.document;
    default:
      return applyToLayers(document, edit);
  }
}

/** So many states can be gone back to. */
export const MOST_PAST = 500;
const LONGEST_NAME = 200;

/** What these are called is done at once: two of them are two acts, each undone by itself. */
const AT_ONCE = /(^|-)(reset|delete)$/;

function gestureOf(edit: Edit): string | null {
  const gesture = "gesture" in edit ? (edit.gesture ?? null) : null;
  return gesture !== null && AT_ONCE.test(gesture) ? null : gesture;
}

const DRAWN = "The picture is being updated. Try again in a moment.";

/** Why an edit is not made; null where it may be. */
export function refusal(history: History, edit: Edit): string | null {
  const goesOn = "gesture" in edit && edit.gesture !== undefined && edit.gesture === history.gesture;
  const drawnFor = "drawnFor" in edit ? edit.drawnFor : undefined;
  return drawnFor !== undefined && drawnFor !== history.present.document && !goesOn ? DRAWN : null;
}

/** What an edit leaves of a history, and what there is to say of it. */
export interface Recorded {
  history: History;
  /** Whether the edit was made; one that changes nothing is, and leaves nothing to undo. */
  made: boolean;
  said: string | null;
}

/**
 * A document whose shape comes from its lowest layer goes on having the shape it had where another layer came to lie lowest: only whoever
 * asks for another shape changes it.
 */
function keptShape(before: PieceDocument, after: PieceDocument, shape: number | null): PieceDocument {
  const lowest = (document: PieceDocument) => allLayers(document)[0]?.id;
  if (shape === null || after.frame?.ratio || lowest(before) === lowest(after)) return after;
  return { ...after, frame: { ...after.frame, ratio: Number(shape.toFixed(5)) } };
}

/**
 * Make an edit; those of one gesture replace each other, and one that ends where it began leaves nothing to undo. `shape` is the piece's ratio
 * as it is seen, null where that is not known.
 */
export function recorded(history: History, edit: Edit, rules: Rules, shape: number | null = null): Recorded {
  const refused = refusal(history, edit);
  const outcome = refused ? { refused } : attempt(history.present, edit, rules);
  if ("refused" in outcome) return { history, made: false, said: outcome.refused };
  const { said } = outcome;
  const draft =
    edit.type === "replace"
      ? outcome.draft
      : { ...outcome.draft, document: keptShape(history.present.document, outcome.draft.document, shape) };
  const gesture = gestureOf(edit);
  const goesOn = gesture !== null && gesture === history.gesture && history.past.length > 0;
  const before = (goesOn ? history.past.at(-1)?.draft : undefined) ?? history.present;
  const words = said.join(" ") || null;
  if (draft.name === before.name && sameDocument(draft.document, before.document, rules)) {
    if (!goesOn) return { history, made: true, said: words };
    return { history: { past: history.past.slice(0, -1), present: before, future: [], gesture: null }, made: true, said: words };
  }
  // An edit that goes on says what has come of all of it.
  const earlier = goesOn ? history.past.slice(0, -1) : history.past;
  const past = [...earlier, { draft: before, done: told(before, edit, rules) }].slice(-MOST_PAST);
  return { history: { past, present: draft, future: [], gesture }, made: true, said: words };
}

/** Return the history after an edit. */
export const record = (history: History, edit: Edit, rules: Rules = NO_RULES): History => recorded(history, edit, rules).history;

export function undo(history: History): History {
  const last = history.past.at(-1);
  if (!last) return history;
  return {
    past: history.past.slice(0, -1),
    present: last.draft,
    future: [{ draft: history.present, done: last.done }, ...history.future],
    gesture: null,
  };
}

export function redo(history: History): History {
  const [next, ...future] = history.future;
  if (!next) return history;
  return { past: [...history.past, { draft: history.present, done: next.done }], present: next.draft, future, gesture: null };
}

/** Go back (negative) or forward by several edits at once. */
export function travel(history: History, by: number): History {
  let there = history;
  for (let n = 0; n < Math.abs(by); n += 1) there = by < 0 ? undo(there) : redo(there);
  return there;
}
