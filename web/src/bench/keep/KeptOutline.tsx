import { api, take } from "../../api/client";
import { type Placed, toStage, transformOf } from "../model/geometry";
import { keepOf, layerOf } from "../model/piece";
import { useStageQuery } from "../stages/useStageQuery";
import { useRestedDocument } from "../store";

interface Props {
  layer: string;
  /** After how many steps; null after all of them. */
  upto: number | null;
  placed: Placed;
}

/** The outline of what is kept, as it lies after the steps that are seen: quiet, and under the handles. */
export function KeptOutline({ layer, upto, placed }: Props) {
  const document = useRestedDocument();
  const { source, id } = layerOf(document, layer);
  const keep = keepOf(source);
  const { data } = useStageQuery({
    what: ["kept"],
    document,
    of: (stages) => stages.entries[id]?.kept.at(upto ?? -1),
    ask: (signal) => take(api.POST("/api/v1/analyses/keep-areas", { body: { document, layer: id, upto }, signal })),
    wanted: keep.length > 0,
    place: `${id} ${upto}`,
  });
  if (!keep.length || !data) return null;
  const d = data.lines
    .map(
      (line) =>
        `${line
          .map(([x = 0, y = 0], n) => {
            const p = toStage(placed, { x, y });
            return `${n ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
          })
          .join("")}z`,
    )
    .join("");
  return (
    <svg className="handles kept" aria-label="Keep areas">
      <g transform={transformOf(placed)}>
        <path d={d} fill="none" stroke="var(--trace-edge)" strokeWidth={3} />
        <path d={d} fill="none" stroke="var(--leaf)" strokeWidth={1.5} strokeDasharray="2 5" strokeLinecap="round" />
      </g>
    </svg>
  );
}
