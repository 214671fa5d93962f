import { Alert, Button, Input, Progress, Switch } from "antd";
import { useEffect, useState } from "react";
import type { ExportJob, ExportOptions } from "../../api/client";
import { More } from "../../shared/More";
import { weight } from "../../shared/weight";
import { deliveredSides, inWords, nameOf, onPaper, withSize } from "../model/delivery";
import { Fold } from "../panel/Fold";
import { useBenchPart } from "../store";
import { Formats } from "./Formats";
import { Making } from "./Making";
import { Targets } from "./Targets";
import { useEstimate } from "./useEstimate";
import { useExports } from "./useExports";
import "./ExportPanel.css";

const STATES: Record<ExportJob["state"], string> = {
  waiting: "waiting",
  working: "working",
  done: "",
  failed: "failed",
  cancelled: "cancelled",
};

function JobLine({ job, onCancel }: { job: ExportJob; onCancel: () => void }) {
  const going = job.state === "waiting" || job.state === "working";
  return (
    <li>
      <div className="line">
        <strong className="clip" title={job.file_name}>
          {job.file_name}
        </strong>
        {job.state === "done" && (
          <a href={`/api/v1/exports/${job.id}/file`} download={job.file_name} aria-label={`Download ${job.file_name}`}>
            Download
          </a>
        )}
        {going && (
          <Button size="small" onClick={onCancel} aria-label={`Cancel ${job.file_name}`}>
            Cancel
          </Button>
        )}
      </div>
      {going ? (
        <Progress percent={Math.round(job.share * 100)} size="small" aria-label={`${job.file_name} done`} />
      ) : (
        <span className={job.state === "failed" ? "small" : "quiet small"} role={job.state === "failed" ? "alert" : undefined}>
          {job.state === "done"
            ? `${job.width} × ${job.height} · ${weight(job.size_bytes)}${job.message ? `. ${job.message}` : ""}`
            : `${STATES[job.state]}${job.message ? `: ${job.message}` : ""}`}
        </span>
      )}
    </li>
  );
}

/** What the file would be: its pixels at once, its weight as soon as that is known, and whether the photo has that many. */
function Foreseen({ options, onChange }: { options: ExportOptions; onChange: (options: ExportOptions) => void }) {
  const { data, isFetching, error } = useEstimate(options);
  const { shape, patch } = useBenchPart("shape", "patch");
  useEffect(() => () => patch({ softShown: null }), [patch]);
  const sides = shape && deliveredSides(options, shape);
  const paper = sides && onPaper(options, shape);
  const soft = data && data.honest !== null && options.size > data.honest * 1.05 ? data.honest : null;
  const isSharp = soft === null;
  // The sentence goes from under the pointer, and with it what it shows.
  useEffect(() => {
    if (isSharp) patch({ softShown: null });
  }, [isSharp, patch]);
  const smaller = soft === null ? null : withSize(options, soft);
  if (error) return <Alert type="error" showIcon title={error.message} />;
  return (
    <>
      <p className="foreseen" role="status" aria-busy={isFetching}>
        {sides ? `${sides[0]} × ${sides[1]} px` : ""}
        {paper && ` · ${paper}`}
        {data && !isFetching ? <strong>, about {weight(data.size_bytes)}</strong> : <span className="quiet">, estimating size …</span>}
      </p>
      {data?.wide && options.space === "srgb" && options.format !== "map" && (
        <div className="soft-note" role="note">
          <span title="An sRGB file gets the nearest colours instead.">Some colours are outside sRGB.</span>
          <Button size="small" onClick={() => onChange({ ...options, space: "display-p3" })}>
            Use Display P3
          </Button>
        </div>
      )}
      {smaller && (
        <div
          className="soft-note"
          role="note"
          onPointerEnter={() => patch({ softShown: options.size })}
          onPointerLeave={() => patch({ softShown: null })}
        >
          <span title="Larger is softer where the picture is tinted.">Sharp up to {soft} px, in four fifths of the picture.</span>
          <Button size="small" onClick={() => onChange(smaller)}>
            Use {soft}
            {smaller.dpi ? `, ${Math.round(smaller.dpi)} dpi` : ""}
          </Button>
        </div>
      )}
    </>
  );
}

