import type { Photo } from "../api/client";

const BEFORE: Record<string, number> = { face: 4, dial: 3, lettering: 2, salient: 1 };

/** Where a photo that is cut to a card has to keep in sight: its face, dial or lettering, else what stands out most; its middle without any. */
export function framed({ features }: Pick<Photo["reading"], "features">): string {
  const rank = (feature: (typeof features)[number]) => (BEFORE[feature.kind] ?? 0) * 10 + feature.weight;
  const [main] = [...features].sort((a, b) => rank(b) - rank(a));
  if (!main) return "50% 50%";
  const [x, y] = [main.left + main.width / 2, main.top + main.height / 2];
  return `${Math.round(x * 100)}% ${Math.round(y * 100)}%`;
}
