import { Alert, App, Button, Input, Segmented, Spin, Switch } from "antd";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import type { Photo } from "../api/client";
import { Head } from "../shared/Head";
import { useKeys } from "../shared/keys";
import { SlidFigure } from "../shared/SlidFigure";
import { useNamedPhoto } from "../shared/usePhotos";
import { FigureStage } from "./FigureStage";
import { BRUSH, type Tool } from "./figure";
import { useFigure } from "./useFigure";
import "./FigurePage.css";

const TOOLS: { value: Tool; label: string }[] = [
  { value: "box", label: "Box" },
  { value: "add", label: "Add" },
  { value: "remove", label: "Remove" },
  { value: "points", label: "Points" },
];
const TOLD: Record<Tool, string> = {
  box: "Drag a rough box round the figure. Its outline is found inside.",
  add: "Paint over what is missing: similar parts next to the stroke are added.",
  remove: "Paint over what does not belong to the figure.",
  points: "Drag points. Click beside the line to add one; double click removes one.",
};

/** A figure is outlined in a photo and cut out of it; or one that was is corrected. */
export function FigurePage() {
  const { fileName = "" } = useParams();
  const { photo: opened, isKnown } = useNamedPhoto(fileName);
  const named = opened?.cut ? opened.cut.photo : fileName;
  const { photo: source, isKnown: isSourceKnown } = useNamedPhoto(named);
  if (!opened || !source) {
    const missing = isKnown && !opened ? fileName : isSourceKnown && !source ? named : null;
    return (
      <div className="app">
        <Head />
        <main className="figure-page alone">
          {missing ? (
            <Alert
              type="warning"
              showIcon
              title={`The photo “${missing}” is no longer on the Shelf. Add it again, or choose another.`}
              action={<Link to="/">To the Shelf</Link>}
            />
          ) : (
            <Spin description="Fetching the photo" />
          )}
        </main>
      </div>
    );
  }
  return <Outlining key={opened.id} photo={source} correct={opened.cut ? opened : null} />;
}

