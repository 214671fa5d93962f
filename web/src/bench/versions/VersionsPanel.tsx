import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App, Button, Input, Spin } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, take, type Version } from "../../api/client";
import { EditableName } from "../../shared/EditableName";
import { More } from "../../shared/More";
import { usePages } from "../../shared/usePages";
import { useUndoNotice } from "../../shared/useUndoNotice";
import { useBenchPart } from "../store";
import "./VersionsPanel.css";

const when = (time: string): string => new Date(time).toLocaleString([], { dateStyle: "medium", timeStyle: "short" });

/** The piece as it was at earlier moments: kept by name or automatically, looked at beside the present, restored, branched off. */
export function VersionsPanel({ pieceId, saveNow }: { pieceId: string; saveNow: () => Promise<boolean> }) {
  const { against, edit, patch } = useBenchPart("against", "edit", "patch");
  const { message } = App.useApp();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const versions = usePages(["versions", pieceId], (query) =>
    take(api.GET("/api/v1/pieces/{piece_id}/versions", { params: { path: { piece_id: pieceId }, query } })),
  );
  const settled = {
    onSettled: () => queries.invalidateQueries({ queryKey: ["versions", pieceId] }),
    onError: (fault: Error) => void message.error(fault.message),
  };
  const path = (version: Version) => ({ params: { path: { version_id: version.id } } });
  const keep = useMutation({
    mutationFn: async () => {
      await saveNow();
      return take(api.POST("/api/v1/pieces/{piece_id}/versions", { params: { path: { piece_id: pieceId } }, body: { name: name.trim() } }));
    },
    onSuccess: () => setName(""),
    ...settled,
  });
  const rename = useMutation({
    mutationFn: ({ version, to }: { version: Version; to: string }) =>
      take(api.PATCH("/api/v1/versions/{version_id}", { ...path(version), body: { name: to } })),
    ...settled,
  });
  const documentOf = async (version: Version) => (await take(api.GET("/api/v1/versions/{version_id}", path(version)))).document;
  const notice = useUndoNotice();
  const remove = useMutation({
    mutationFn: async (version: Version) => {
      const document = await documentOf(version);
      await take(api.DELETE("/api/v1/versions/{version_id}", path(version)));
      return document;
    },
    onSuccess: (document, version) =>
      notice(`“${version.name || when(version.made_at)}” is deleted`, () =>
        take(
          api.POST("/api/v1/pieces/{piece_id}/versions", {
            params: { path: { piece_id: pieceId } },
            body: { name: version.name || when(version.made_at), document },
          }),
        ).then(() => queries.invalidateQueries({ queryKey: ["versions", pieceId] })),
      ),
    ...settled,
  });
  const branch = useMutation({
    mutationFn: (version: Version) => take(api.POST("/api/v1/versions/{version_id}/pieces", path(version))),
    onSuccess: (piece) => navigate(`/bench/${piece.id}`),
    ...settled,
  });
  const restore = useMutation({
    mutationFn: documentOf,
    onSuccess: (document, version) => {
      // An edit like any other: it can be undone, and the autosave keeps it.
      edit({ type: "replace", document, what: `back to ${version.name || when(version.made_at)}` });
      patch({ selected: null, split: null, beside: false });
    },
    ...settled,
  });
  const compare = useMutation({
    mutationFn: documentOf,
    onSuccess: (document, version) =>
      patch({
        against: { kind: "version", id: version.id, document, name: version.name || when(version.made_at) },
        beside: true,
        split: null,
      }),
    ...settled,
  });
  return (
    <aside className="panel" aria-label="Versions">
      <div className="panel-head">
        <h2>Versions</h2>
        <p className="quiet">Saved automatically as you work, and by you at any time. Restoring can be undone.</p>
      </div>
      <div className="row">
        <Input
          size="small"
          placeholder="Name"
          aria-label="Name of the version"
          maxLength={200}
          value={name}
          onChange={(event) => setName(event.target.value)}
          onPressEnter={() => keep.mutate()}
        />
        <Button size="small" type="primary" loading={keep.isPending} onClick={() => keep.mutate()}>
          Save version
        </Button>
      </div>
      {versions.isPending && <Spin />}
      {versions.isSuccess && versions.count === 0 && <p className="quiet">None yet. The first is saved when you change something.</p>}
      <div className="version-list">
        {versions.items.map((version) => (
          <div key={version.id} className={`version ${against.kind === "version" && against.id === version.id ? "chosen" : ""}`}>
            <button
              type="button"
              className="bare"
              aria-label={`Compare with ${version.name || when(version.made_at)}`}
              onClick={() => compare.mutate(version)}
            >
              <img src={`/api/v1/versions/${version.id}/thumbnail`} alt="" loading="lazy" />
            </button>
            <div>
              <EditableName
                value={version.name || "automatic"}
                label="Name of the version"
                onChange={(to) => rename.mutate({ version, to })}
              />
              <span className="quiet small">{when(version.made_at)}</span>
              <span className="version-tools">
                <button type="button" className="bare" onClick={() => restore.mutate(version)}>
                  Restore
                </button>
                <button type="button" className="bare" onClick={() => branch.mutate(version)}>
                  New piece from it
                </button>
                <button
                  type="button"
                  className="bare"
                  aria-label={`Delete the version ${version.name}`}
                  onClick={() => remove.mutate(version)}
                >
                  Delete
                </button>
              </span>
            </div>
          </div>
        ))}
        <More pages={versions} />
      </div>
    </aside>
  );
}
