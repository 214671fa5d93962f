import { api, take } from "../../api/client";
import { useStageQuery } from "../stages/useStageQuery";
import { useRestedDocument } from "../store";

/** The colours that the finished piece consists of; asked for while they are to be seen. */
export function usePalette(wanted: boolean): string[] {
  const document = useRestedDocument();
  const { data } = useStageQuery({
    what: ["palette"],
    document,
    of: (stages) => stages.delivered,
    ask: (signal) => take(api.POST("/api/v1/analyses/palettes", { body: { document }, signal })),
    wanted,
    place: "piece",
  });
  return data?.colours ?? [];
}
