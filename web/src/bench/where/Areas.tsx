import { useQuery, useQueryClient } from "@tanstack/react-query";
import { App, Button, Input, Popover } from "antd";
import { useState } from "react";
import { api, take } from "../../api/client";
import type { Where } from "../model/piece";

interface Props {
  photo: string;
  where: Where | null;
  onTake: (where: Where) => void;
}

/** The named areas of the layer's photo: taken, kept, deleted. */
export function Areas({ photo, where, onTake }: Props) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const [name, setName] = useState("");
  const { data = [] } = useQuery({
    queryKey: ["photos", ""],
    queryFn: () => take(api.GET("/api/photos", { params: { query: { search: "" } } })),
  });
  const found = data.find((one) => one.file_name === photo);
  if (!found) return null;
  const keep = (areas: typeof found.areas) =>
    take(api.PATCH("/api/photos/{photo_id}", { params: { path: { photo_id: found.id } }, body: { areas } }))
      .then(() => queries.invalidateQueries({ queryKey: ["photos"] }))
      .catch((fault: Error) => void message.error(fault.message));
  const add = () => {
    if (!where || !name.trim()) return;
    void keep([
      ...found.areas.filter((area) => area.name !== name.trim()),
      { name: name.trim(), where: where as unknown as Record<string, unknown> },
    ]);
    setName("");
  };
  return (
    <Popover
      trigger="click"
      title="Areas of this photo"
      content={
        <div style={{ display: "grid", gap: 8, width: 220 }}>
          {found.areas.map((area) => (
            <div key={area.name} style={{ display: "flex", gap: 8 }}>
              <button
                type="button"
                className="bare clip"
                style={{ flex: 1, textAlign: "left" }}
                onClick={() => onTake(area.where as unknown as Where)}
              >
                {area.name}
              </button>
              <button
                type="button"
                className="bare"
                aria-label={`Delete the area ${area.name}`}
                onClick={() => void keep(found.areas.filter((one) => one !== area))}
              >
                ×
              </button>
            </div>
          ))}
          {!found.areas.length && <span className="quiet small">None yet.</span>}
          {where && (
            <div style={{ display: "flex", gap: 6 }}>
              <Input
                size="small"
                placeholder="Name of this area"
                aria-label="Name of this area"
                value={name}
                onChange={(event) => setName(event.target.value)}
                onPressEnter={add}
                onKeyDown={(event) => event.stopPropagation()}
              />
              <Button size="small" disabled={!name.trim()} onClick={add}>
                Keep
              </Button>
            </div>
          )}
        </div>
      }
    >
      <Button size="small">Areas</Button>
    </Popover>
  );
}
