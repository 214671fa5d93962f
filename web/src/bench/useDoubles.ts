import { api, take } from "../api/client";
import { useCatalogue } from "../shared/useCatalogue";
import { layerOf } from "./model/piece";
import { useStageQuery } from "./stages/useStageQuery";
import { useBench, useRestedDocument } from "./store";

/** Where strokes of the selected touch-up betray themselves, while they are to be pointed out. */
export function useDoubles() {
  const document = useRestedDocument();
  const chosen = useBench((state) => state.layer);
  const selected = useBench((state) => state.selected);
  const shown = useBench((state) => state.doublesShown);
  const { byKey } = useCatalogue();
  const { id, steps } = layerOf(document, chosen);
  const at = steps.findIndex((one) => one.id === selected);
  const step = steps[at];
  const isPainted = Boolean(step && byKey.get(step.kind)?.settings.some((setting) => setting.widget === "strokes"));
  const { data } = useStageQuery({
    what: ["doubles"],
    document,
    of: (stages) => {
      const entry = stages.entries[id];
      return entry && `${entry.after[at + 1]} ${entry.steps[step?.id ?? ""]?.answer}`;
    },
    ask: (signal) => take(api.POST("/api/v1/analyses/repeats", { body: { document, layer: id, step: step?.id ?? "" }, signal })),
    wanted: shown && isPainted,
  });
  return shown ? data?.repeats : undefined;
}
