import { Spin } from "antd";
import { useRef } from "react";
import type { Kind } from "../api/client";
import { HANDLES } from "./handles/registry";
import { place } from "./model/geometry";
import { type PieceDocument, stepsOf } from "./model/piece";
import { viewFor } from "./model/view";
import { SplitLine } from "./SplitLine";
import { StageTools } from "./StageTools";
import { useBench } from "./store";
import { StepFinder } from "./trail/StepFinder";
import { type Shown, useLook } from "./useLook";
import { useRoom } from "./useRoom";
import { useZoom } from "./useZoom";

const DEEPEST = 4096;
/** Looks come in a few sizes, so that a small change of the window asks for nothing new. */
const SIZES = [512, 768, 1024, 1280, 1536, 2048, 2560, 3072, DEEPEST];

const sizeFor = (longer: number): number => SIZES.find((size) => size >= longer) ?? DEEPEST;

function Picture({ shown, box, clip }: { shown: Shown; box: { left: number; top: number; width: number; height: number }; clip?: string }) {
  return (
    <>
      <div className="see-through" style={{ ...box, clipPath: clip }} />
      <img src={shown.url} alt="The piece" style={{ ...box, clipPath: clip }} draggable={false} />
    </>
  );
}

/** The picture with the handles of the selected step on it. */
export function Stage({ document, byKey }: { document: PieceDocument; byKey: Map<string, Kind> }) {
  const { pieceId, selected, dragging, zoom, pan, surround, split, showOriginal, finderAt, edit, patch } = useBench();
  const ref = useRef<HTMLDivElement>(null);
  const room = useRoom(ref);
  useZoom(ref, room);
  const steps = stepsOf(document);
  const view = viewFor(steps, byKey, selected);
  const ready = room.width > 0 && byKey.size > 0;
  const size = sizeFor(
    Math.max(Math.min(room.width, room.height), 0.62 * Math.max(room.width, room.height)) * Math.max(1, zoom) * window.devicePixelRatio,
  );
  const last = useRef(0);
  const seen = last.current || size;
  const { shown, fault, settled } = useLook(`${pieceId}-stage`, ready ? { document, upto: view.upto, size, seen } : null, dragging);
  const comparing = showOriginal || split !== null;
  const original = useLook(
    `${pieceId}-original`,
    ready && comparing ? { document, upto: 0, size: Math.min(size, 1536), seen: size } : null,
    false,
  );
  const box = shown && place(shown, room, zoom, pan);
  if (box) last.current = Math.max(box.width, box.height) * window.devicePixelRatio;
  const originalBox = original.shown && place(original.shown, room, zoom, pan);
  const step = steps.find((s) => s.id === selected);
  const kind = step && byKey.get(step.kind);
  const cut = (split ?? 0) * room.width;
  const left = ref.current?.getBoundingClientRect().left ?? 0;
  return (
    <div ref={ref} className={`stage ${surround}`} data-settled={settled ? "yes" : "no"} data-upto={view.upto}>
      {!shown && !fault && (
        <Spin style={{ position: "absolute", inset: 0, display: "grid", placeContent: "center" }} description="Rendering" />
      )}
      {shown && box && !(showOriginal && original.shown) && (
        <Picture shown={shown} box={box} {...(split !== null ? { clip: `inset(0 0 0 ${Math.max(0, cut - box.left)}px)` } : {})} />
      )}
      {original.shown && originalBox && comparing && (
        <Picture
          shown={original.shown}
          box={originalBox}
          {...(split !== null && !showOriginal
            ? { clip: `inset(0 ${Math.max(0, originalBox.left + originalBox.width - cut)}px 0 0)` }
            : {})}
        />
      )}
      {box && step && kind && view.handles && !showOriginal && split === null && (
        <svg className="handles" aria-label={`Handles of ${kind.label}`}>
          {kind.handles.map((name) => {
            const Handle = HANDLES[name];
            return (
              Handle && (
                <Handle
                  key={name}
                  kind={kind}
                  settings={step.settings}
                  placed={box}
                  set={(settings, gesture) => edit({ type: "set", step: step.id, settings, gesture: `${step.id}-${gesture}` })}
                  dragging={(now) => patch({ dragging: now })}
                />
              )
            );
          })}
        </svg>
      )}
      {split !== null && <SplitLine share={split} room={{ width: room.width, left }} />}
      {fault && (
        <div className="stage-note" role="alert">
          {fault}
        </div>
      )}
      {!fault && view.upto < steps.length && (
        <div className="stage-note">
          <span>
            {kind && view.upto === steps.findIndex((s) => s.id === step?.id)
              ? `As it is before ${kind.label.toLowerCase()}`
              : `After ${view.upto} of ${steps.length} steps`}
          </span>
          <button type="button" className="bare" style={{ textDecoration: "underline" }} onClick={() => patch({ selected: null })}>
            Show the finished picture
          </button>
        </div>
      )}
      <StageTools />
      {finderAt !== null && <StepFinder document={document} at={finderAt} />}
    </div>
  );
}