/** Title, author, and whether the piece travels in the file; folded, since nothing of it is needed. */
function Said({ options, onChange }: { options: ExportOptions; onChange: (part: Partial<ExportOptions>) => void }) {
  const holds = options.format !== "openraster" && options.format !== "map";
  const said = [options.title && "title", options.author && "author", holds && options.trail && "trail"].filter(Boolean).join(", ");
  return (
    <Fold section="said" label="File information" note={said || "nothing"}>
      <div className="setting two">
        <span className="name">Title</span>
        <Input
          size="small"
          aria-label="Title"
          maxLength={200}
          value={options.title}
          onChange={(event) => onChange({ title: event.target.value })}
        />
      </div>
      <div className="setting two">
        <span className="name">Author</span>
        <Input
          size="small"
          aria-label="Author"
          maxLength={200}
          value={options.author}
          onChange={(event) => onChange({ author: event.target.value })}
        />
      </div>
      <div className="setting trailing">
        <span className="name">Steps inside the file</span>
        <Switch
          size="small"
          aria-label="Steps inside the file"
          checked={holds && options.trail}
          disabled={!holds}
          onChange={(trail) => onChange({ trail })}
        />
      </div>
      <p className="quiet small">
        {holds
          ? "Drop the file on the Shelf to open this piece again. The photo's location and camera data are left out."
          : "This format cannot hold steps."}
      </p>
    </Fold>
  );
}

/** Where a delivery goes, its size, format and quality; several in one go; and what was delivered before. */
export function ExportPanel({ pieceId, saveNow }: { pieceId: string; saveNow: () => Promise<boolean> }) {
  const { patch, delivery: options } = useBenchPart("patch", "delivery");
  const { jobs, latest, ask, cancel } = useExports(pieceId, saveNow);
  // The foot shows what was asked for last, until another is chosen.
  const [put, setPut] = useState<string | null>(null);
  const made = latest && latest.id !== put ? latest : undefined;
  const listed = jobs.items.filter((job) => job.id !== made?.id);
  const [more, setMore] = useState<ExportOptions[]>([]);
  const deliver = (delivery: ExportOptions) => {
    patch({ delivery });
    setPut(latest?.id ?? null);
  };
  const change = (part: Partial<ExportOptions>) => deliver({ ...options, ...part });
  const all = [...more, options];
  return (
    <aside className="panel" aria-label="Export">
      <div className="panel-head">
        <h2>Export</h2>
        <Button size="small" onClick={() => patch({ side: "step" })}>
          Back to the steps
        </Button>
      </div>
      <Targets options={options} onChange={deliver} />
      <Formats options={options} onChange={change} />
      <Said options={options} onChange={change} />
      <div className="export-foot">
        {!made && <Foreseen options={options} onChange={deliver} />}
        {more.length > 0 && (
          <ul className="chips also" aria-label="Exported together">
            {more.map((one, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the same file may be asked for twice
              <li key={index} className="chip">
                {inWords(one)}
                <button
                  type="button"
                  className="bare"
                  aria-label={`Remove ${inWords(one)}`}
                  onClick={() => setMore(more.filter((_, other) => other !== index))}
                >
                  ×
                </button>
              </li>
            ))}
          </ul>
        )}
        {made ? (
          <>
            <Making key={made.id} job={made} onStop={() => cancel.mutate(made.id)} />
            <Button onClick={() => setPut(made.id)}>Export another</Button>
          </>
        ) : (
          <div className="export-go">
            <Button type="primary" size="large" loading={ask.isPending} onClick={() => ask.mutate(all, { onSuccess: () => setMore([]) })}>
              {more.length ? `Export ${all.length} files` : `Export ${nameOf(options.format)}`}
            </Button>
            <Button size="large" title="Add another size or format, to export together" onClick={() => setMore(all)}>
              Add another size
            </Button>
          </div>
        )}
      </div>
      {listed.length > 0 && (
        <>
          <h3>Files</h3>
          <ul className="exports">
            {listed.map((job) => (
              <JobLine key={job.id} job={job} onCancel={() => cancel.mutate(job.id)} />
            ))}
          </ul>
          <More pages={jobs} />
        </>
      )}
    </aside>
  );
}
