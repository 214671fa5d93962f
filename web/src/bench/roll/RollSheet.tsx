import { useQuery, useQueryClient } from "@tanstack/react-query";
import { App, Button, Segmented, Slider } from "antd";
import { useState } from "react";
import { api, take } from "../../api/client";
import { useCatalogue } from "../../shared/useCatalogue";
import { usePicture } from "../../shared/usePicture";
import { allEntries, asLayer, type PieceDocument } from "../model/piece";
import { useBenchPart, useDocument } from "../store";
import "./RollSheet.css";

type Vary = "both" | "seeds" | "settings";
const VARY: { value: Vary; label: string }[] = [
  { value: "both", label: "Random and settings" },
  { value: "seeds", label: "Random" },
  { value: "settings", label: "Settings" },
];
const SMALL = 512;
const LARGE = 1280;

interface Variant {
  document: PieceDocument;
  changes: string[];
}

const fresh = () => Math.floor(Math.random() * 1_000_000);
const shows = (document: PieceDocument) => JSON.stringify(document.layers);

function RolledPicture({ document, size, label }: { document: PieceDocument; size: number; label: string }) {
  const { url, failed } = usePicture({ document, upto: null, size });
  return url ? <img src={url} alt={label} /> : <span className="blank">{failed ? "could not be rendered" : ""}</span>;
}

