import { api, take } from "../../api/client";
import { allLayers } from "../model/piece";
import { useStageQuery } from "../stages/useStageQuery";
import { useRestedDocument } from "../store";

/** Where the words of the piece lie, the topmost first, and whether all of them are seen; the last answer until the next is there. */
export function useWordings() {
  const document = useRestedDocument();
  const { data } = useStageQuery({
    what: ["words"],
    document,
    of: (stages) => stages.whole,
    ask: (signal) => take(api.POST("/api/v1/analyses/text-boxes", { body: { document }, signal })),
    wanted: allLayers(document).some(({ source }) => source.kind === "lettering"),
    place: "words",
    keep: 5_000,
  });
  return data?.texts ?? [];
}
