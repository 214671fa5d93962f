import { Alert, Button, Input, Select, Spin } from "antd";
import { useCallback, useDeferredValue, useState } from "react";
import { flushSync } from "react-dom";
import { useDropzone } from "react-dropzone";
import { Link } from "react-router";
import type { Photo } from "../api/client";
import { Head } from "../shared/Head";
import { More } from "../shared/More";
import type { Skip } from "../shared/Skips";
import { useCatalogue } from "../shared/useCatalogue";
import { usePicks } from "../shared/usePicks";
import { useRoving } from "../shared/useRoving";
import { DrawnCard } from "./DrawnCard";
import { carriesTrail } from "./delivered";
import { PhotoCard } from "./PhotoCard";
import { PhotoSide } from "./PhotoSide";
import { PicksBar } from "./PicksBar";
import { PiecesSection } from "./PiecesSection";
import { RecipeChoice } from "./RecipeChoice";
import { UploadTray } from "./UploadTray";
import { useDemo } from "./useDemo";
import { useShelf } from "./useShelf";
import { useUploads } from "./useUploads";
import "./ShelfPage.css";

const USES = ["planet", "sky well", "tunnel", "inside-out", "twirl", "breaking", "cut-out", "spiral repeat"];

const SKIPS: Skip[] = [
  ["To the photos", "[aria-label=Photos] [data-roving][tabindex='0']"],
  ["To the pieces", "[aria-label=Pieces] [data-roving][tabindex='0']"],
];

const idOf = (row: { id: string }) => row.id;

