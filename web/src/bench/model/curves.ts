/** A curve as points (place, value). */
export type Curve = number[][];

/** The slopes at each point after Fritsch and Butland (1984), as the core has them: never beyond the points. */
function slopes(x: number[], y: number[]): number[] {
  const gap = x.slice(1).map((at, k) => at - (x[k] as number));
  const steep = gap.map((wide, k) => ((y[k + 1] as number) - (y[k] as number)) / wide);
  return y.map((_, k) => {
    if (k === 0) return steep[0] as number;
    if (k === y.length - 1) return steep[k - 1] as number;
    const [before, after, a, b] = [gap[k - 1], gap[k], steep[k - 1], steep[k]] as [number, number, number, number];
    if (a * b <= 0) return 0;
    const [w1, w2] = [2 * after + before, after + 2 * before];
    return (w1 + w2) / (w1 / a + w2 / b);
  });
}

/** What gives the value of a curve at a place, 0…1, as the core draws it: smooth or straight, level beyond its ends. */
export function curveThrough(points: Curve, smooth: boolean): (place: number) => number {
  const known = [...new Map(points.map(([place = 0, value = 0]) => [place, value]))].sort((a, b) => a[0] - b[0]);
  const [x, y] = [known.map(([place]) => place), known.map(([, value]) => value)];
  const slope = smooth && x.length > 2 ? slopes(x, y) : null;
  return (place) => {
    const next = x.findIndex((at) => at > place);
    if (next === 0) return y[0] as number;
    if (next === -1) return y.at(-1) ?? 0;
    const k = next - 1;
    const [x0, x1, y0, y1] = [x[k], x[next], y[k], y[next]] as [number, number, number, number];
    const t = (place - x0) / (x1 - x0);
    if (!slope) return y0 + (y1 - y0) * t;
    const bend = (x1 - x0) * t * (1 - t);
    const [s0, s1] = [slope[k], slope[next]] as [number, number];
    return y0 * (1 + 2 * t) * (1 - t) ** 2 + y1 * t * t * (3 - 2 * t) + bend * (s0 * (1 - t) - s1 * t);
  };
}