/** Twelve variants of the piece over the picture: looked at large, compared, kept as versions, used, rolled on from. */
export function RollSheet() {
  const document = useDocument();
  const { pieceId, overlay, edit, patch } = useBenchPart("pieceId", "overlay", "edit", "patch");
  const { byKey } = useCatalogue();
  const { message } = App.useApp();
  const queries = useQueryClient();
  const [base, setBase] = useState<PieceDocument>(document);
  const [seed, setSeed] = useState(fresh);
  const [spread, setSpread] = useState(0.3);
  const [asked, setAsked] = useState(0.3);
  const [vary, setVary] = useState<Vary>("both");
  const steps = allEntries(base.layers)
    // Linked layers have the same steps: the first of them stands for all.
    .filter((entry, n, all) => !entry.link || all.findIndex((one) => one.link === entry.link) === n)
    .map(asLayer)
    .flatMap((layer) => layer.steps.filter((step) => step.on !== false).map((step) => ({ step, layer })));
  // What prepares and mends the picture is left alone unless it is asked for.
  const [fixed, setFixed] = useState<ReadonlySet<string>>(
    () => new Set(steps.filter(({ step }) => ["prepare", "mend"].includes(byKey.get(step.kind)?.family ?? "")).map(({ step }) => step.id)),
  );
  const large = overlay?.kind === "roll" ? (overlay.large ?? null) : null;
  const setLarge = (next: number | null) => patch({ overlay: { kind: "roll", large: next ?? undefined } });
  const [beside, setBeside] = useState(false);
  const [kept, setKept] = useState<ReadonlySet<PieceDocument>>(new Set());
  const chosen = steps.map(({ step }) => step.id).filter((id) => !fixed.has(id));
  const { data, error } = useQuery({
    queryKey: ["roll", shows(base), seed, asked, vary, chosen.join(" ")],
    queryFn: () =>
      take(
        api.POST("/api/v1/variants", {
          body: { document: base, seed, spread: asked, vary, steps: chosen, count: 12 },
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const variants = data?.variants ?? [];
  const one = large === null ? undefined : variants[large];
  const close = () => patch({ overlay: null });
  const again = () => {
    setSeed(fresh());
    setLarge(null);
  };
  const around = (variant: Variant) => {
    setBase(variant.document);
    again();
  };
  const use = (variant: Variant) => {
    edit({ type: "replace", document: variant.document, what: "use a rolled variant" });
    close();
  };
  const keep = (variant: Variant, index: number) =>
    take(
      api.POST("/api/v1/pieces/{piece_id}/versions", {
        params: { path: { piece_id: pieceId ?? "" } },
        body: { name: `Roll ${seed}, variant ${index + 1}`, document: variant.document },
      }),
    )
      .then(() => {
        setKept((before) => new Set([...before, variant.document]));
        void queries.invalidateQueries({ queryKey: ["versions"] });
      })
      .catch((fault: Error) => void message.error(fault.message));
  const toggle = (id: string) => {
    const next = new Set(fixed);
    if (!next.delete(id)) next.add(id);
    setFixed(next);
  };
  const actions = (variant: Variant, index: number) => (
    <>
      <Button size="small" type="primary" onClick={() => use(variant)}>
        Use
      </Button>
      <Button size="small" disabled={kept.has(variant.document)} onClick={() => void keep(variant, index)}>
        {kept.has(variant.document) ? "Saved" : "Save version"}
      </Button>
      <Button size="small" onClick={() => around(variant)}>
        More like this
      </Button>
    </>
  );
  return (
    <section className="finder roll" aria-label="Roll">
      <div className="finder-head">
        <h2>Roll</h2>
        <Segmented size="small" aria-label="What varies" value={vary} options={VARY} onChange={setVary} />
        <span className="quiet small">How different</span>
        <Slider
          className="roll-spread"
          min={0.02}
          max={1}
          step={0.01}
          value={spread}
          disabled={vary === "seeds"}
          tooltip={{ open: false }}
          ariaLabelForHandle="How different"
          onChange={setSpread}
          onChangeComplete={setAsked}
        />
        <span className="spring" />
        {base !== document && (
          <Button size="small" onClick={() => setBase(document)}>
            Back to the piece
          </Button>
        )}
        <Button size="small" type="primary" autoFocus onClick={again}>
          Roll again
        </Button>
        <Button size="small" onClick={close}>
          Close
        </Button>
      </div>
      <fieldset className="chips roll-steps">
        <legend className="visually-hidden">Steps that may vary</legend>
        <span className="quiet small">May vary:</span>
        {steps.map(({ step, layer }) => (
          <button
            key={`${layer.id} ${step.id}`}
            type="button"
            className="bare chip"
            aria-pressed={!fixed.has(step.id)}
            onClick={() => toggle(step.id)}
          >
            {byKey.get(step.kind)?.label ?? step.kind}
          </button>
        ))}
        {!steps.length && <span className="quiet small">The piece has no steps yet; add one, then roll.</span>}
      </fieldset>
      {error && <p role="alert">{error.message}</p>}
      {one && large !== null ? (
        <div className="roll-large">
          <div className="roll-pair">
            {beside && <RolledPicture document={document} size={LARGE} label="The piece now" />}
            <RolledPicture document={one.document} size={LARGE} label={`Variant ${large + 1}`} />
          </div>
          <p className="quiet small roll-changes">{one.changes.join("; ") || "Like the piece."}</p>
          <div className="roll-actions">
            <Button size="small" onClick={() => setLarge((large + 11) % 12)}>
              Previous
            </Button>
            <Button size="small" onClick={() => setLarge((large + 1) % 12)}>
              Next
            </Button>
            <Button size="small" aria-pressed={beside} onClick={() => setBeside(!beside)}>
              Compare with the piece
            </Button>
            {actions(one, large)}
            <Button size="small" onClick={() => setLarge(null)}>
              Show all
            </Button>
          </div>
        </div>
      ) : (
        <div className="finder-body">
          <div className="finder-grid rolls">
            {variants.map((variant, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a variant is known by its order alone
              <div key={`${seed} ${index}`} className="find rolled">
                <button
                  type="button"
                  className="bare"
                  aria-label={`Variant ${index + 1}, larger`}
                  title={variant.changes.join("\n")}
                  onClick={() => setLarge(index)}
                >
                  <RolledPicture document={variant.document} size={SMALL} label="" />
                </button>
                <div className="rolled-actions">
                  <button type="button" className="bare" onClick={() => use(variant)}>
                    Use
                  </button>
                  <button type="button" className="bare" disabled={kept.has(variant.document)} onClick={() => void keep(variant, index)}>
                    {kept.has(variant.document) ? "Saved" : "Save version"}
                  </button>
                  <button type="button" className="bare" onClick={() => around(variant)}>
                    More like this
                  </button>
                </div>
              </div>
            ))}
          </div>
        </div>
      )}
    </section>
  );
}