/** The Shelf: photos with their readings, pieces begun, and the way from one to the other. */
export function ShelfPage() {
  const [search, setSearch] = useState("");
  const [chosenId, setChosenId] = useState<string | null>(null);
  const [use, setUse] = useState("");
  const shelf = useShelf(useDeferredValue(search), use);
  const { starts, sources } = useCatalogue();
  const onAdded = useCallback((photo: Photo) => setChosenId(photo.id), []);
  const uploads = useUploads(onAdded);
  const demo = useDemo();
  const onDrop = useCallback(
    async (files: File[]) => {
      const pieces = files.filter((file) => file.name.toLowerCase().endsWith(".json"));
      const carry = await Promise.all(files.map(carriesTrail));
      const delivered = files.filter((_, index) => carry[index]);
      uploads.add(files.filter((file) => !pieces.includes(file) && !delivered.includes(file)));
      if (pieces[0]) shelf.openFile.mutate(pieces[0]);
      for (const file of delivered) {
        shelf.openDelivered.mutate({ file, asPhoto: () => uploads.add([file]), alone: files.length === 1 });
      }
    },
    [uploads, shelf.openFile, shelf.openDelivered],
  );
  const drop = useDropzone({ onDrop, noClick: true, noKeyboard: true });
  const photos = shelf.photos.items;
  const pieces = shelf.pieces.items;
  const picks = usePicks(photos, idOf);
  const chosen = photos.find((photo) => photo.id === chosenId) ?? photos[0];
  const isEmpty = shelf.photos.isSuccess && !photos.length && !search && !use;
  const photoRoving = useRoving(chosen?.id);
  const looks = sources.flatMap((source) =>
    source.looks.map((look) => ({ name: look.name, made: { kind: source.key, ...look.settings } })),
  );
  const drawnRoving = useRoving(looks[0]?.name);
  const choose = useCallback((id: string, keyed: boolean) => {
    flushSync(() => setChosenId(id));
    // Who chose it by a key goes on to what can be begun with it.
    if (keyed) document.querySelector<HTMLElement>(".starts [data-roving][tabindex='0']")?.focus();
  }, []);
  return (
    <div className="app">
      <Head skips={SKIPS} />
      <main className={`shelf ${drop.isDragActive ? "dropping" : ""}`} {...drop.getRootProps({ role: "main" })}>
        <div className="shelf-main">
          <UploadTray uploads={uploads.uploads} notes={uploads.notes} onDismiss={uploads.dismiss} onClearNotes={uploads.clearNotes} />
          {pieces.length > 0 && <PiecesSection pieces={shelf.pieces} onDelete={shelf.removePieces.mutate} />}
          <section aria-label="Photos">
            <div className="shelf-bar">
              <h1>Photos</h1>
              <input {...drop.getInputProps()} aria-label="Photos to put on the Shelf" />
              <Select
                aria-label="Good for"
                className="shelf-use"
                value={use}
                onChange={setUse}
                options={[{ value: "", label: "Good for anything" }, ...USES.map((one) => ({ value: one, label: `Good for ${one}` }))]}
              />
              <Input.Search
                allowClear
                placeholder="Name or words"
                aria-label="Search photos"
                className="shelf-search"
                loading={shelf.photos.isOld}
                value={search}
                onChange={(event) => setSearch(event.target.value)}
              />
              {!isEmpty && (
                <Button type="primary" onClick={drop.open}>
                  Add photos
                </Button>
              )}
            </div>
            {demo.isLoading && photos.length > 0 && (
              <p className="quiet demo-note" role="status">
                The demo is being drawn: {photos.length} of {demo.photos} photos are there.
              </p>
            )}
            {shelf.photos.isPending && <Spin description="Looking at the Shelf" />}
            {shelf.photos.error && <Alert type="error" showIcon title={shelf.photos.error.message} />}
            <PicksBar what="photos" count={picks.chosen.length} there={photos.length} onAll={() => picks.all()} onNone={picks.none}>
              <RecipeChoice photos={picks.chosen.map((photo) => photo.file_name)} />
              <Button size="small" onClick={() => shelf.removePhotos.mutate(picks.chosen, { onSuccess: picks.none })}>
                Delete
              </Button>
            </PicksBar>
            {/* What answers an earlier search is about to move: a press would take another. */}
            <div
              className={`cards ${picks.picked.size ? "picking" : ""} ${shelf.photos.isOld ? "old" : ""}`}
              inert={shelf.photos.isOld}
              {...photoRoving.grid}
            >
              {photos.map((photo) => (
                <PhotoCard
                  key={photo.id}
                  photo={photo}
                  chosen={photo === chosen}
                  picked={picks.picked.has(photo.id)}
                  tab={photoRoving.tab(photo.id)}
                  onChoose={choose}
                  onPick={picks.pick}
                />
              ))}
            </div>
            <More pages={shelf.photos} />
            {shelf.photos.isSuccess && !photos.length && (
              <div className="drop">
                <h2>{search || use ? "No photo found" : "The Shelf is empty"}</h2>
                <p className="quiet">
                  {search || use
                    ? "Search looks in names and readings. “Good for” shows the photos that are good or fair for one use."
                    : "Drop photos here, or press Add photos. Wide photos with a level horizon make good planets."}
                </p>
                {!search && !use && (
                  <div className="row">
                    <Button type="primary" onClick={drop.open}>
                      Add photos
                    </Button>
                  </div>
                )}
                {!search && !use && (
                  <p className="quiet small">
                    Or{" "}
                    <button type="button" className="bare link" disabled={demo.isLoading} onClick={demo.load}>
                      load the demo
                    </button>
                    : fourteen photos of a night market on a salt marsh, and pieces made of them.
                  </p>
                )}
              </div>
            )}
          </section>
          <Link className="at-start quiet" to="/gone">
            Recently deleted
          </Link>
          <section aria-label="Without a photo">
            <div className="shelf-bar">
              <h1>Without a photo</h1>
              <span className="quiet">Drawn pictures to bend. You can change colours and sizes later.</span>
            </div>
            <div className="finder-grid drawn" {...drawnRoving.grid}>
              {looks.map(({ name, made }) => (
                <DrawnCard
                  key={name}
                  name={name}
                  source={made}
                  tab={drawnRoving.tab(name)}
                  busy={shelf.startDrawn.isPending}
                  onStart={() => shelf.startDrawn.mutate(made)}
                />
              ))}
            </div>
          </section>
        </div>
        {chosen && (
          <PhotoSide
            photo={chosen}
            starts={starts}
            busy={shelf.start.isPending}
            onStart={(key, loop) => shelf.start.mutate({ photo: chosen, key, loop })}
            onRename={(name) => shelf.rename.mutate({ photo: chosen, name })}
            onDelete={() => shelf.removePhotos.mutate([chosen])}
          />
        )}
      </main>
    </div>
  );
}
