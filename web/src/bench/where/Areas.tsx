import { useQueryClient } from "@tanstack/react-query";
import { App, Button, Input, Popover } from "antd";
import { useState } from "react";
import { api, take } from "../../api/client";
import { usePhoto } from "../../shared/usePhotos";
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
  const found = usePhoto(photo);
  if (!found) return null;
  const keep = (areas: typeof found.areas) =>
    take(api.PATCH("/api/v1/photos/{photo_id}", { params: { path: { photo_id: found.id } }, body: { areas } }))
      .then(() => queries.invalidateQueries({ queryKey: ["photos"] }))
      .catch((fault: Error) => void message.error(fault.message));
  const add = () => {
    if (!where || !name.trim()) return;
    void keep([...found.areas.filter((area) => area.name !== name.trim()), { name: name.trim(), where }]);
    setName("");
  };
  return (
    <Popover
      trigger="click"
      title="Saved areas of this photo"
      content={
        <div className="stack areas">
          {found.areas.map((area) => (
            <div key={area.name} className="row">
              <button type="button" className="bare clip grow" onClick={() => onTake(area.where)}>
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
            <div className="row">
              <Input
                size="small"
                placeholder="Name of this area"
                aria-label="Name of this area"
                value={name}
                onChange={(event) => setName(event.target.value)}
                onPressEnter={add}
              />
              <Button size="small" disabled={!name.trim()} onClick={add}>
                Save
              </Button>
            </div>
          )}
        </div>
      }
    >
      <Button size="small">Find areas</Button>
    </Popover>
  );
}
