import { stored } from "../shared/storage";
import { freshIds, type Step, stepsOf } from "./model/piece";
import { useBench } from "./store";

const KEPT = "caracol-steps";
const LAST = "caracol-last-step";

const withoutIds = (steps: Step[]) => steps.map(({ id: _, ...rest }) => rest);

/** Put the selected step, or the whole trail when none is, where any piece in this browser can take it from. */
export function copySteps(tell: (words: string) => void): false | undefined {
  // Words that are marked on the page are the browser's to copy.
  if (window.getSelection()?.toString()) return false;
  const { history, layer, selected, rules } = useBench.getState();
  const steps = stepsOf(history.present.document, layer);
  const [chosen] = steps.filter((step) => step.id === selected);
  keepCopied(chosen ? [chosen] : steps);
  const whole = steps.length === 1 ? "The trail is copied: 1 step" : `The trail is copied: ${steps.length} steps`;
  tell(chosen ? `${rules.kinds.get(chosen.kind)?.label ?? chosen.kind} is copied` : steps.length ? whole : "No step to copy");
  return undefined;
}

/** Keep steps to be pasted. */
export const keepCopied = (steps: Step[]): void => void stored.write(KEPT, withoutIds(steps));

/** What was copied last. */
export const copied = (): Omit<Step, "id">[] => stored.read<Omit<Step, "id">[]>(KEPT) ?? [];

function insert(found: Omit<Step, "id">[]): void {
  if (!found.length) return;
  const { history, layer, selected, edit, patch } = useBench.getState();
  const { document } = history.present;
  const steps = stepsOf(document, layer);
  const index = steps.findIndex((step) => step.id === selected);
  const ids = freshIds(document, found.length);
  const made = found.map((step, n) => ({ ...step, id: ids[n] ?? "" }) as Step);
  if (edit({ type: "add", at: index < 0 ? steps.length : index + 1, steps: made })) patch({ selected: ids.at(-1) ?? null, side: "step" });
}

/** Paste what was copied after the selected step, or at the end. */
export const pasteSteps = (): void => insert(copied());

/** Remember what was added last, in whichever piece. */
export const remember = (steps: Step[]): void => void stored.write(LAST, withoutIds(steps));

/** Do again what was added last, as it is set now where it still stands. */
export function doAgain(): void {
  const { history, layer } = useBench.getState();
  const kept = stored.read<Omit<Step, "id">[]>(LAST) ?? [];
  const newest = kept.map((step) => {
    const here = stepsOf(history.present.document, layer).filter((one) => one.kind === step.kind);
    const last = here.at(-1);
    return last ? withoutIds([last])[0] : step;
  });
  insert(newest as Omit<Step, "id">[]);
}
