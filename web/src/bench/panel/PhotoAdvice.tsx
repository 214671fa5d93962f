import type { Kind } from "../../api/client";
import { useCatalogue } from "../../shared/useCatalogue";
import { freshIds, type Step, stepsOf } from "../model/piece";
import { type Advice, adviceOf } from "../model/reading";
import { defaults } from "../model/settings";
import { useBenchPart, useDocument } from "../store";
import { useReading } from "../useReading";

/** How many preparing steps the trail begins with: after them the reading is taken and advice is put in. */
function preparedBy(steps: Step[], byKey: Map<string, Kind>): number {
  const first = steps.findIndex((step) => byKey.get(step.kind)?.family !== "prepare");
  return first < 0 ? steps.length : first;
}

/** What the photo, as it is prepared so far, is like; and what one click would better. */
export function PhotoAdvice() {
  const document = useDocument();
  const { byKey } = useCatalogue();
  const { layer, edit, patch } = useBenchPart("layer", "edit", "patch");
  const at = preparedBy(stepsOf(document, layer), byKey);
  const reading = useReading(document, at, layer);
  const follow = (advice: Advice) => {
    const kind = byKey.get(advice.kind);
    const [id = ""] = freshIds(document, 1);
    if (!kind) return;
    edit({ type: "add", at, steps: [{ id, on: true, kind: kind.key, settings: defaults(kind, advice.settings) }] });
    patch({ selected: id });
  };
  if (!reading) return <p className="quiet">Reading the photo …</p>;
  const advice = adviceOf(reading);
  return (
    <section aria-label="Reading" className="stack">
      <p>{reading.words}</p>
      {advice.map((one) => (
        <button key={one.name} type="button" className="bare start" onClick={() => follow(one)}>
          <strong>
            {one.name} <em>{one.why}</em>
          </strong>
          <span className="quiet small">
            {one.kind === "level"
              ? "Turns it upright and crops to the largest box."
              : `Keeps ${Math.round((Number(one.settings.right) - Number(one.settings.left)) * 100)} % of the width, cut where both edges agree best.`}
          </span>
        </button>
      ))}
      {at > 0 && (
        <p className="quiet small">
          As it is after {at} preparing {at === 1 ? "step" : "steps"}.
        </p>
      )}
    </section>
  );
}
