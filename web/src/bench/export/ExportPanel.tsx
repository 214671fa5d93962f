import { Alert, Button, Input, Progress, Switch } from "antd";
import { useState } from "react";
import type { ExportJob, ExportOptions } from "../../api/client";
import { More } from "../../shared/More";
import { weight } from "../../shared/weight";
import { inWords, nameOf } from "../model/delivery";
import { Fold } from "../panel/Fold";
import { useBenchPart } from "../store";
import { Formats } from "./Formats";
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
          <a href={`/api/exports/${job.id}/file`} download={job.file_name} aria-label={`Download ${job.file_name}`}>
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

/** What the file would be: its pixels and weight, and whether the photo has that many. */
function Foreseen({ options, onChange }: { options: ExportOptions; onChange: (part: Partial<ExportOptions>) => void }) {
  const { data, isFetching, error } = useEstimate(options);
  if (error) return <Alert type="error" showIcon title={error.message} />;
  if (!data) return <p className="quiet small">Weighing it …</p>;
  const soft = data.honest !== null && options.size > data.honest * 1.05;
  return (
    <>
      <p className={`foreseen ${isFetching ? "late" : ""}`} role="status">
        {data.width} × {data.height} px, <strong>about {weight(data.size_bytes)}</strong>
      </p>
      {soft && data.honest !== null && (
        <div className="soft-note" role="note">
          <span>The photo is sharp up to {data.honest} px; larger comes out softer.</span>
          <Button size="small" onClick={() => onChange({ size: data.honest ?? options.size })}>
            Use {data.honest}
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
    <Fold section="said" label="Said in the file" note={said || "nothing"}>
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
        <span className="name">Trail inside</span>
        <Switch
          size="small"
          aria-label="Trail inside"
          checked={holds && options.trail}
          disabled={!holds}
          onChange={(trail) => onChange({ trail })}
        />
      </div>
      <p className="quiet small">
        {holds
          ? "Dropped on the Shelf, the file opens this piece again. The photo's place and camera data are left out."
          : "This kind of file holds no trail."}
      </p>
    </Fold>
  );
}

/** Where a delivery goes, its size, format and quality; several in one go; and what was delivered before. */
export function ExportPanel({ pieceId, saveNow }: { pieceId: string; saveNow: () => Promise<boolean> }) {
  const { patch, delivery: options } = useBenchPart("patch", "delivery");
  const { jobs, ask, cancel } = useExports(pieceId, saveNow);
  const [more, setMore] = useState<ExportOptions[]>([]);
  const change = (part: Partial<ExportOptions>) => patch({ delivery: { ...options, ...part } });
  const all = [...more, options];
  return (
    <aside className="panel" aria-label="Export">
      <div className="panel-head">
        <h2>Export</h2>
        <Button size="small" onClick={() => patch({ side: "step" })}>
          Back to the steps
        </Button>
      </div>
      <Targets options={options} onChange={(delivery) => patch({ delivery })} />
      <Formats options={options} onChange={change} />
      <Said options={options} onChange={change} />
      <div className="export-foot">
        <Foreseen options={options} onChange={change} />
        {more.length > 0 && (
          <ul className="chips also" aria-label="Exported in the same go">
            {more.map((one, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the same file may be asked for twice
              <li key={index} className="chip">
                {inWords(one)}
                <button
                  type="button"
                  className="bare"
                  aria-label={`Leave out ${inWords(one)}`}
                  onClick={() => setMore(more.filter((_, other) => other !== index))}
                >
                  ×
                </button>
              </li>
            ))}
          </ul>
        )}
        <div className="export-go">
          <Button type="primary" size="large" loading={ask.isPending} onClick={() => ask.mutate(all, { onSuccess: () => setMore([]) })}>
            {more.length ? `Export ${all.length} files` : `Export ${nameOf(options.format)}`}
          </Button>
          <Button
            size="large"
            title="Keep this one, and choose another size or format to export in the same go"
            onClick={() => setMore(all)}
          >
            And another
          </Button>
        </div>
      </div>
      {jobs.count > 0 && (
        <>
          <h3>Delivered</h3>
          <ul className="exports">
            {jobs.items.map((job) => (
              <JobLine key={job.id} job={job} onCancel={() => cancel.mutate(job.id)} />
            ))}
          </ul>
          <More pages={jobs} />
        </>
      )}
    </aside>
  );
}
