import { Button, Upload } from "antd";
import { useState } from "react";
import type { Kind, OwnFormula } from "../../api/client";
import { EditableName } from "../../shared/EditableName";
import { More } from "../../shared/More";
import { type Settings, type Step, stepsOf, withSteps } from "../model/piece";
import { defaults } from "../model/settings";
import { useBench, useBenchPart, useDocument } from "../store";
import { useTriedLook } from "../useSmallLook";
import { useBook } from "./useBook";
import "./FormulaBook.css";

interface PageProps {
  settings: Settings;
  step: Step;
  kind: Kind;
  name: string;
  onTake: () => void;
}

/** A formula as a picture of what it would do to this piece at this place. */
function PagePicture({ settings, step, kind, name, onTake }: PageProps) {
  const document = useDocument();
  const layer = useBench((state) => state.layer);
  const steps = stepsOf(document, layer);
  const at = steps.findIndex((s) => s.id === step.id);
  const tried = [{ ...step, on: true, settings: defaults(kind, settings) }];
  const trial = withSteps(document, [...steps.slice(0, at), ...tried], layer);
  const { url, failed } = useTriedLook(document, trial, { at, steps: tried, looksAround: true }, layer);
  return (
    <button type="button" className="bare find" aria-label={`Use ${name}`} onClick={onTake}>
      {url ? <img src={url} alt="" /> : <span className="blank">{failed ? "not available" : ""}</span>}
      <span>
        <code>{String(settings.first)}</code>
        <code>{String(settings.second)}</code>
      </span>
    </button>
  );
}

/** The book of formulas over the picture: those that come with Caracol, and the artist's own. */
export function FormulaBook({ step, kind }: { step: Step; kind: Kind }) {
  const { edit, patch } = useBenchPart("edit", "patch");
  const book = useBook();
  const [gone, setGone] = useState<OwnFormula | null>(null);
  const close = () => patch({ overlay: null });
  const takePage = (settings: Settings) => {
    edit({ type: "set", step: step.id, settings: defaults(kind, settings) });
    close();
  };
  const takeIn = (file: File) => {
    book.takeIn.mutate(file);
    return false;
  };
  const bringBack = () => {
    if (gone) book.restore.mutate(gone, { onSuccess: () => setGone(null) });
  };
  const page = (name: string, settings: Settings) => (
    <PagePicture settings={settings} step={step} kind={kind} name={name} onTake={() => takePage(settings)} />
  );
  return (
    <section className="finder" aria-label="Formula book">
      <div className="finder-head">
        <h2>Formula book</h2>
        <span className="quiet small grow">Each shows your picture at this step.</span>
        <Upload accept=".json" showUploadList={false} beforeUpload={takeIn}>
          <Button size="small">Import</Button>
        </Upload>
        <Button size="small" autoFocus onClick={close}>
          Close
        </Button>
      </div>
      <div className="finder-body">
        <h3 className="plain">Yours</h3>
        {gone && (
          <p className="quiet">
            “{gone.name}” was deleted.{" "}
            <button type="button" className="bare chip" onClick={bringBack}>
              Undo
            </button>
          </p>
        )}
        {!book.own.count && !gone && <p className="quiet">None yet. Write one in the panel, then save it.</p>}
        <div className="finder-grid pages">
          {book.own.items.map((formula) => (
            <div key={formula.id} className="page">
              {page(formula.name, formula.settings as Settings)}
              <div className="page-foot">
                <strong className="clip">
                  <EditableName
                    value={formula.name}
                    label="Name of the formula"
                    onChange={(name) => book.rename.mutate({ formula, name })}
                  />
                </strong>
                <a href={`/api/v1/formulas/${formula.id}/file`} download aria-label={`Export ${formula.name} as JSON`}>
                  JSON
                </a>
                <button
                  type="button"
                  className="bare"
                  aria-label={`Delete ${formula.name}`}
                  onClick={() => book.remove.mutate(formula, { onSuccess: () => setGone(formula) })}
                >
                  ×
                </button>
              </div>
            </div>
          ))}
        </div>
        <More pages={book.own} />
        <h3 className="plain">Caracol’s</h3>
        <div className="finder-grid pages">
          {kind.starts.map((start) => (
            <div key={start.name} className="page">
              {page(start.name, start.settings as Settings)}
              <div className="page-foot">
                <strong className="clip">{start.name}</strong>
              </div>
            </div>
          ))}
        </div>
      </div>
    </section>
  );
}
