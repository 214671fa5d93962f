import type { CatalogueData, Kind, Setting } from "../api/client";
import { begin, type Edit, type History, recorded, undo } from "../bench/model/edits";
import { layersBelow } from "../bench/model/layers";
import {
  allEntries,
  allLayers,
  asLayer,
  type Channel,
  distinct,
  type Entry,
  freshIds,
  freshLayerIds,
  type Layer,
  type PieceDocument,
  type Settings,
  type SettingValue,
  type Source,
  type Where,
} from "../bench/model/piece";
import { rulesOf } from "../bench/model/rules";
import { defaults } from "../bench/model/settings";

/** Numbers 0…1 from a seed, always the same ones. */
function draws(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

const SPOT: Where = { shapes: [{ kind: "ellipse", x: 0.2, y: 0, rx: 0.5, ry: 0.4, turn: 0, join: "add" }], feather: 0.1, invert: false };

/** A hand that does what the Bench lets it do, at random. */
class Hand {
  private readonly draw: () => number;
  private gesture: Edit | null = null;

  constructor(
    private readonly catalogue: CatalogueData,
    seed: number,
  ) {
    this.draw = draws(seed);
  }

  private one<Value>(of: readonly Value[]): Value {
    return of[Math.floor(this.draw() * of.length)] as Value;
  }

  private value(setting: Setting, document: PieceDocument, layer: string): SettingValue | undefined {
    const { minimum, maximum, type } = setting;
    switch (setting.widget) {
      case "number":
      case "seed": {
        const [low, high] = [minimum ?? 0, maximum ?? 1];
        const free = this.one([low, high, Number(setting.default ?? low), low + this.draw() * (high - low)]);
        return type === "integer" ? Math.round(free) : Number(free.toFixed(6));
      }
      case "switch":
        return this.draw() < 0.5;
      case "choice":
        return this.one(setting.choices ?? []);
      case "colour":
        return setting.default as SettingValue;
      case "layer":
        return this.one([null, ...layersBelow(document, layer).map((one) => one.id)]);
      default:
        return undefined;
    }
  }

  private some(settings: Setting[], document: PieceDocument, layer: string): Settings {
    const chosen = [this.one(settings), this.one(settings)].filter(Boolean);
    return Object.fromEntries(
      chosen.flatMap((setting) => {
        const value = this.value(setting, document, layer);
        return value === undefined ? [] : [[setting.name, value]];
      }),
    );
  }

  private source(): Source {
    const drawn = this.one(this.catalogue.sources);
    return this.one<Source>([
      { kind: "photo", photo: this.one(["a.png", "b.png"]) },
      { kind: "below" },
      { kind: drawn.key, ...(this.one(drawn.looks)?.settings as Settings) },
    ]);
  }

  private ofStep(document: PieceDocument, entry: Entry): Edit | null {
    const layer = entry.id;
    const { steps } = asLayer(entry);
    const step = this.one(steps);
    const what = this.one(["set", "set", "start", "step", "add", "add", "remove", "move", "switch"] as const);
    if (what === "add" || !step) {
      const kinds = [this.one(this.catalogue.kinds)];
      const ids = freshIds(document, kinds.length);
      const made = kinds.map((kind, n) => ({ id: ids[n] ?? "", on: true, kind: kind.key, settings: this.begun(kind) }));
      return { type: "add", layer, at: Math.floor(this.draw() * (steps.length + 1)), steps: made };
    }
    const kind = this.catalogue.kinds.find((one) => one.key === step.kind) as Kind;
    switch (what) {
      case "set":
        return { type: "set", layer, step: step.id, settings: this.some(kind.settings, document, layer), gesture: `drag-${step.id}` };
      case "start":
        return { type: "set", layer, step: step.id, settings: this.begun(kind) };
      case "step":
        return {
          type: "step",
          layer,
          step: step.id,
          change: this.one([
            { strength: this.one([0, 0.5, 1]) },
            { blend: this.one(["normal", "screen", "multiply"] as const) },
            { channels: this.one<Channel[]>([["r"], ["r", "g", "b"], ["light"], []]) },
            { where: this.one([null, SPOT]) },
          ]),
        };
      case "remove":
        return { type: "remove", layer, step: step.id };
      case "move":
        return { type: "move", layer, step: step.id, to: Math.floor(this.draw() * steps.length) };
      case "switch":
        return { type: "switch", layer, step: step.id, on: this.draw() < 0.5 };
    }
  }

  private begun(kind: Kind): Settings {
    return defaults(kind, (this.one(kind.starts)?.settings ?? {}) as Settings);
  }

  private ofEntry(document: PieceDocument, entry: Entry): Edit {
    const { id } = entry;
    const others = allEntries(document.layers);
    const side = this.one(["above", "below", "into"] as const);
    const [fresh = ""] = freshLayerIds(document, 1);
    const made: Layer = { id: fresh, name: distinct(document, "New"), source: this.source(), steps: [] };
    const full = others.length > 12;
    return this.one<Edit>([
      { type: "removeEntry", id },
      ...(full
        ? []
        : [
            { type: "addEntry", entry: made, on: id, side } as const,
            { type: "duplicate", id, linked: this.draw() < 0.6 } as const,
            { type: "group", id } as const,
          ]),
      { type: "ungroup", id },
      { type: "moveEntry", id, by: this.one([1, -1] as const) },
      { type: "dropEntry", id, on: this.one(others).id, side },
      {
        type: "entry",
        id,
        change: this.one([
          { opacity: this.one([0, 0.5, 1]) },
          { visible: this.draw() < 0.5 },
          { name: this.one(["Land", "", "Heron"]) },
          { blend: this.one(["normal", "screen"] as const) },
          { where: this.one([null, SPOT]) },
          { link: null },
          { place: this.one([null, { x: 0.2, y: 0, scale: 0.5, turn: 0.1, flip: true }]) },
        ]),
      },
    ]);
  }

  private ofPiece(document: PieceDocument): Edit {
    const box = document.frame?.box ?? { x: 0, y: 0, rx: 1, ry: 1, turn: 0 };
    const layer = this.one(allLayers(document));
    const drawn = this.catalogue.sources.find((source) => source.key === layer.source.kind);
    return this.one<Edit>([
      { type: "ratio", ratio: this.one([null, 1, 0.05, 20, 1.5]), gesture: "ratio" },
      { type: "box", box: this.one([null, { ...box, [this.one(["rx", "ry"])]: this.one([0.05, 4, 1, 0.02, 20]) }]), gesture: "box" },
      { type: "rename", name: this.one(["Marsh", " ", "x".repeat(300)]) },
      { type: "ground", layer: layer.id, source: this.source() },
      {
        type: "source",
        layer: layer.id,
        settings: drawn ? this.some(drawn.settings, document, layer.id) : { ...layer.source },
        gesture: "source",
      },
    ]);
  }

  /** The next edit: a new one, or the last drag goes on. */
  next(document: PieceDocument): Edit {
    const entry = this.one(allEntries(document.layers));
    const sort = this.draw();
    const goesOn = this.gesture?.type === "set" && this.draw() < 0.2 ? this.gesture : null;
    const edit =
      goesOn ?? (sort < 0.6 ? this.ofStep(document, entry) : sort < 0.85 ? this.ofEntry(document, entry) : this.ofPiece(document));
    this.gesture = edit;
    return edit ?? this.ofPiece(document);
  }
}

interface Walk {
  edits: Edit[];
  /** What each edit left. */
  documents: PieceDocument[];
  /** What can be gone back to, and what is there. */
  states: { name: string; document: PieceDocument }[];
  undone: PieceDocument;
  refused: number;
}

function walk(first: PieceDocument, catalogue: CatalogueData, seed: number, count: number): Walk {
  const [hand, rules] = [new Hand(catalogue, seed), rulesOf(catalogue)];
  let history: History = begin({ name: "Piece", document: first });
  const found: Walk = { edits: [], documents: [], states: [], undone: first, refused: 0 };
  for (let n = 0; n < count; n += 1) {
    const edit = hand.next(history.present.document);
    const next = recorded(history, edit, rules);
    found.edits.push(edit);
    found.documents.push(next.history.present.document);
    if (!next.made) found.refused += 1;
    history = next.history;
  }
  found.states = [...history.past.map((past) => past.draft), history.present];
  while (history.past.length) history = undo(history);
  found.undone = history.present.document;
  return found;
}

/** What random edits make of each document. */
export const walks = (documents: PieceDocument[], catalogue: CatalogueData, count: number): Walk[] =>
  documents.map((document, seed) => walk(document, catalogue, seed + 1, count));
