import { describe, expect, it } from "vitest";
import { definitions } from "../../testing/catalogue";
import { SHAPES } from "./where";

const schemaOf = (kind: string) => {
  const found = Object.values(definitions).find((one) => one.properties?.kind?.const === kind && !one.properties.id);
  if (!found) throw new Error(`the schema has no shape ${kind}`);
  return found.properties;
};

describe("the shapes of a where, as the page knows them", () => {
  it.each(Object.entries(SHAPES))("%s has the settings of the file, in ranges the core takes", (kind, shape) => {
    const properties = schemaOf(kind);
    for (const setting of shape.settings) {
      const range = properties[setting.name];
      expect(range, `${kind}.${setting.name}`).toBeDefined();
      expect(setting.minimum).toBeGreaterThanOrEqual(range?.minimum ?? Number.NEGATIVE_INFINITY);
      expect(setting.maximum).toBeLessThanOrEqual(range?.maximum ?? Number.POSITIVE_INFINITY);
    }
    for (const [name, value] of Object.entries(shape.make)) {
      const range = properties[name];
      expect(range, `${kind}.${name}`).toBeDefined();
      expect(value).toBeGreaterThanOrEqual(range?.minimum ?? Number.NEGATIVE_INFINITY);
      expect(value).toBeLessThanOrEqual(range?.maximum ?? Number.POSITIVE_INFINITY);
    }
  });
});
