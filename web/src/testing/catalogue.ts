import catalogueText from "../../../docs/catalogue.json?raw";
import schemaText from "../../../docs/piece.schema.json?raw";
import type { CatalogueData } from "../api/client";

/** The catalogue as the API publishes it, from the generated documents. */
export const catalogue: CatalogueData = JSON.parse(catalogueText);

interface Range {
  minimum?: number;
  maximum?: number;
  items?: unknown;
}

/** The schema of piece files: its definitions by name. */
export const definitions: Record<string, { properties: Record<string, Range & { const?: string }> }> = JSON.parse(schemaText).$defs;