function Outlining({ photo, correct }: { photo: Photo; correct: Photo | null }) {
  const navigate = useNavigate();
  const { message } = App.useApp();
  const [query] = useSearchParams();
  const back = query.get("back") ?? "/";
  const work = useFigure(photo.file_name, correct?.cut ?? null, correct?.file_name ?? photo.file_name);
  const { figure, change } = work;
  const { outline } = figure;
  const [tool, setTool] = useState<Tool>(correct ? "add" : "box");
  const [brush, setBrush] = useState(BRUSH.usual);
  const [exact, setExact] = useState(false);
  const [ground, setGround] = useState<"photo" | "chequer" | "dark">("photo");
  const [name, setName] = useState(correct?.name ?? `${photo.name} figure`);
  // Once a figure is there, it is corrected.
  const found = outline !== null;
  useEffect(() => {
    if (found) setTool((now) => (now === "box" ? "add" : now));
  }, [found]);
  useKeys({
    "mod+z": () => work.back?.(),
    "mod+shift+z": () => work.forth?.(),
    "mod+y": () => work.forth?.(),
    n: () => setBrush((now) => Math.max(BRUSH.least, now / 1.2)),
    m: () => setBrush((now) => Math.min(BRUSH.most, now * 1.2)),
  });
  const keep = () =>
    work.keep.mutate(
      { name: name.trim() || "Figure", correct },
      {
        onSuccess: (kept) => {
          void message.success(correct ? `“${kept.name}” was corrected in every piece that uses it.` : `“${kept.name}” is on the Shelf.`);
          navigate(back);
        },
      },
    );
  const number = (label: string, value: number, most: number, step: number, times: number, after: string, set: (next: number) => void) => (
    <div className="setting">
      <span>{label}</span>
      <SlidFigure
        label={label}
        onSlide={set}
        slide={{ min: 0, max: most, step, value }}
        figure={{
          value: Number((value * times).toFixed(3)),
          min: 0,
          max: most * times,
          step: step * times,
          suffix: after || undefined,
          onChange: (next) => next !== null && set(Number(next) / times),
        }}
      />
    </div>
  );
  return (
    <div className="app">
      <Head>
        <h1 className="clip">{correct ? `Correct ${correct.name}` : `A figure from ${photo.name}`}</h1>
        <span className="spring" />
        <Button disabled={!work.back} onClick={() => work.back?.()}>
          Undo
        </Button>
        <Button disabled={!work.forth} onClick={() => work.forth?.()}>
          Redo
        </Button>
        <Button onClick={() => navigate(back)}>Cancel</Button>
      </Head>
      <main className="figure-page">
        <FigureStage photo={photo} work={work} tool={tool} brush={brush} exact={exact} ground={ground} />
        <aside className="panel" aria-label="The figure">
          <div className="panel-head">
            <h2>{correct ? "Correct the figure" : "Cut a figure out"}</h2>
            <p className="quiet">{TOLD[tool]}</p>
          </div>
          {work.doubtful.length > 0 && (
            <p className="small" role="status">
              Nothing was found in the striped part. If something is missing there, such as legs, paint one stroke along it.
            </p>
          )}
          {work.restored && (
            <p className="quiet small" role="status">
              Your earlier outline is back.{" "}
              <button type="button" className="bare chip" onClick={work.anew}>
                Start over
              </button>
            </p>
          )}
          <Segmented block className="tight" aria-label="Tool" value={tool} options={TOOLS} onChange={(next) => setTool(next as Tool)} />
          {(tool === "add" || tool === "remove") && (
            <>
              {number("Brush", brush, BRUSH.most, 0.002, 1, "", setBrush)}
              <div className="setting trailing">
                <span>Only what I paint</span>
                <Switch
                  size="small"
                  aria-label="Only what I paint"
                  checked={exact || !figure.search}
                  disabled={!figure.search}
                  onChange={setExact}
                />
              </div>
            </>
          )}
          {tool === "box" && (
            <Button size="small" className="at-start" onClick={() => work.search.mutate({ box: wholeOf(photo), hints: [] })}>
              Search the whole photo
            </Button>
          )}
          <section className="panel-part" aria-label="Edge">
            <div className="part-head">
              <strong>Edge</strong>
            </div>
            {outline &&
              number("Feather", outline.feather ?? 0, 0.1, 0.001, 1, "", (feather) =>
                change({ outline: { ...outline, feather } }, "feather"),
              )}
            {number("Hair", figure.hair, 0.1, 0.001, 1, "", (hair) => change({ hair }, "hair"))}
            {number("Fringe", figure.fringe, 1, 0.05, 100, " %", (fringe) => change({ fringe }, "fringe"))}
            <p className="quiet small">
              Hair: how far from the edge fine strands are followed. Fringe: removes background colour at the edge.
            </p>
          </section>
          <Segmented
            size="small"
            aria-label="Shown on"
            className="at-start"
            value={ground}
            options={[
              { value: "photo", label: "Photo" },
              { value: "chequer", label: "Transparent" },
              { value: "dark", label: "Dark" },
            ]}
            onChange={(next) => setGround(next as typeof ground)}
          />
          {!correct && (
            <Input aria-label="Name of the figure" value={name} maxLength={120} onChange={(event) => setName(event.target.value)} />
          )}
          <Button type="primary" disabled={!outline} loading={work.keep.isPending} onClick={keep}>
            {work.keep.isPending ? "Cutting it out at full size …" : correct ? "Save the correction" : "Save to the Shelf"}
          </Button>
        </aside>
      </main>
    </div>
  );
}

/** The frame of a photo but for a hair, in its units. */
function wholeOf({ width, height }: Photo): number[] {
  const [x, y] = [Math.max(width / height, 1) * 0.97, Math.max(height / width, 1) * 0.97];
  return [-x, -y, x, y];
}
