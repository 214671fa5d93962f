import { Spin } from "antd";
import { useEffect, useMemo, useRef, useState } from "react";
import { useCatalogue } from "../shared/useCatalogue";
import { PlateFilter } from "./bar/Plates";
import { PickGround } from "./colours/PickGround";
import { Beside } from "./compare/Beside";
import { type Hand, Picture } from "./compare/Picture";
import { useCompared } from "./compare/useCompared";
import { DeliveredCut } from "./export/DeliveredCut";
import { useSoft } from "./export/useSoft";
import { StageRoom } from "./handles/away";
import { BoxHandle, wholeBox } from "./handles/BoxHandle";
import { LayerPlaceHandle } from "./handles/LayerPlaceHandle";
import { HANDLES } from "./handles/registry";
import { WorldTurnHandle } from "./handles/WorldTurnHandle";
import { KeptOutline } from "./keep/KeptOutline";
import { MovedLayer } from "./MovedLayer";
import { keptShare, longerDelivered } from "./model/delivery";
import { boxStyle, place, placedLayer, transformOf } from "./model/geometry";
import { type Part, partInView, sameParts } from "./model/inView";
import { entryOf, isDrawn, isSingle, keepOf, layerOf, type PieceDocument, stepsOf, type Where, withOnly } from "./model/piece";
import { rolledAfter } from "./model/seam";
import { AROUND, LARGEST_WHOLE, SMALL, sizeFor } from "./model/stageSize";
import { FINISHED, LAYER, SOURCE, viewFor } from "./model/view";
import { Overlays } from "./Overlays";
import { PhotoReading } from "./PhotoReading";
import { changeOf, shownSettings } from "./panel/kindTools";
import { usePrefs } from "./prefs";
import { SplitLine } from "./SplitLine";
import { StageNotes } from "./StageNotes";
import { useBench, useBenchPart, useDocument } from "./store";
import { useClipped } from "./useClipped";
import { useInForce } from "./useInForce";
import { useLook } from "./useLook";
import { useRoom } from "./useRoom";
import { useStretches } from "./useStretches";
import { useZoom } from "./useZoom";
import { Waiting } from "./Waiting";
import { WhereOnPicture } from "./where/WhereOnPicture";
import { useWordsPressed } from "./words/useWordsPressed";
import { WordsOnPicture } from "./words/WordsOnPicture";
import "./Stage.css";

/** What is drawn with a single shape is drawn: the finder opens for it. A painted part may take more strokes. */
const chosenIn = (region: Where, at: number) => ({ region, regionAt: null, tool: null, overlay: { kind: "finder", at } as const });

