import { Button, Tag } from "antd";
import { useNavigate } from "react-router";
import type { Photo, Start } from "../api/client";
import { EditableName } from "../shared/EditableName";
import { useRoving } from "../shared/useRoving";
import { ReadingPicture } from "./ReadingPicture";
import "./PhotoSide.css";

interface Props {
  photo: Photo;
  starts: Start[];
  busy: boolean;
  onStart: (key: Start["key"], loop: boolean) => void;
  onRename: (name: string) => void;
  onDelete: () => void;
}

const percent = (share: number) => `${Math.round(share * 100)} %`;

const verdictOf = (reading: Photo["reading"], key: Start["key"]) =>
  reading.uses.find((use) => use.use === key.replace("sky-well", "sky well"))?.verdict;

/** The chosen photo: its reading in words and on the picture, and where to start from. */
export function PhotoSide({ photo, starts, busy, onStart, onRename, onDelete }: Props) {
  const { reading } = photo;
  const navigate = useNavigate();
  // The first that suits the photo is where a key leads.
  const roving = useRoving((starts.find((start) => verdictOf(reading, start.key) === "good") ?? starts[0])?.key);
  const faces = reading.features.filter((feature) => feature.kind === "face").length;
  return (
    <aside className="side" aria-label={`Photo ${photo.name}`}>
      <h2>
        <EditableName value={photo.name} label="Name of the photo" onChange={onRename} />
      </h2>
      <ReadingPicture photo={photo} />
      <p>{reading.words}</p>
      <section aria-label="Start a piece" className="starts" {...roving.grid}>
        {starts.map((start) => (
          <StartButtons key={start.key} start={start} reading={reading} busy={busy} tab={roving.tab} onStart={onStart} />
        ))}
      </section>
      <Button className="at-start" onClick={() => navigate(`/recipes/on/${photo.id}`)}>
        Try recipes on it
      </Button>
      {(!photo.transparent || photo.cut) && (
        <Button className="at-start" onClick={() => navigate(`/figure/${encodeURIComponent(photo.file_name)}`)}>
          {photo.cut ? "Correct the figure" : "Cut a figure out of it"}
        </Button>
      )}
      <h3>Good for, best first</h3>
      <dl className="uses">
        {reading.uses.map((use) => (
          <div key={use.use}>
            <dt>{use.use}</dt>
            <dd className={`verdict ${use.verdict}`}>{use.verdict}</dd>
            <dd className="quiet">{use.reasons.join(", ")}</dd>
          </div>
        ))}
      </dl>
      <div className="chips">
        <Tag>
          {photo.width} × {photo.height}
        </Tag>
        <Tag>ends match {Math.round(reading.agreement)} %</Tag>
        {reading.seam && (
          <Tag>
            join visible {reading.seam.before.toFixed(1)}, mended {reading.seam.after.toFixed(1)}
          </Tag>
        )}
        {reading.loop && <Tag>ends match better at {percent(reading.loop.right - reading.loop.left)} of the width</Tag>}
        <Tag>tones {percent(reading.tone_spread)}</Tag>
        <Tag>hues {percent(reading.hue_spread)}</Tag>
        <Tag>detail {percent(reading.detail)}</Tag>
        {faces > 0 && <Tag>{faces === 1 ? "a face" : `${faces} faces`}</Tag>}
        <Tag>sky {percent(reading.sky_share)}</Tag>
        <Tag>
          <span className="surround-dot" style={{ background: reading.surround }} />
          surround {percent(reading.surround_plainness)} plain
        </Tag>
      </div>
      {photo.notes.map((note) => (
        <p key={note} className="quiet small">
          {note}
        </p>
      ))}
      <Button type="text" onClick={onDelete} className="at-start">
        Delete
      </Button>
    </aside>
  );
}

interface StartProps {
  start: Start;
  reading: Photo["reading"];
  busy: boolean;
  tab: (id: string) => 0 | -1;
  onStart: Props["onStart"];
}

/** One starting point; where its edges would join better when cut, that way stands beside it. */
function StartButtons({ start, reading, busy, tab, onStart }: StartProps) {
  const best = verdictOf(reading, start.key) === "good";
  const loop = start.joins ? reading.loop : null;
  return (
    <div className={loop ? "start-pair" : "start-alone"}>
      <button
        type="button"
        className={`bare start ${best ? "best" : ""}`}
        tabIndex={tab(start.key)}
        data-roving={start.key}
        disabled={busy}
        onClick={() => onStart(start.key, false)}
      >
        <strong>
          {start.label}
          {best && <em>suits</em>}
        </strong>
        <span className="quiet small">{loop ? "From the whole width." : start.purpose}</span>
      </button>
      {loop && (
        <button
          type="button"
          className="bare start"
          tabIndex={tab(`${start.key} loop`)}
          data-roving={`${start.key} loop`}
          disabled={busy}
          onClick={() => onStart(start.key, true)}
        >
          <strong>
            Trim to {percent(loop.right - loop.left)}
            <em>its ends match better</em>
          </strong>
          <span className="quiet small">{start.label} from part of the width.</span>
        </button>
      )}
    </div>
  );
}
