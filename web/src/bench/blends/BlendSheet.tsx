import { Button } from "antd";
import { useCatalogue } from "../../shared/useCatalogue";
import { blendName } from "../model/blendName";
import { type Blend, entryOf, layerOf } from "../model/piece";
import { useBenchPart, useDocument } from "../store";
import { useBlends } from "./useBlends";
import "./BlendSheet.css";

interface Props {
  /** The layer or group, or the layer of the step. */
  sheet: string;
  step: string | null;
}

const SMALL = 200;
const LARGE = 640;

/** One mode cut out of the sheet of all. */
function Mode({ sheet, index, width }: { sheet: { url: string; width: number; height: number }; index: number; width: number }) {
  const height = (width * sheet.height) / sheet.width;
  return (
    <span
      className="mode-picture"
      style={{
        height,
        backgroundImage: `url(${sheet.url})`,
        backgroundSize: `${width}px auto`,
        backgroundPosition: `0 ${-index * height}px`,
      }}
    />
  );
}

/** Every blend mode on the real picture at once; a click takes it, resting on one shows it large. */
export function BlendSheet({ sheet, step }: Props) {
  const { overlay, edit, patch } = useBenchPart("overlay", "edit", "patch");
  const document = useDocument();
  const { blends } = useCatalogue();
  const large = overlay?.kind === "blends" ? (overlay.large ?? null) : null;
  const setLarge = (next: number | null) => patch({ overlay: { kind: "blends", large: next ?? undefined } });
  const small = useBlends(document, sheet, step, SMALL, true);
  const big = useBlends(document, sheet, step, LARGE, large !== null);
  const now = (step ? layerOf(document, sheet).steps.find((s) => s.id === step)?.blend : entryOf(document, sheet)?.blend) ?? "normal";
  const close = () => patch({ overlay: null });
  const choose = (blend: Blend) => {
    if (step) edit({ type: "step", step, layer: sheet, change: { blend } });
    else edit({ type: "entry", id: sheet, change: { blend } });
    close();
  };
  return (
    <section className="finder" aria-label="Blend modes">
      <div className="finder-head">
        <h2>Blend modes</h2>
        <span className="quiet small grow">Each shows the whole piece. Click one to use it.</span>
        {large !== null && (
          <Button size="small" onClick={() => setLarge(null)}>
            Show all
          </Button>
        )}
        <Button size="small" autoFocus onClick={close}>
          Close
        </Button>
      </div>
      {large !== null ? (
        <div className="mode-large">
          {big ? <Mode sheet={big} index={large} width={Math.min(LARGE, 620)} /> : <p className="quiet">Rendering …</p>}
          <strong>{blendName(blends[large] ?? "")}</strong>
          <Button type="primary" onClick={() => choose(blends[large] ?? "normal")}>
            Use it
          </Button>
        </div>
      ) : (
        <div className="finder-body">
          {!small && <p className="quiet">Rendering every mode …</p>}
          <div className="finder-grid modes">
            {small &&
              blends.map((blend, index) => (
                <div key={blend} className={`find mode ${blend === now ? "chosen" : ""}`}>
                  <button
                    type="button"
                    className="bare"
                    aria-pressed={blend === now}
                    aria-label={`Blend ${blendName(blend)}`}
                    onClick={() => choose(blend)}
                  >
                    <Mode sheet={small} index={index} width={150} />
                    <span>{blendName(blend)}</span>
                  </button>
                  <button
                    type="button"
                    className="bare enlarge"
                    aria-label={`Enlarge ${blendName(blend)}`}
                    title="Enlarge"
                    onClick={() => setLarge(index)}
                  >
                    larger
                  </button>
                </div>
              ))}
          </div>
        </div>
      )}
    </section>
  );
}
