import { Button, Tag } from "antd";
import type { Photo, Start } from "../api/client";
import { EditableName } from "../shared/EditableName";
import { ReadingPicture } from "./ReadingPicture";
import "./PhotoSide.css";

interface Props {
  photo: Photo;
  starts: Start[];
  busy: boolean;
  onStart: (key: Start["key"]) => void;
  onRename: (name: string) => void;
  onDelete: () => void;
}

const percent = (share: number) => `${Math.round(share * 100)} %`;

const verdictOf = (reading: Photo["reading"], key: Start["key"]) =>
  reading.uses.find((use) => use.use === key.replace("sky-well", "sky well"))?.verdict;

/** The chosen photo: its reading in words and on the picture, and where to start from. */
export function PhotoSide({ photo, starts, busy, onStart, onRename, onDelete }: Props) {
  const { reading } = photo;
  const faces = reading.features.filter((feature) => feature.kind === "face").length;
  return (
    <aside className="side" aria-label={`Photo ${photo.name}`}>
      <h2>
        <EditableName value={photo.name} label="Name of the photo" onChange={onRename} />
      </h2>
      <ReadingPicture photo={photo} />
      <p>{reading.words}</p>
      <section aria-label="Start a piece" className="starts">
        {starts.map((start) => (
          <button
            key={start.key}
            type="button"
            className={`bare start ${verdictOf(reading, start.key) === "good" ? "best" : ""}`}
            disabled={busy}
            onClick={() => onStart(start.key)}
          >
            <strong>
              {start.label}
              {verdictOf(reading, start.key) === "good" && <em>suits</em>}
            </strong>
            <span className="quiet small">{start.purpose}</span>
          </button>
        ))}
      </section>
      <h3>What it is good for</h3>
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
        <Tag>edges {Math.round(reading.agreement)} of 100</Tag>
        {reading.loop && (
          <Tag>
            best loop keeps {percent(reading.loop.right - reading.loop.left)}: edges {Math.round(reading.loop.before)} →{" "}
            {Math.round(reading.loop.after)}
          </Tag>
        )}
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
        Take off the Shelf
      </Button>
    </aside>
  );
}
