import { Alert, Button, Progress, Spin } from "antd";
import { Link, useParams } from "react-router";
import type { RunPhoto, RunState } from "../api/client";
import { Head } from "../shared/Head";
import { More } from "../shared/More";
import { weight } from "../shared/weight";
import { useRun, useRunActs, useRuns } from "./useRuns";
import "./RunsPage.css";

const count = (run: RunState) => run.waiting + run.working + run.done + run.failed + run.cancelled;

/** How far a run is, in words. */
function inWords(run: RunState): string {
  const parts = [`${run.done} of ${count(run)} done`];
  if (run.failed) parts.push(`${run.failed} failed`);
  if (run.cancelled) parts.push(`${run.cancelled} cancelled`);
  if (run.state === "paused") parts.push("paused");
  if (run.behind) parts.push(`waiting: ${run.behind} before it`);
  if (run.size_bytes) parts.push(weight(run.size_bytes));
  return parts.join(" · ");
}

/** All runs. */
export function RunsPage() {
  const runs = useRuns();
  return (
    <div className="app">
      <Head />
      <main className="runs-page">
        <div className="shelf-bar">
          <h1>Runs</h1>
        </div>
        {runs.isPending && <Spin description="Loading runs" />}
        {runs.error && <Alert type="error" showIcon title={runs.error.message} />}
        {runs.isSuccess && !runs.items.length && (
          <div className="drop">
            <h2>No runs yet</h2>
            <p className="quiet">A run is a recipe on many photos, as files. Try a recipe on your photos, select some, and export them.</p>
            <Link to="/recipes">To the recipes</Link>
          </div>
        )}
        <ul className="run-list">
          {runs.items.map((run) => (
            <li key={run.id}>
              <Link to={`/runs/${run.id}`}>
                <strong>{run.name}</strong>
              </Link>
              <span className="quiet small">{new Date(run.asked_at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}</span>
              <Progress percent={Math.round(run.share * 100)} size="small" showInfo={false} aria-label={`${run.name} done`} />
              <span className="small">{inWords(run)}</span>
            </li>
          ))}
        </ul>
        <More pages={runs} />
      </main>
    </div>
  );
}

/** One run: its pictures as they come, and what can be done with it. */
export function RunPage() {
  const { runId = "" } = useParams();
  const { run, photos } = useRun(runId);
  const acts = useRunActs(runId);
  const data = run.data;
  return (
    <div className="app">
      <Head />
      <main className="runs-page">
        {run.isPending && <Spin description="Loading the run" />}
        {run.error && <Alert type="error" showIcon title={run.error.message} />}
        {data && (
          <>
            <div className="run-head">
              <div>
                <h1>{data.name}</h1>
                <span role="status">{inWords(data)}</span>
              </div>
              <div className="row">
                {data.state === "working" && <Button onClick={() => acts.mutate("pause")}>Pause</Button>}
                {data.state === "paused" && (
                  <Button type="primary" onClick={() => acts.mutate("on")}>
                    Continue
                  </Button>
                )}
                {(data.state === "working" || data.state === "paused") && <Button onClick={() => acts.mutate("cancel")}>Cancel</Button>}
                {data.failed + data.cancelled > 0 && data.state !== "working" && (
                  <Button onClick={() => acts.mutate("retry")}>Retry {data.failed + data.cancelled}</Button>
                )}
                {data.done > 0 && (
                  <>
                    <Button href={`/api/v1/runs/${data.id}/contact-sheet`} download>
                      Contact sheet
                    </Button>
                    <Button type="primary" href={`/api/v1/runs/${data.id}/archive`} download>
                      {data.done === 1 ? "The file as a ZIP" : `All ${data.done} files as a ZIP`}
                    </Button>
                  </>
                )}
              </div>
            </div>
            <Progress percent={Math.round(data.share * 100)} aria-label="The run, done" />
            <ul className="run-photos" aria-label="Photos of the run">
              {photos.items.map((photo) => (
                <PhotoItem key={photo.id} run={data.id} photo={photo} />
              ))}
            </ul>
            <More pages={photos} />
          </>
        )}
      </main>
    </div>
  );
}

const STATES: Record<RunPhoto["state"], string> = { waiting: "waiting", working: "", done: "", failed: "failed", cancelled: "cancelled" };

function PhotoItem({ run, photo }: { run: string; photo: RunPhoto }) {
  const address = `/api/v1/runs/${run}/photos/${photo.number}`;
  return (
    <li className={photo.state}>
      <div className="run-picture">
        {photo.state === "done" && <img src={`${address}/picture?${photo.times}`} alt="" loading="lazy" />}
        {photo.state === "working" && (
          <Progress type="circle" size={56} percent={Math.round(photo.share * 100)} aria-label={`${photo.file_name} done`} />
        )}
        {STATES[photo.state] && <span>{STATES[photo.state]}</span>}
      </div>
      <strong className="clip" title={photo.file_name}>
        {photo.file_name}
      </strong>
      {photo.state === "done" ? (
        <span className="small line">
          <span className="quiet">
            {photo.width} × {photo.height} · {weight(photo.size_bytes)}
          </span>
          <a href={`${address}/file`} download={photo.file_name} aria-label={`Download ${photo.file_name}`}>
            Download
          </a>
        </span>
      ) : (
        <span className="small" role={photo.state === "failed" ? "alert" : undefined}>
          {photo.message}
        </span>
      )}
    </li>
  );
}
