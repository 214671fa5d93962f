import { useQuery } from "@tanstack/react-query";
import { App, Spin } from "antd";
import { type CSSProperties, useCallback, useEffect, useMemo } from "react";
import { useDropzone } from "react-dropzone";
import { useLocation, useNavigate, useParams } from "react-router";
import { type ApiFault, api, type SavedPiece, take, thumbnailOf } from "../api/client";
import { Head } from "../shared/Head";
import { NotHere } from "../shared/NotHere";
import { useCatalogue } from "../shared/useCatalogue";
import { BenchHead } from "./BenchHead";
import { BenchSide } from "./BenchSide";
import { StageBar } from "./bar/StageBar";
import { KeyMap } from "./keys/KeyMap";
import { useBenchKeys } from "./keys/useBenchKeys";
import { useExchange } from "./layers/useExchange";
import { begin, type Draft } from "./model/edits";
import { unpackText } from "./model/pack";
import { rulesOf } from "./model/rules";
import { mainStep } from "./model/view";
import { usePrefs } from "./prefs";
import { Said } from "./Said";
import { LostBanner, RefusedBanner, StaleBanner } from "./SaveNote";
import { Spoken } from "./Spoken";
import { Stage } from "./Stage";
import { queueOf, settled } from "./saving/queues";
import { useAutosave } from "./saving/useAutosave";
import { useBench, useBenchPart } from "./store";
import { StepFinder } from "./trail/StepFinder";
import { Trail } from "./trail/Trail";
import { Unreadable } from "./Unreadable";
import { useLetGo } from "./useLetGo";
import "./BenchPage.css";

/** The Bench: one piece, its picture, its trail, the selected step. */
export function BenchPage() {
  const { pieceId = "" } = useParams();
  // A piece that was just started has its handles in reach at once.
  const fresh = (useLocation().state as { fresh?: boolean } | null)?.fresh === true;
  const catalogue = useCatalogue();
  const { byKey } = catalogue;
  const navigate = useNavigate();
  const { message } = App.useApp();
  const { open, overlay, pieceId: opened } = useBenchPart("open", "overlay", "pieceId");
  const piece = useQuery({
    queryKey: ["piece", pieceId],
    queryFn: async () => {
      await settled(pieceId);
      const at = { params: { path: { piece_id: pieceId } } };
      const found = await take(api.GET("/api/v1/pieces/{piece_id}", at));
      const { history, revision } = await take(api.GET("/api/v1/pieces/{piece_id}/history", at));
      return { found, history: revision === found.revision ? history : null };
    },
    staleTime: 0,
    gcTime: 0,
    refetchOnReconnect: false,
  });
  const queue = useMemo(() => (piece.data && !piece.data.found.faults.length ? queueOf(piece.data.found) : null), [piece.data]);
  useEffect(() => {
    if (!queue || !piece.data || (fresh && !byKey.size) || useBench.getState().pieceId === queue.id) return;
    // What this page, or one that was closed, could not save yet comes with its own history.
    const { wanted } = queue;
    const known = wanted.past.length + wanted.future.length > 0;
    open(queue.id, known ? wanted : unpackText(piece.data.history, wanted.present));
    if (fresh) useBench.getState().patch({ selected: mainStep(wanted.present.document, byKey) });
  }, [queue, piece.data, open, fresh, byKey]);
  useEffect(() => () => useBench.setState({ pieceId: null }), []);
  // The Shelf shows the piece as it is left: its small picture is begun now.
  useEffect(
    () => () => {
      // Where it cannot be had now, the Shelf asks for it itself.
      if (queue) void queue.flush().then(() => fetch(thumbnailOf(queue.id, queue.revision)).catch(() => undefined));
    },
    [queue],
  );
  useEffect(() => {
    if (catalogue.kinds.length) useBench.setState({ rules: rulesOf(catalogue) });
  }, [catalogue]);
  useLetGo();
  useAutosave(queue);
  const panelWidth = usePrefs((prefs) => prefs.panelWidth);
  const trailHeight = usePrefs((prefs) => prefs.trailHeight);
  useBenchKeys(useCallback((words: string) => void message.info(words), [message]));
  const { takeFile } = useExchange();
  const onDrop = (files: File[]) => files[0] && void takeFile(files[0]);
  const drop = useDropzone({ onDrop, noClick: true, noKeyboard: true, multiple: false });
  if (piece.isError) return <NotHere text={(piece.error as ApiFault).message} />;
  if (piece.data?.found.faults.length) return <Unreadable piece={piece.data.found} />;
  if (!queue || queue.id !== pieceId || opened !== pieceId || !byKey.size) {
    return (
      <div className="app">
        <Head />
        <Spin size="large" description="Opening the piece" className="in-middle" />
      </div>
    );
  }
  const refused = queue.state.kind === "refused" ? queue.state.message : null;
  const lost = queue.state.kind === "lost" ? queue.state.message : null;
  const saveNow = () => queue.flush();
  const stale = queue.state.kind === "stale" ? queue.state.current : null;
  const takeTheirs = (theirs: SavedPiece) => {
    queue.take(theirs);
    open(queue.id, begin(queue.saved));
  };
  const keepBoth = (mine: Draft) =>
    take(
      api.POST("/api/v1/pieces", {
        body: {
          name: `${mine.name} (mine)`.slice(0, 200),
          document: mine.document,
        },
      }),
    )
      .then((made) => navigate(`/bench/${made.id}`))
      .catch((fault: Error) => void message.error(fault.message));
  return (
    <div className="app">
      <BenchHead queue={queue} />
      <main
        className={`bench ${drop.isDragActive ? "dropping" : ""}`}
        {...drop.getRootProps({ role: "main" })}
        style={{ "--panel": `${panelWidth}px`, "--trail": `${trailHeight}px` } as CSSProperties}
      >
        <Stage told={refused ?? lost} />
        <StageBar />
        <BenchSide pieceId={pieceId} saveNow={saveNow} />
        {overlay?.kind === "finder" && <StepFinder key={overlay.at} at={overlay.at} />}
        <Trail />
        {refused !== null && <RefusedBanner words={refused} />}
        {lost !== null && <LostBanner words={lost} />}
        {stale && (
          <StaleBanner
            current={stale}
            onMine={() => queue.goOnFrom(stale.revision)}
            onTheirs={() => takeTheirs(stale)}
            onBoth={() => {
              const mine = useBench.getState().history.present;
              takeTheirs(stale);
              void keepBoth(mine);
            }}
          />
        )}
      </main>
      <Said />
      <Spoken />
      <KeyMap />
    </div>
  );
}
