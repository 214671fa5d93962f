import { useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { api, take } from "../../api/client";
import { useCatalogue } from "../../shared/useCatalogue";
import { usePhoto } from "../../shared/usePhotos";
import { fresh, suggested } from "../model/keep";
import { type KeepArea, keepOf, type Layer } from "../model/piece";
import { NOWHERE } from "../model/where";
import { NumberControl } from "../panel/controls/NumberControl";
import { useBenchPart, useDocument } from "../store";
import { useReading } from "../useReading";
import { WhereSection } from "../where/WhereSection";

/** The parts of the photo that must stay recognisable: suggested, drawn or painted, each with its weight. */
export function KeepSection({ layer }: { layer: Layer }) {
  const document = useDocument();
  const { keep: ofKeep } = useCatalogue();
  const { keepArea, edit, patch } = useBenchPart("keepArea", "edit", "patch");
  const { message } = App.useApp();
  const queries = useQueryClient();
  const reading = useReading(document, 0, layer.id);
  const keep = keepOf(layer.source);
  const photo = usePhoto(layer.source.photo);
  const write = (next: KeepArea[], gesture?: string) =>
    edit({
      type: "source",
      layer: layer.id,
      settings: { keep: next },
      ...(gesture ? { gesture: `keep-${gesture}` } : {}),
    });
  const open = (index: number | null) =>
    patch({ keepArea: index, whereOpen: index !== null, whereShape: index === null ? null : 0, tool: null });
  const found = reading ? fresh(suggested(reading), keep) : [];
  const add = () => {
    write([...keep, { name: "Drawn", weight: 0.8, where: { ...NOWHERE, feather: 0.06 } }]);
    patch({ keepArea: keep.length, whereOpen: true, whereShape: null, tool: "ellipse" });
  };
  const remember = () =>
    photo &&
    take(
      api.PATCH("/api/v1/photos/{photo_id}", {
        params: { path: { photo_id: photo.id } },
        body: { keep },
      }),
    )
      .then(() => {
        void queries.invalidateQueries({ queryKey: ["photos"] });
        void message.success("New pieces from this photo start with these areas.");
      })
      .catch((fault: Error) => void message.error(fault.message));
  const now = keepArea === null ? undefined : keep[keepArea];
  return (
    <section className="panel-part" aria-label="Keep areas">
      <div className="part-head">
        <strong>Keep areas</strong>
        <span className="quiet small">{keep.length || "none"}</span>
      </div>
      <p className="quiet small">Slices, Channel split, Wave, Pixel sort and Melt move less there.</p>
      <div className="chips">
        <button type="button" className="bare chip" disabled={!found.length} onClick={() => write([...keep, ...found])}>
          {reading ? (found.length ? `Suggest ${found.length}` : "Nothing to suggest") : "Reading …"}
        </button>
        <button type="button" className="bare chip" onClick={add}>
          Draw one
        </button>
        {photo && (
          <button type="button" className="bare chip" onClick={() => void remember()}>
            Save with the photo
          </button>
        )}
      </div>
      {keep.length > 0 && (
        <ol className="shape-list keys-list">
          {keep.map((area, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: an area is known by its order alone
            <li key={index} className={index === keepArea ? "chosen" : ""}>
              <span className="small">{Math.round(area.weight * 100)} %</span>
              <button
                type="button"
                className="bare"
                aria-pressed={index === keepArea}
                onClick={() => open(index === keepArea ? null : index)}
              >
                {area.name || "Area"}
              </button>
              <button
                type="button"
                className="bare"
                aria-label={`Remove keep area ${index + 1}`}
                onClick={() => {
                  write(keep.filter((_, n) => n !== index));
                  open(null);
                }}
              >
                ×
              </button>
            </li>
          ))}
        </ol>
      )}
      {now && keepArea !== null && (
        <>
          {ofKeep.map((setting) => (
            <NumberControl
              key={setting.name}
              kind={{ settings: ofKeep }}
              setting={setting}
              settings={{ weight: now.weight }}
              onChange={(value, gesture) =>
                write(
                  keep.map((area, n) => (n === keepArea ? { ...area, weight: Number(value) } : area)),
                  gesture,
                )
              }
              onDragging={(dragging) => patch({ dragging })}
            />
          ))}
          <WhereSection sheet={layer.id} step={null} where={now.where} photo={null} area={keepArea} />
        </>
      )}
    </section>
  );
}
