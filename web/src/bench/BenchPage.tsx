import { useQuery } from "@tanstack/react-query";
import { App, Button, Modal, Spin } from "antd";
import { useEffect, useMemo, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { type ApiFault, api, type SavedPiece, take } from "../api/client";
import { EditableName } from "../shared/EditableName";
import { Head } from "../shared/Head";
import { NotHere } from "../shared/NotHere";
import { useCatalogue } from "../shared/useCatalogue";
import { ExportPanel } from "./export/ExportPanel";
import { begin } from "./model/edits";
import { unpack } from "./model/pack";
import { layerOf, stepsOf } from "./model/piece";
import { LAYER, SOURCE } from "./model/view";
import { LayerPanel } from "./panel/LayerPanel";
import { PiecePanel } from "./panel/PiecePanel";
import { SourcePanel } from "./panel/SourcePanel";
import { StepPanel } from "./panel/StepPanel";
import { SaveNote, StaleBanner } from "./SaveNote";
import { Stage } from "./Stage";
import { queueOf, settled } from "./saving/queues";
import { useAutosave } from "./saving/useAutosave";
import { useBench, useBenchPart } from "./store";
import { Trail } from "./trail/Trail";
import { Unreadable } from "./Unreadable";
import { KEYS, useBenchKeys } from "./useBenchKeys";
import { HistoryPanel } from "./versions/HistoryPanel";
import { VersionsPanel } from "./versions/VersionsPanel";
import "./BenchPage.css";

/** The Bench: one piece, its picture, its trail, the selected step. */
export function BenchPage() {
  const { pieceId = "" } = useParams();
  const navigate = useNavigate();
  const { message } = App.useApp();
  const { byKey } = useCatalogue();
  const bench = useBenchPart(
    "edit",
    "history",
    "layer",
    "open",
    "patch",
    "pieceId",
    "redo",
    "overlay",
    "selected",
    "side",
    "toggle",
    "undo",
  );
  const piece = useQuery({
    queryKey: ["piece", pieceId],
    queryFn: async () => {
      await settled(pieceId);
      const at = { params: { path: { piece_id: pieceId } } };
      const found = await take(api.GET("/api/pieces/{piece_id}", at));
      const { history, revision } = await take(api.GET("/api/pieces/{piece_id}/history", at));
      return { found, history: revision === found.revision ? history : null };
    },
    staleTime: 0,
    gcTime: 0,
    refetchOnReconnect: false,
  });
  const { open } = bench;
  const queue = useMemo(() => (piece.data && !piece.data.found.faults.length ? queueOf(piece.data.found) : null), [piece.data]);
  useEffect(() => {
    if (!queue || !piece.data || useBench.getState().pieceId === queue.id) return;
    // What this page, or one that was closed, could not save yet comes with its own history.
    const { wanted } = queue;
    const known = wanted.past.length + wanted.future.length > 0;
    open(queue.id, known ? wanted : unpack(piece.data.history, wanted.present));
  }, [queue, piece.data, open]);
  useEffect(() => () => useBench.setState({ pieceId: null }), []);
  useAutosave(queue);
  const [keysShown, setKeysShown] = useState(false);
  useBenchKeys(() => setKeysShown(true));
  if (piece.isError) return <NotHere text={(piece.error as ApiFault).message} />;
  if (piece.data?.found.faults.length) return <Unreadable piece={piece.data.found} />;
  if (!queue || queue.id !== pieceId || bench.pieceId !== pieceId) {
    return (
      <div className="app">
        <Head />
        <Spin size="large" description="Opening the piece" className="in-middle" />
      </div>
    );
  }
  const { present, past, future } = bench.history;
  const saveNow = () => queue.flush();
  const stale = queue.state.kind === "stale" ? queue.state.current : null;
  const takeTheirs = (theirs: SavedPiece) => {
    queue.take(theirs);
    open(queue.id, begin(queue.saved));
  };
  const steps = stepsOf(present.document, bench.layer);
  const index = steps.findIndex((step) => step.id === bench.selected);
  const step = steps[index];
  const kind = step && byKey.get(step.kind);
  const keepBoth = () =>
    take(
      api.POST("/api/pieces", {
        body: {
          name: `${present.name} (mine)`.slice(0, 200),
          document: present.document,
        },
      }),
    )
      .then((made) => navigate(`/bench/${made.id}`))
      .catch((fault: Error) => void message.error(fault.message));
  return (
    <div className="app">
      <Head>
        <h2 className="head-name">
          <EditableName value={present.name} label="Name of the piece" onChange={(name) => bench.edit({ type: "rename", name })} />
        </h2>
        <SaveNote state={queue.state} revision={queue.revision} />
        <span className="spring" />
        <Button disabled={!past.length} onClick={bench.undo}>
          Undo
        </Button>
        <Button disabled={!future.length} onClick={bench.redo}>
          Redo
        </Button>
        <Button aria-pressed={bench.overlay?.kind === "roll"} onClick={() => bench.toggle("roll")}>
          Roll
        </Button>
        <Button
          aria-pressed={bench.side === "history"}
          onClick={() => bench.patch({ side: bench.side === "history" ? "step" : "history" })}
        >
          History
        </Button>
        <Button
          aria-pressed={bench.side === "versions"}
          onClick={() => bench.patch({ side: bench.side === "versions" ? "step" : "versions" })}
        >
          Versions
        </Button>
        <Button onClick={() => setKeysShown(true)}>Keys</Button>
        <Button type="primary" onClick={() => bench.patch({ side: "export" })}>
          Export
        </Button>
      </Head>
      <main className="bench">
        <Stage />
        {bench.side === "export" ? (
          <ExportPanel pieceId={pieceId} saveNow={saveNow} />
        ) : bench.side === "versions" ? (
          <VersionsPanel pieceId={pieceId} saveNow={saveNow} />
        ) : bench.side === "history" ? (
          <HistoryPanel />
        ) : step && kind ? (
          <StepPanel
            key={step.id}
            step={step}
            kind={kind}
            index={index}
            count={steps.length}
            layer={layerOf(present.document, bench.layer)}
          />
        ) : bench.selected === LAYER ? (
          <LayerPanel />
        ) : bench.selected === SOURCE ? (
          <SourcePanel />
        ) : (
          <PiecePanel />
        )}
        <Trail />
      </main>
      {stale && (
        <StaleBanner
          current={stale}
          onMine={() => queue.goOnFrom(stale.revision)}
          onTheirs={() => takeTheirs(stale)}
          onBoth={() => {
            takeTheirs(stale);
            void keepBoth();
          }}
        />
      )}
      <Modal open={keysShown} onCancel={() => setKeysShown(false)} footer={null} title="Keys">
        <dl className="keys">
          {KEYS.map(([key, what]) => (
            <div key={key} className="pair">
              <dt>
                <kbd>{key}</kbd>
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Modal>
    </div>
  );
}
