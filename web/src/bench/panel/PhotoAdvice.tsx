import type { Kind } from "../../api/client";
import { useCatalogue } from "../../shared/useCatalogue";
import { applyEdit, type Edit } from "../model/edits";
import { freshIds, type Step, stepsOf } from "../model/piece";
import { type Advice, adviceOf, keptReach } from "../model/reading";
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
  const { byKey, byRole } = useCatalogue();
  const { layer, edit, patch, rules } = useBenchPart("layer", "edit", "patch", "rules");
  const steps = stepsOf(document, layer);
  const at = preparedBy(steps, byKey);
  const reading = useReading(document, at, layer);
  const follow = (advice: Advice) => {
    const kind = byRole(advice.role);
    const [id = ""] = freshIds(document, 1);
    if (!kind) return;
    const add: Edit = { type: "add", layer, at, steps: [{ id, on: true, kind: kind.key, settings: defaults(kind, advice.settings) }] };
    const ring = steps.slice(at).find((step) => byKey.get(step.kind)?.role === "winds" && step.on !== false);
    const reach = ring && reading && advice.cut ? keptReach(ring.settings, reading, advice.cut) : null;
    if (!ring || !reach) edit(add);
    else {
      // What is left of the width is wrapped to a smaller world: its reach makes up for it, in the same breath.
      const added = applyEdit({ name: "", document }, add, rules);
      const grown = applyEdit(added, { type: "set", layer, step: ring.id, settings: { reach } }, rules);
      edit({ type: "replace", document: grown.document, what: advice.name.toLowerCase() });
    }
    patch({ selected: id });
  };
  if (!reading) return <p className="quiet">Reading the photo …</p>;
  const advice = adviceOf(reading);
  return (
    <section aria-label="Reading" className="stack">
      <p>{reading.words}</p>
      {reading.seam && (
        <p className="quiet small">
          Join visible {reading.seam.before.toFixed(1)}, mended {reading.seam.after.toFixed(1)} (1 cannot be seen, 2 can).
        </p>
      )}
      {advice.map((one) => (
        <button key={one.name} type="button" className="bare start" onClick={() => follow(one)}>
          <strong>
            {one.name} <em>{one.why}</em>
          </strong>
          <span className="quiet small">
            {one.role === "levels" ? "Turns it upright and crops to the largest box." : "Crops left and right."}
          </span>
        </button>
      ))}
      {at > 0 && (
        <p className="quiet small">
          Read after {at} preparing {at === 1 ? "step" : "steps"}.
        </p>
      )}
    </section>
  );
}
