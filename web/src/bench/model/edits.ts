import { type PieceDocument, type Settings, type Step, stepsOf, withSteps } from "./piece";

/** What is edited and undone: the document and the piece's name. */
export interface Draft {
  name: string;
  document: PieceDocument;
}

/** Every change goes through one of these. Edits of one `gesture` (a drag) count as one for undo. */
export type Edit =
  | { type: "set"; step: string; settings: Settings; gesture?: string }
  | { type: "add"; at: number; steps: Step[] }
  | { type: "remove"; step: string }
  | { type: "move"; step: string; to: number }
  | { type: "switch"; step: string; on: boolean }
  | { type: "rename"; name: string };

export interface History {
  past: Draft[];
  present: Draft;
  future: Draft[];
  /** The gesture the last edit belonged to. */
  gesture: string | null;
}

export const begin = (present: Draft): History => ({ past: [], present, future: [], gesture: null });

const mapStep = (document: PieceDocument, id: string, change: (step: Step) => Step): PieceDocument =>
  withSteps(
    document,
    stepsOf(document).map((step) => (step.id === id ? change(step) : step)),
  );

function moved(steps: Step[], id: string, to: number): Step[] {
  const step = steps.find((s) => s.id === id);
  if (!step) return steps;
  const rest = steps.filter((s) => s.id !== id);
  return [...rest.slice(0, to), step, ...rest.slice(to)];
}

/** Return the draft after one edit; pure. */
export function applyEdit(draft: Draft, edit: Edit): Draft {
  const { document } = draft;
  switch (edit.type) {
    case "set":
      return {
        ...draft,
        document: mapStep(document, edit.step, (s) => ({ ...s, settings: { ...s.settings, ...edit.settings } })),
      };
    case "add": {
      const steps = stepsOf(document);
      return {
        ...draft,
        document: withSteps(document, [...steps.slice(0, edit.at), ...edit.steps, ...steps.slice(edit.at)]),
      };
    }
    case "remove":
      return {
        ...draft,
        document: withSteps(
          document,
          stepsOf(document).filter((s) => s.id !== edit.step),
        ),
      };
    case "move":
      return { ...draft, document: withSteps(document, moved(stepsOf(document), edit.step, edit.to)) };
    case "switch":
      return { ...draft, document: mapStep(document, edit.step, (s) => ({ ...s, on: edit.on })) };
    case "rename":
      return { ...draft, name: edit.name };
  }
}

/** Return the history after an edit; edits of the same gesture replace each other. */
export function record(history: History, edit: Edit): History {
  const present = applyEdit(history.present, edit);
  const gesture = edit.type === "set" ? (edit.gesture ?? null) : null;
  const same = gesture !== null && gesture === history.gesture;
  return { past: same ? history.past : [...history.past, history.present], present, future: [], gesture };
}

export function undo(history: History): History {
  const present = history.past.at(-1);
  if (!present) return history;
  return { past: history.past.slice(0, -1), present, future: [history.present, ...history.future], gesture: null };
}

export function redo(history: History): History {
  const [present, ...future] = history.future;
  if (!present) return history;
  return { past: [...history.past, history.present], present, future, gesture: null };
}