/** The picture with the handles of the selected step or layer on it. What is told already is not said on it again. */
export function Stage({ told }: { told: string | null }) {
  const document = useDocument();
  const { byKey, byRole } = useCatalogue();
  const bench = useBenchPart(
    "beside",
    "delivery",
    "dragging",
    "edit",
    "joinShown",
    "keepArea",
    "layer",
    "pan",
    "patch",
    "pick",
    "pieceId",
    "plate",
    "playing",
    "region",
    "regionAt",
    "selected",
    "showOriginal",
    "side",
    "solo",
    "split",
    "splitTurn",
    "bare",
    "boxing",
    "boxRatio",
    "draggedSetting",
    "viewTurn",
    "tool",
    "tried",
    "whereOpen",
    "zoom",
  );
  const { pieceId, selected, dragging, zoom, pan, viewTurn, split, splitTurn, showOriginal, edit, patch } = bench;
  const surround = usePrefs((prefs) => prefs.surround);
  const ref = useRef<HTMLDivElement>(null);
  const [markers, setMarkers] = useState<SVGGElement | null>(null);
  const whole = useRoom(ref);
  const room = bench.beside ? { ...whole, width: whole.width / 2 } : whole;
  useZoom(ref, room);
  const layer = layerOf(document, bench.layer);
  const single = isSingle(document);
  const hand = useRef<Hand | null>(null);
  const { solo } = bench;
  const at = layer.steps.findIndex((s) => s.id === selected);
  const step = layer.steps[at];
  const kind = step && byKey.get(step.kind);
  // The join of left and right in the middle of the picture, while it is closed.
  const join = bench.joinShown && bench.side === "step" && kind?.role === "joins" && step?.settings.along !== "ray" ? step : null;
  const [layerId, joinId] = [layer.id, join?.id ?? null];
  // The box is for the finished picture: whoever works on something sees all of the piece.
  const boxed = (selected === null || bench.side === "export") && !bench.boxing && !bench.pick && bench.regionAt === null;
  const rolls = byRole("rolls")?.key;
  const seenOf = useMemo(() => seenIn(solo, layerId, joinId, rolls, boxed), [solo, layerId, joinId, rolls, boxed]);
  // What is delivered is the finished picture, whatever step is selected.
  const { region, regionAt } = bench;
  const regionView = regionAt === null ? null : { upto: regionAt < layer.steps.length ? regionAt : null, handles: false };
  const joinView = join && join.on !== false ? { upto: at + 2, handles: true } : null;
  // A colour is picked from the finished piece, a tone from what the step is given.
  const pickView = bench.pick && (bench.pick.view === "before" && at >= 0 ? { upto: at, handles: false } : FINISHED);
  // What is drawn is drawn for the piece, and seen in it.
  const drawnView = selected === SOURCE && isDrawn(layer.source) ? FINISHED : null;
  const triedView = bench.tried && { upto: bench.tried.upto, handles: false };
  const view =
    triedView ??
    pickView ??
    regionView ??
    joinView ??
    (bench.side === "export" ? FINISHED : (drawnView ?? viewFor(layer.steps, byKey, selected)));
  const ready = room.width > 0 && byKey.size > 0;
  // The size it is really seen at, device pixels counted; before the first picture its shape is not known.
  const shape = useRef<{ width: number; height: number } | null>(null);
  const guess = Math.max(Math.min(room.width, room.height), 0.62 * Math.max(room.width, room.height)) * zoom;
  const lies = shape.current && { ...place(shape.current, room, zoom, pan), turn: viewTurn };
  const seen = (lies ? Math.max(lies.width, lies.height) : guess) * window.devicePixelRatio;
  const delivered = longerDelivered(bench.delivery, shape.current ? shape.current.width / shape.current.height : 1);
  const wantedSize = sizeFor(seen, delivered);
  const part = useSame(lies && wantedSize > SMALL ? partInView(lies, room) : null);
  const size = part ? wantedSize : Math.min(wantedSize, LARGEST_WHOLE);
  const looked = bench.tried?.document ?? document;
  const seenDocument = useMemo(() => seenOf(looked), [looked, seenOf]);
  const { shown, fault, settled, looks } = useLook(
    `${pieceId}-stage`,
    ready ? { document: seenDocument, upto: view.upto, layer: layer.id, size, seen, part } : null,
    dragging,
    useMemo(() => ({ hand, seenOf }), [seenOf]),
  );
  if (shown) shape.current = shown;
  const around = useLook(
    `${pieceId}-around`,
    ready && part && !dragging ? { document: seenDocument, upto: view.upto, layer: layer.id, size: AROUND, seen: AROUND } : null,
    false,
  ).shown;
  const fitScale = lies ? seen / zoom / delivered : null;
  useEffect(() => {
    if (fitScale) patch({ fitScale });
  }, [fitScale, patch]);
  const pieceRatio = shown?.frames?.ratio;
  useEffect(() => {
    if (pieceRatio) patch({ shape: pieceRatio });
  }, [pieceRatio, patch]);
  // Only a melt that stretches waits for what is seen: else every picture would draw the whole Bench once more.
  useEffect(() => {
    if (useBench.getState().playing) patch({ shownOf: shown?.of.document ?? null });
  }, [shown, patch]);
  const comparing = showOriginal || split !== null || bench.beside;
  const other = useCompared(`${pieceId}-other`, ready && comparing ? { document, layer, size, seen, part } : null);
  const box = shown && { ...place(shown, room, zoom, pan), turn: viewTurn };
  const otherBox = other.shown && { ...place(other.shown, room, zoom, pan), turn: viewTurn };
  const onDoubleClick = useWordsPressed(view.upto === null && !comparing && regionAt === null && !bench.pick && !bench.boxing ? box : null);
  const inForce = useInForce(step);
  const stretches = useStretches(document, step);
  const clipped = useClipped(document, step);
  const soft = useSoft();
  const area = selected === SOURCE ? (keepOf(layer.source)[bench.keepArea ?? -1] ?? null) : null;
  const bounds = ref.current?.getBoundingClientRect();
  const entry = entryOf(document, bench.layer) ?? layer;
  // Where the finished piece is shown, a layer's handles lie where the layer does.
  const frames = shown?.frames;
  const ratio = frames?.layers[layer.id];
  const contain = layer.source.fit === "contain";
  const layerBox =
    box && view.upto === null && !single && frames && ratio ? placedLayer(box, frames.ratio, ratio, contain, layer.place) : box;
  // While a picture without the step is still seen, or one of another stage, its handles would lie elsewhere, and jump.
  const seenStep = shown && stepsOf(shown.of.document, layer.id).find((one) => one.id === selected);
  const ofThisView = shown?.of.upto === view.upto && (view.upto === null || shown.of.layer === layer.id) && seenStep?.on !== false;
  const cutAt = (side: 1 | -1) => (split === null ? null : { at: split, turn: splitTurn, side, room });
  const handlesShown =
    box && step && kind && view.handles && seenStep && ofThisView && !comparing && !bench.whereOpen && !bench.pick && !bench.boxing;
  const stageRoom = useMemo(
    () => ({ width: room.width, height: room.height, markers, taken: new Map() }),
    [room.width, room.height, markers],
  );
  return (
    <StageRoom.Provider value={stageRoom}>
      <section
        ref={ref}
        tabIndex={-1}
        aria-label="Picture"
        className={`stage ${surround} ${dragging ? "dragging" : ""} ${bench.bare || bench.draggedSetting !== null ? "bare-picture" : ""} ${bench.plate ? "one-plate" : ""}`}
        onDoubleClick={onDoubleClick}
        data-settled={settled ? "yes" : "no"}
        data-upto={view.upto ?? layer.steps.length}
      >
        {!shown && !fault && <Spin className="stage-wait" description="Rendering" />}
        {around && part && box && !showOriginal && <Picture shown={around} box={box} cut={cutAt(1)} />}
        {shown && box && !(showOriginal && other.shown) && (
          <Picture shown={shown} box={box} hand={comparing ? undefined : hand} cut={cutAt(1)} exact={seen > 1.5 * shown.width} />
        )}
        {other.shown && otherBox && (showOriginal || split !== null) && (
          <Picture shown={other.shown} box={otherBox} cut={showOriginal ? null : cutAt(-1)} />
        )}
        {shown && box && !box.turn && selected === LAYER && frames && ratio && !comparing && !part && (
          <MovedLayer
            key={layer.id}
            layer={layer}
            piece={box}
            pieceRatio={frames.ratio}
            ratio={ratio}
            document={document}
            shownOf={shown.of.document}
          />
        )}
        {bench.beside && other.shown && otherBox && <Beside shown={other.shown} box={otherBox} left={room.width} label={other.label} />}
        {box && selected === SOURCE && layer.source.kind === "photo" && !comparing && !area && <PhotoReading layer={layer.id} box={box} />}
        {stretches && layerBox && !comparing && <img className="veil runs" src={stretches} alt="" style={boxStyle(layerBox)} />}
        {clipped && layerBox && !comparing && <img className="veil clipped" src={clipped} alt="" style={boxStyle(layerBox)} />}
        {layerBox && !comparing && (selected === SOURCE || kind?.respects_keep) && (
          <KeptOutline layer={layer.id} upto={view.upto} placed={layerBox} />
        )}
        {handlesShown && layerBox && (
          <svg className="handles" aria-label={`Handles of ${kind.label}`}>
            <g transform={transformOf(layerBox)}>
              {kind.handles.map((name) => {
                const Handle = HANDLES[name];
                return (
                  <Handle
                    key={name}
                    kind={kind}
                    settings={shownSettings({ ...step, settings: inForce }, kind)}
                    placed={layerBox}
                    set={(change, gesture, drawnFor) =>
                      edit({
                        type: "set",
                        step: step.id,
                        settings: changeOf(step, kind, change, bench.playing),
                        gesture: `${step.id}-${gesture}`,
                        drawnFor,
                      })
                    }
                    dragging={(now) => patch({ dragging: now || bench.playing })}
                  />
                );
              })}
            </g>
          </svg>
        )}
        {box && selected === LAYER && frames && ratio && !comparing && !bench.whereOpen && (
          <LayerPlaceHandle layer={layer} piece={box} pieceRatio={frames.ratio} ratio={ratio} />
        )}
        {box && bench.whereOpen && !comparing && (step || selected === LAYER) && (
          <WhereOnPicture
            sheet={step ? layer.id : entry.id}
            step={step ?? null}
            where={(step ? step.where : entry.where) ?? null}
            placed={step ? (layerBox ?? box) : box}
          />
        )}
        {box && area && bench.whereOpen && !comparing && (
          <WhereOnPicture sheet={layer.id} step={null} where={area.where} placed={box} area={bench.keepArea} />
        )}
        {box && regionAt !== null && (
          <WhereOnPicture
            sheet={layer.id}
            step={null}
            where={region}
            placed={layerBox ?? box}
            onDrawn={(where) => patch(bench.tool === "stroke" ? { region: where } : chosenIn(where, regionAt))}
          />
        )}
        {box && soft && <img className="veil soft" src={soft} alt="" style={boxStyle(box)} />}
        {box && bench.side === "export" && !comparing && (
          <DeliveredCut box={box} kept={keptShare(bench.delivery, box.width / box.height)} />
        )}
        {box && bench.boxing && view.upto === null && !comparing && (
          <svg className="handles" aria-label="What is exported of the piece">
            <g transform={transformOf(box)}>
              <BoxHandle box={document.frame?.box ?? wholeBox(box)} placed={box} ratio={bench.boxRatio} />
            </g>
          </svg>
        )}
        {box && selected === LAYER && layer.source.kind === "cut-out" && frames && !comparing && !bench.whereOpen && !part && (
          <svg className="handles through" aria-label="The ring behind">
            <g transform={transformOf(box)}>
              <WorldTurnHandle layer={layer.id} piece={box} />
            </g>
          </svg>
        )}
        {box && bench.pick && <PickGround box={box} />}
        <PlateFilter plate={bench.plate} />
        {split !== null && (
          <SplitLine
            share={split}
            turn={splitTurn}
            room={{ width: whole.width, height: whole.height, left: bounds?.left ?? 0, top: bounds?.top ?? 0 }}
          />
        )}
        <StageNotes
          fault={fault === told ? null : fault}
          missing={shown?.missing ?? []}
          upto={joinView ? at + 1 : view.upto}
          count={layer.steps.length}
          before={layer.steps.findIndex((s) => s.id === step?.id)}
          label={kind?.label}
        />
        {box && !settled && !fault && <div className="behind" style={boxStyle(box)} />}
        <Waiting wanted={shown !== null && !settled && !fault && !dragging} isDraft={shown?.draft === true} looks={looks} />
        <svg className="handles markers" aria-label="Handles outside the view">
          <g ref={setMarkers} />
        </svg>
        {box && <WordsOnPicture piece={box} room={room} />}
        <Overlays />
      </section>
    </StageRoom.Provider>
  );
}

/** The part as it was, where it is the same: an object of its own would ask for a picture anew. */
function useSame(part: Part | null): Part | null {
  const last = useRef(part);
  if (!sameParts(last.current, part)) last.current = part;
  return last.current;
}

/** What is seen of a document: one layer alone, a step's join rolled into the middle. The same object for the same document, so that it is asked for once. */
function seenIn(
  solo: string | null,
  layer: string,
  join: string | null,
  rolls: string | undefined,
  boxed: boolean,
): (whole: PieceDocument) => PieceDocument {
  const made = new WeakMap<PieceDocument, PieceDocument>();
  return (whole) => {
    const all = whole.frame?.box && !boxed;
    if (!solo && !join && !all) return whole;
    const free = all ? { ...whole, frame: { ratio: whole.frame?.ratio ?? null, box: null } } : whole;
    const alone = solo ? withOnly(free, solo) : free;
    const seen = made.get(whole) ?? (join && rolls ? rolledAfter(alone, layer, join, rolls) : alone);
    made.set(whole, seen);
    return seen;
  };
}
