import createClient from "openapi-fetch";
import type { components, paths } from "./generated";

export const api = createClient<paths>({ baseUrl: "/" });

type Schemas = components["schemas"];
export type Photo = Schemas["PhotoOut"];
export type Reading = Schemas["ReadingOut"];
export type StageReading = Schemas["StageReadingOut"];
export type PieceRow = Schemas["PieceRow"];
export type SavedPiece = Schemas["PieceOut"];
/** A piece document, and a layer's source in one. */
export type Document = Schemas["Document"];
export type SourceData = Schemas["Source"];
export type Kind = Schemas["KindOut"];
export type Setting = Schemas["SettingOut"];
export type Source = Schemas["SourceOut"];
export type ShapeKind = Schemas["ShapeOut"];
export type Handle = Kind["handles"][number];
export type Version = Schemas["VersionRow"];
export type CatalogueData = Schemas["CatalogueOut"];
export type FormulaWords = Schemas["FormulaWordsOut"];
export type OwnFormula = Schemas["FormulaOut"];
export type Cut = Schemas["CutData"];
export type OwnGradient = Schemas["GradientOut"];
export type Start = Schemas["StartOut"];
export type ExportJob = Schemas["ExportOut"];
export type ExportOptions = Required<Schemas["ExportIn"]>;
export type Recipe = Schemas["RecipeOut"];
export type RecipeChange = Schemas["RecipeIn"];
export type Dial = Schemas["DialData"];
export type Try = Schemas["TryOut"];
export type RunState = Schemas["RunOut"];
export type RunPhoto = Schemas["RunPhotoOut"];
export type RunAsked = Schemas["RunIn"];
export type Stages = Schemas["IdentitiesOut"];
export type EntryIdentities = Schemas["EntryIdentities"];
export type Fault = Schemas["ErrorBody"];

/** A fault the server named, or none it could name (no connection). */
export class ApiFault extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly details: unknown = undefined,
  ) {
    super(inBrief(message));
  }
}

/** So many letters of a notice are read. */
const LONGEST = 300;
const inBrief = (words: string): string => (words.length <= LONGEST ? words : `${words.slice(0, LONGEST - 1)}…`);

const LOST = "Caracol does not answer. Is it still running? Your work stays here, and Caracol tries again.";

/** Turn any answer that is not 2xx into an ApiFault; network faults have the code `connection`. */
export function faultOf(answer: unknown): ApiFault {
  const error = (answer as { error?: Fault } | undefined)?.error;
  return error
    ? new ApiFault(error.code, error.message, answer)
    : new ApiFault("unknown", "Something went wrong. Try again; Caracol's log says more.", answer);
}

/** Await an openapi-fetch call and return its data, or throw an ApiFault. */
export async function take<Data>(call: Promise<{ data?: Data; error?: unknown; response: Response }>): Promise<Data> {
  let answer: { data?: Data; error?: unknown; response: Response };
  try {
    answer = await call;
  } catch {
    throw new ApiFault("connection", LOST);
  }
  if (answer.error !== undefined || answer.data === undefined) {
    const fault = faultOf(answer.error);
    if (fault.code === "login") window.location.assign(`/login?next=${encodeURIComponent(window.location.pathname)}`);
    throw fault;
  }
  return answer.data;
}

export interface Look {
  blob: Blob;
  /** Pixels of the whole picture, and which of them, in shares, the file shows. */
  width: number;
  height: number;
  part: Schemas["PartIn"];
  missing: string[];
  frames: Frames | null;
}

/** The ratios of a piece, and of each of its layers before it is placed. */
export interface Frames {
  ratio: number;
  layers: Record<string, number>;
}

/** Ask for a look of a document. */
export const makeLook = (body: Schemas["PreviewIn"], signal?: AbortSignal): Promise<Look> => fetchPicture("/api/v1/previews", body, signal);

/** Where the small picture of a piece is, as it is at a revision. */
export const thumbnailOf = (piece: string, revision: number): string => `/api/v1/pieces/${piece}/thumbnail?${revision}`;

/** Ask for a sheet of blend modes. */
export const makeSheet = (body: Schemas["BlendSheetIn"], signal?: AbortSignal): Promise<Look> =>
  fetchPicture("/api/v1/previews/blend-modes", body, signal);

/** Ask for what shows a where. */
export const makeVeil = (body: Schemas["AreaOverlayIn"], signal?: AbortSignal): Promise<Look> =>
  fetchPicture("/api/v1/previews/area", body, signal);

/** Ask for what a step acts on, as a tinted picture. */
export const makeStretches = (body: Schemas["StepOverlayIn"], signal?: AbortSignal): Promise<Look> =>
  fetchPicture("/api/v1/previews/sorted", body, signal);

/** Ask for a figure where it stands in its photo, the rest transparent. */
export const makeFigure = (body: Cut, signal?: AbortSignal): Promise<Look> => fetchPicture("/api/v1/figures/previews", body, signal);

/** Ask for where a step loses dark and light tones. */
export const makeClipped = (body: Schemas["StepOverlayIn"], signal?: AbortSignal): Promise<Look> =>
  fetchPicture("/api/v1/previews/clipping", body, signal);

/** Ask for where a delivery would be soft. */
export const makeSoft = (body: Schemas["SoftnessOverlayIn"], signal?: AbortSignal): Promise<Look> =>
  fetchPicture("/api/v1/previews/softness", body, signal);

async function fetchPicture(path: string, body: object, signal?: AbortSignal): Promise<Look> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
      signal: signal ?? null,
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new ApiFault("connection", LOST);
  }
  if (!response.ok) throw faultOf(await response.json().catch(() => undefined));
  const [width = 1, height = 1] = (response.headers.get("X-Preview-Size") ?? "1x1").split("x").map(Number);
  const words = (name: string) => decodeURIComponent(response.headers.get(name) ?? "");
  const [left = 0, top = 0, right = width, bottom = height] = words("X-Preview-Part").split(",").filter(Boolean).map(Number);
  const frames = words("X-Preview-Frames");
  return {
    blob: await response.blob(),
    width,
    height,
    part: { left: left / width, top: top / height, right: right / width, bottom: bottom / height },
    missing: words("X-Preview-Missing").split("\n").filter(Boolean),
    frames: frames ? JSON.parse(frames) : null,
  };
}
