"""Put faults into a copy of the core, one at a time, and see that a test fails for each: `make mutants`.

Each fault names the tests that must catch it, so that the table also says which behaviour each test guards. A fault whose text is no
longer found in the source is an error: it must be moved along with the code.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import SimpleQueue

ROOT = Path(__file__).resolve().parents[1]
CORE = "src/caracol/core"
COPIED = ("src", "tests", "scripts", "docs", "pyproject.toml", "manage.py")
WORKERS = 2


@dataclass(frozen=True)
class Mutant:
    """One fault: what it is, where, the text before and after, and the tests that must fail."""

    name: str
    file: str
    before: str
    after: str
    tests: str


SEAM, STROKES = "tests/core/steps/test_mend_and_finish.py", "tests/core/steps/test_touch_up.py"
MIDDLE = "tests/core/steps/test_centre_and_rim.py"
TONES, GROUND, FIGURES = (
    "tests/core/steps/test_tone_and_colour.py",
    "tests/core/test_box_and_ground.py",
    "tests/core/pixels/test_figures.py",
)
ROWS, IDENTITIES, BOXES = "tests/core/settings", "tests/core/render/test_identities.py", "tests/core/render/test_boxes.py"
CONTRACT, KEYS, LAYERS = "tests/core/test_contract.py", "tests/core/render/test_keys.py", "tests/core/render/test_layers.py"
BOUNDS, NOTES, READERS, EVEN = (
    "tests/core/test_bounds.py",
    "tests/core/io/test_notes.py",
    "tests/core/io/test_second_readers.py",
    "tests/core/render/test_even.py",
)
MUTANTS = (
    # Keys and the cache.
    Mutant("keep areas left out of a result's key", "render/keys.py", "described(stage, UNLAID), keep, looked_at", "described(stage, UNLAID), looked_at", KEYS),
    Mutant("keep areas left out of what identifies a stage", "render/keys.py", 'digest("after", before, stage, keep,', 'digest("after", before, stage,', KEYS),
    Mutant("the looked-at layer left out of what identifies a stage", "render/keys.py", 'digest("after", before, stage, keep, looked_at,', 'digest("after", before, stage, keep,', KEYS),
    Mutant("the looked-at layer left out of a result's key", "render/keys.py", "described(stage, UNLAID), keep, looked_at,", "described(stage, UNLAID), keep,", KEYS),
    Mutant("keep areas left out of a raster's key", "render/keys.py", 'digest("raster", input_key, kind, keep, photos)', 'digest("raster", input_key, kind, photos)', KEYS),
    Mutant("a fed photo's contents left out of keys", "render/keys.py", "found[photo] = photos.digest(photo)", "found[photo] = photo", KEYS),
    Mutant("quality left out of a key", "render/keys.py", 'digest("picture", what, longer, quality)', 'digest("picture", what, longer)', KEYS),
    Mutant("size left out of a key", "render/keys.py", 'digest("picture", what, longer, quality)', 'digest("picture", what, quality)', KEYS),
    Mutant("what came before left out of a stage", "render/keys.py", 'digest("after", before, stage', 'digest("after", stage', KEYS),
    Mutant("the looked-at layer left out of a guide's key", "render/keys.py", 'digest("guide", picture_key, looked_at,', 'digest("guide", picture_key,', KEYS),
    Mutant("frames left out of descriptions", "render/keys.py", 'NAMES = frozenset({"id", "name", "visible", "link"})', 'NAMES = frozenset({"id", "name", "visible", "link", "before", "after"})', KEYS + " tests/core/render/test_warm_and_cold.py"),
    Mutant("the piece's frame left out of a composite", "render/keys.py", 'digest("composite", frame, tuple(entries))', 'digest("composite", tuple(entries))', KEYS + " tests/core/render/test_warm_and_cold.py"),
    Mutant("a layer's opacity left out of its key", "render/keys.py", 'ENTRY = frozenset({"source",', 'ENTRY = frozenset({"opacity", "source",', KEYS),
    Mutant("a layer's blend left out of its key", "render/keys.py", 'ENTRY = frozenset({"source",', 'ENTRY = frozenset({"blend", "source",', KEYS),
    Mutant("a layer's where left out of its key", "render/keys.py", 'ENTRY = frozenset({"source",', 'ENTRY = frozenset({"where", "source",', KEYS),
    Mutant("a where kept without its shapes", "render/keys.py", 'digest("where", region, frame, shape)', 'digest("where", frame, shape)', KEYS),
    Mutant("a where kept without its frame", "render/keys.py", 'digest("where", region, frame, shape)', 'digest("where", region, shape)', KEYS),
    # Tone, colour, light, figures.
    Mutant("what lies under a layer left out of what was measured", "render/keys.py", 'digest("measured", picture_key, kind, settings, under_key)', 'digest("measured", picture_key, kind, settings)', GROUND),
    Mutant("what lies under a layer left out of a stage", "render/trail.py", "if self.under is not None and any(kind.grounded", "if False and any(kind.grounded", GROUND),
    Mutant("a layer's place left out of what lies under it", "render/keys.py", 'digest("under", below, place, contain)', 'digest("under", below, contain)', GROUND),
    Mutant("steps of one pass in another order", "render/stages.py", "steps=(*stages[-1].steps, step)", "steps=(step, *stages[-1].steps)", TONES),
    Mutant("a measured step done in one pass with those before it", "render/stages.py", "_is_pixelwise(kind) and kind.measure is None", "_is_pixelwise(kind)", GROUND),
    Mutant("tables that follow each other joined the wrong way", "pixels/pointwise.py", "np.interp(np.clip(last.table[k], 0, 1), even, op.table[k])", "np.interp(np.clip(op.table[k], 0, 1), even, last.table[k])", TONES),
    Mutant("a strip that lies at the top", "pixels/pointwise.py", "np.float32(top + row) + _HALF", "np.float32(row) + _HALF", TONES),
    Mutant("colours that leave their range cut off", "pixels/pointwise.py", "share = min(share, (_ONE - light) / max(high - light, np.float32(1e-9)))", "share = _ONE", TONES),
    Mutant("light cut off at white", "pixels/pointwise.py", "value * gain / (_ONE + max(gain - _ONE, _ZERO) * value)", "min(value * gain, _ONE)", TONES),
    Mutant("greys of ghosts left tinted", "steps/break_/ghosts.py", "np.maximum.reduce(copies) + shared * (1 - tints.max(axis=0))", "np.maximum.reduce(copies)", TONES),
    Mutant("a shadow that leans the other way", "steps/finish/shadow.py", "[1, -across, across * foot]", "[1, across, -across * foot]", TONES),
    Mutant("a box turned the wrong way", "render/placing.py", "x * cosine - y * sine + np.float32(s.box.x), x * sine + y * cosine", "x * cosine + y * sine + np.float32(s.box.x), y * cosine - x * sine", GROUND),
    Mutant("a flipped figure lit from the wrong side", "kinds/kind.py", "return (-across if self.flip else across), down", "return across, down", GROUND),
    Mutant("strokes heard everywhere", "pixels/finding.py", "return _heard(rough, _figure_of(mask), hints, view, place)", "return _figure_of(mask)", FIGURES),
    Mutant("fringe taken from what is behind", "pixels/figures.py", "(alpha >= SURE).astype(np.float32)", "(alpha < 1 - SURE).astype(np.float32)", FIGURES),
    # Mending.
    Mutant("a seam's sides led apart", "pixels/joining.py", "np.where(d < 0, 0.5, -0.5)", "np.where(d < 0, -0.5, 0.5)", SEAM),
    Mutant("a side of a seam shows the other mirrored", "pixels/joining.py", "np.ascontiguousarray(_columns_at(strip[:, band:][:, ::-1], columns)[:, ::-1])", "np.ascontiguousarray(_columns_at(strip[:, :band], columns)[:, ::-1])", SEAM),
    Mutant("a membrane that does not die away", "pixels/joining.py", "fall[:, 0] = 1 - t", "fall[:, 0] = 1", SEAM),
    Mutant("a cut that is not pulled", "pixels/joining.py", "+= 10 * np.abs(d[inside] - at)", "+= 0 * np.abs(d[inside] - at)", SEAM),
    Mutant("a seam closed beyond its width", "steps/mend/close_seam.py", "(np.abs(away) < self.turns)", "(np.abs(away) < 2 * self.turns)", SEAM),
    Mutant("an unseen join mended all the same", "pixels/closing.py", "step_visibility(strip, usual) <= UNSEEN and not pulls", "step_visibility(strip, usual) <= 0 and not pulls", SEAM),
    Mutant("a source turned the wrong way", "steps/mend/touch_up.py", "from_x = np.float32(ax + s.dx) + x * np.float32(c) + y * np.float32(d)", "from_x = np.float32(ax + s.dx) + x * np.float32(c) - y * np.float32(d)", STROKES),
    Mutant("strokes that add up over themselves", "pixels/strokes.py", "if cover > out[r, c]:\n                        out[r, c] = cover", "if cover > 0:\n                        out[r, c] += cover", STROKES),
    Mutant("strokes laid once more on what has them", "steps/mend/touch_up.py", "enumerate(some[first:], first)", "enumerate(some, 0)", STROKES),
    Mutant("erase gives back what lies there", "steps/mend/touch_up.py", "over = patch.of(self.origin)", "over = under.copy()", STROKES),
    Mutant("a hole filled as if nothing lay on it", "steps/mend/touch_up.py", "any(touches.meets(patch) for patch in looked_at)", "any(False for patch in looked_at)", STROKES),
    Mutant("a middle read where it lies", "steps/mend/centre.py", "out = hypot(away, OUT * _radius(s)) - away", "out = 0 * away", MIDDLE),
    Mutant("a rim that does not go with the ring", "steps/mend/rim.py", "radius, width = min(WHOLE * ring.reach, MOST[0])", "radius, width = min(WHOLE, MOST[0])", MIDDLE),
    Mutant("a middle that knows no hole", "steps/mend/centre.py", "1.25 * ring.hole, 0.08 * ring.reach", "0.0 * ring.hole, 0.08 * ring.reach", MIDDLE),
    Mutant("a roll that changes the frame", "piece/variants.py", "if moved != value and _keeps_frame(step, {name: moved})", "if moved != value", "tests/core/piece/test_variants.py"),
    Mutant("softness by one direction", "render/mapping.py", "return np.sqrt(area) * MEASURED, seen", "return area * MEASURED, seen", "tests/core/render/test_mapping.py"),
    Mutant("a sky that runs back inwards", "steps/mend/rim.py", "target = inside - (part if int(turn) % 2 == 0 else s.band - part)", "target = away", MIDDLE),
    Mutant("a group's place left out", "render/scene.py", "stages = placed(stages, placing_link(group.place, False, after, self.frame))", "stages = placed(stages, None)", LAYERS),
    Mutant("a group's steps left out", "render/scene.py", "return PlacedEntry(trail if stages else inner, group, inner, even)", "return PlacedEntry(inner, group, inner, even)", LAYERS),
    Mutant("what lies in a group taken for what lies below it", "piece/model.py", "below += [] if layer.members else [layer.id]", "below.append(layer.id)", "tests/core/piece tests/core/render/test_layers.py"),
    Mutant("strength taken for part of what a step makes", "render/keys.py", 'LAYING = frozenset({"strength", "blend",', 'LAYING = frozenset({"blend",', LAYERS),
    Mutant("drafts of plates read another size", "render/trail.py", "return longer if every or not self.quality.apart else", "return longer if every else", LAYERS),
    Mutant("orbits begin at the top whatever lies there", "steps/break_/pixel_sort.py", 'if s.along == "round":', 'if s.along == "never":', "tests/core/steps/test_sort.py"),
    Mutant("looking counts as using", "render/cache.py", "Plain.__getitem__(self._held, key) if key", "self._held[key] if key", "tests/core/render/test_cache.py"),
    Mutant("what is too large is kept all the same", "render/cache.py", "if _nbytes(made) <= self.limit:", "if True:", "tests/core/render/test_cache.py"),
    Mutant("two make the same", "render/cache.py", "if others is None:", "if True:", "tests/core/render/test_cache.py"),
    Mutant("a run forgets nothing", "render/execution.py", "if not self._uses[need.key]:", "if False:", "tests/core/render/test_plan.py"),
    Mutant("progress falls back", "render/execution.py", "if now > self._told:", "if True:", "tests/core/render/test_plan.py"),
    Mutant("what is met twice flows twice", "render/plan.py", "if count > 1}", "if count > 99}", "tests/core/render/test_plan.py"),
    # Edges and frames.
    Mutant("tiles of twice the width", "geometry/edges.py", "span = np.float32(2) * half", "span = np.float32(4) * half", "tests/core/geometry/test_edges.py"),
    Mutant("a mirror that does not turn back", "geometry/edges.py", "v if v <= np.float32(2) * half else span - v", "v", "tests/core/geometry/test_edges.py"),
    Mutant("empty inside instead of outside", "geometry/edges.py", "np.abs(x) > half_w * slack", "np.abs(x) < half_w * slack", "tests/core/geometry/test_edges.py"),
    Mutant("stretch on one axis only", "geometry/edges.py", "((x, half_w), (y, half_h))", "((x, half_w),)", "tests/core/geometry/test_edges.py"),
    Mutant("pixel centres at whole numbers", "geometry/frame.py", "+ 0.5", "+ 0.0", "tests/core/geometry/test_frame.py"),
    # Signs of rules.
    Mutant("a twirl the other way", "steps/bend/twirl.py", "cx + px * c + py * s", "cx + px * c - py * s", "tests/core/steps/test_bends.py"),
    Mutant("a neutral twirl that flips", "steps/bend/twirl.py", "    return over_points(_twirl,", "    if turns == 0:\n        return -0.3 * x, y.copy()\n    return over_points(_twirl,", CONTRACT + "::test_a_neutral_rule_takes_every_point_from_itself"),
    Mutant("an inside-top ring mirrored", "steps/bend/ring.py", "u = ang - seam if bottom else seam - ang", "u = ang - seam", "tests/core/steps/test_ring.py"),
    Mutant("a ring upside down", "steps/bend/ring.py", "v = one - t if bottom else t", "v = t if bottom else one - t", "tests/core/steps/test_ring.py"),
    Mutant("waves against their heading", "steps/bend/wave.py", "out_x[i] = x[i] - dx * push", "out_x[i] = x[i] + dx * push", "tests/core/steps/test_bends.py"),
    Mutant("a place that flips always", "render/placing.py", "return (-across if s.place.flip else across), down", "return -across, down", LAYERS),
    Mutant("bars that move left", "steps/break_/slices.py", "dx, dy = bar.shift * wide", "dx, dy = -bar.shift * wide", "tests/core/steps/test_break.py tests/core/render/test_keeping.py"),
    Mutant("plates that move left", "steps/break_/channel_split.py", "dx, dy = x - np.float32(self.x)", "dx, dy = x + np.float32(self.x)", "tests/core/steps/test_break.py tests/core/render/test_keeping.py"),
    # Sampling and sizes.
    Mutant("the finest footprints decide a size", "render/chain.py", "np.percentile(footprint, STRETCHED)", "np.percentile(footprint, 100)", "tests/core/render/test_chain.py"),
    Mutant("shares of coded values in the pyramid", "pixels/light.py", "linear = table[i] + (table[i + 1] - table[i]) * part", "linear = code", "tests/core/pixels/test_sampling.py"),
    Mutant("no halo beside the strips", "render/bend.py", "top, height, halo=1)", "top, height, halo=0)", CONTRACT),
    # Channels, blending, where, keep areas.
    Mutant("the chosen channels are those left alone", "pixels/blending.py", "        if name not in channels:", "        if name in channels:", "tests/core/pixels/test_mixing.py"),
    Mutant("light taken from what was before", "pixels/blending.py", 'luma_after if "light" in channels else luma_before', "luma_before", "tests/core/pixels/test_mixing.py"),
    Mutant("opacity left out of laying", "pixels/blending.py", "np.full((1, 1), opacity, np.float32) if where", "np.full((1, 1), 1, np.float32) if where", LAYERS),
    Mutant("subtract keeps what it should take", "piece/where.py", "np.minimum(total, 1 - part)", "np.minimum(total, part)", "tests/core/piece/test_where.py"),
    Mutant("keep areas move more", "render/chain.py", "free = 1 - kept_at(self.keep", "free = 1 + kept_at(self.keep", "tests/core/render/test_keeping.py"),
    Mutant("keep areas not carried through bends", "pixels/masks.py", "    return None if mask is None else", "    return None if mask is not None else", "tests/core/render/test_keeping.py"),
    Mutant("neutral where one setting is neutral", "kinds/kind.py", "and all(getattr(settings, k) == v", "and any(getattr(settings, k) == v", CONTRACT + "::test_only_all_its_neutral_settings_make_a_kind_neutral"),
    # Sorting.
    Mutant("runs end before their threshold", "pixels/ordering.py", "low <= keys[i] <= high", "low <= keys[i] < high", "tests/core/steps/test_sort.py"),
    Mutant("equal keys change places", "pixels/ordering.py", "keys[order[j]] > key)):", "keys[order[j]] >= key)):", "tests/core/steps/test_sort.py"),
    Mutant("falling is rising", "steps/break_/pixel_sort.py", 'falling = s.order == "falling"', "falling = False", "tests/core/steps/test_sort.py"),
    # Faults of documents.
    Mutant("a newer piece is opened all the same", "piece/files.py", "version > VERSION", "version > VERSION + 99", "tests/core/piece/test_piece.py"),
    Mutant("ids may be taken twice", "piece/model.py", "if one in ids[:index]:", "if False:", "tests/core/piece/test_piece.py " + LAYERS),
    # What each setting does (tests/core/settings), drawn over all rooms.
    Mutant("scan lines' offset upwards", "steps/break_/scan_lines.py", "across / s.pitch - s.offset\n    width", "across / s.pitch + s.offset\n    width", ROWS),
    Mutant("scan lines turned the other way", "steps/break_/scan_lines.py", "(y * cos(tau * s.angle) - x * sin(tau * s.angle))", "(y * cos(tau * s.angle) + x * sin(tau * s.angle))", ROWS),
    Mutant("scan lines slip left", "steps/break_/scan_lines.py", "odd, s.interlace * rows.cols", "odd, -s.interlace * rows.cols", ROWS),
    Mutant("a tint's balance the wrong way", "steps/finish/tint.py", "log(0.5) / log(balance)", "log(balance) / log(0.5)", ROWS),
    Mutant("a tint's shares exchanged", "steps/finish/tint.py", "(s.dark_share, s.light_share)", "(s.light_share, s.dark_share)", ROWS),
    Mutant("overlapping keep areas added up", "piece/keep.py", "np.maximum(total, cover * np.float32(area.weight))", "total + cover * np.float32(area.weight)", "tests/core/render/test_keeping.py"),
    Mutant("orientations 5 and 7 exchanged", "io/decode.py", "if orientation in (2, 3, 6, 7):", "if orientation in (2, 3, 5, 6):", "tests/core/io/test_formats.py"),
    Mutant("orientations 4 and 2 exchanged", "io/decode.py", "if orientation in (3, 4, 7, 8):", "if orientation in (3, 2, 7, 8):", "tests/core/io/test_formats.py"),
    Mutant("light turned the other way", "steps/finish/light.py", "turned = cos(tau * s.turn), sin(tau * s.turn)", "turned = -cos(tau * s.turn), sin(tau * s.turn)", ROWS),
    Mutant("light's inside and outside exchanged", "steps/finish/light.py", "*_gains(s.inside, s.warmth),", "*_gains(s.outside, s.warmth),", ROWS),
    Mutant("shade as warm as the light", "steps/finish/light.py", "*_gains(s.outside, s.shade_warmth),", "*_gains(s.outside, s.warmth),", ROWS),
    Mutant("fog that begins where it should end", "steps/finish/fog.py", "return (place - clear) / wide", "return (dense - place) / wide", ROWS),
    Mutant("fog that knows no line", "steps/finish/fog.py", "way = np.array([s.dense_x - s.clear_x, s.dense_y - s.clear_y])", "way = np.array([s.dense_x - s.clear_x, 0.0])", ROWS),
    Mutant("colour left of the light on tape", "steps/break_/tape.py", "np.full(rows, raster.pixels(s.delay), np.float32)", "np.full(rows, -raster.pixels(s.delay), np.float32)", ROWS),
    Mutant("ghosts heading the other way", "steps/break_/ghosts.py", "-cos(tau * s.heading) * s.apart", "cos(tau * s.heading) * s.apart", ROWS),
    Mutant("a melt that flows backwards", "steps/break_/melt.py", "sin(tau * push.heading) * far, -cos(tau * push.heading) * far", "-sin(tau * push.heading) * far, cos(tau * push.heading) * far", ROWS),
    Mutant("keys of a melt not heard", "steps/break_/melt.py", "now = Push(s.heading, s.push, s.threshold, s.hold)", "return [Push(s.heading, s.push, s.threshold, s.hold)] * s.rounds", ROWS),
    Mutant("bricks in one line", "steps/break_/mosaic.py", "    if s.offset:\n", "    if False:\n", ROWS),
    Mutant("a spiral that winds the other way", "steps/bend/spiral_repeat.py", "inwards if s.clockwise else -inwards", "-inwards if s.clockwise else inwards", ROWS),
    Mutant("copies that grow inwards", "steps/bend/spiral_repeat.py", "s.growth**-inwards", "s.growth**inwards", ROWS),
    Mutant("hues of copies turned back", "steps/bend/spiral_repeat.py", "hue = s.hue * inwards", "hue = -s.hue * inwards", ROWS),
    Mutant("copies darker where they should be lighter", "steps/bend/spiral_repeat.py", "(1 + s.light) ** inwards", "(1 - s.light) ** inwards", ROWS),
    Mutant("chance of a copy's size unheard", "steps/bend/spiral_repeat.py", "2 ** (s.chance_size * spread(s.seed, place, 0))", "1", ROWS),
    Mutant("ripples that move inwards", "steps/bend/ripple.py", "rad / length - phase", "rad / length + phase", ROWS),
    Mutant("a row bend that pushes left", "steps/bend/row_bend.py", "x[i] if columns else x[i] - shift", "x[i] if columns else x[i] + shift", ROWS),
    Mutant("kaleidoscopes never mirrored", "steps/bend/kaleidoscope.py", "if mirrored and part > half:", "if False:", ROWS),
    Mutant("plates leaning the other way", "steps/break_/channel_split.py", "px = px + np.float32(self.shear) * py", "px = px - np.float32(self.shear) * py", ROWS),
    Mutant("plates turned the other way", "steps/break_/channel_split.py", "dx * c + dy * s, dy * c - dx * s", "dx * c - dy * s, dy * c + dx * s", ROWS),
    Mutant("sharpening without its threshold", "steps/finish/sharpen.py", "np.maximum(np.abs(fine) - np.float32(s.threshold), 0)", "np.abs(fine)", ROWS),
    Mutant("haloes held back always", "steps/finish/sharpen.py", "np.float32(s.halo) * (sharp - held)", "np.float32(0) * (sharp - held)", ROWS),
    Mutant("marks of light places where dark ones are wanted", "steps/break_/stipple.py", "1 - light if s.from_dark else light", "light if s.from_dark else 1 - light", ROWS),
    Mutant("marks in their even places always", "steps/break_/stipple.py", "noise[0] * scatter * pitch", "noise[0] * 0 * pitch", ROWS + " tests/core/steps/test_break.py"),
    Mutant("refit contains where it should cover", "steps/prepare/refit.py", 'min(fits) if s.how == "cover"', 'max(fits) if s.how == "cover"', ROWS),
    Mutant("level turned the other way", "steps/prepare/level.py", "return x * cosine + y * sine, y * cosine - x * sine", "return x * cosine - y * sine, y * cosine + x * sine", ROWS + " tests/core/steps/test_prepare.py"),
    Mutant("warmth that cools", "steps/finish/colour.py", "warmed(s.warmth)", "warmed(-s.warmth)", ROWS),
    Mutant("saturation beyond its end", "steps/finish/colour.py", "far = 1 + s.saturation * (2 if", "far = 1.2 + s.saturation * (2 if", ROWS + " " + TONES),
    Mutant("the greys of hues left out", "steps/finish/colour.py", 'getattr(s, f"grey_{hue}") for hue in HUES', 'getattr(s, "grey_red") for hue in HUES', ROWS),
    # One truth.
    Mutant("keep areas left out of what an answer depends on", "render/keys.py", 'digest("answer", before, described(stage, ALONE), keep, looked_at,', 'digest("answer", before, described(stage, ALONE), looked_at,', IDENTITIES),
    Mutant("what came before left out of an answer", "render/keys.py", 'digest("answer", before, described', 'digest("answer", described', IDENTITIES),
    Mutant("a where shown without the picture it looks at", "render/identities.py", "picture if where.looks_at_picture else None", "None", IDENTITIES),
    Mutant("an idle step followed", "render/stages.py", "in zip(earlier, frames, strict=False) if not prior.is_idle]", "in zip(earlier, frames, strict=False) if prior.on]", IDENTITIES),
    Mutant("a box that reads a picture of half the size it needs", "render/trail.py", "wanted *= self.quality.detail", "wanted *= 0.5 * self.quality.detail", BOXES),
    Mutant("what a rule leaves out folded back", "render/chain.py", "left_out = x >= OUTSIDE if link.kind.leaves_out else None", "left_out = None", ROWS),
    Mutant("a version that is never raised", "piece/migrations.py", '"caracol": 3}', '"caracol": 1}', "tests/core/piece/test_versions.py"),
    Mutant("a seam's switch read the wrong way", "piece/migrations.py", 'settings["crossfade"] is True', 'settings["crossfade"] is False', "tests/core/piece/test_versions.py"),
    Mutant("linked steps varied apart", "piece/variants.py", "for sheet_id, _ in alike:", "for sheet_id, _ in alike[:1]:", "tests/core/piece/test_variants.py"),
    Mutant("bonds of settings unheard", "kinds/settings.py", "if not bond.holds(", "if False and not bond.holds(", "tests/core/steps/test_prepare.py tests/core/test_box_and_ground.py"),
    # What comes from outside, and what goes there.
    Mutant("points of lines not counted", "bounds.py", 'name in ("line", "outline")', 'name in ("outline",)', BOUNDS),
    Mutant("every fault told", "errors.py", "for one in faults[:MOST_TOLD]]", "for one in faults]", BOUNDS),
    Mutant("groups of any depth", "bounds.py", "if deep > DEEPEST_GROUPS:", "if False:", BOUNDS),
    Mutant("lists of objects of any length", "bounds.py", "len(one) > LONGEST_LIST and", "False and", BOUNDS),
    Mutant("a piece of any size is written", "bounds.py", "(size := len(text.encode())) > LARGEST", "(size := len(text.encode())) > 10 * LARGEST", "tests/studio/test_saves.py"),
    Mutant("tags that say more than the file has", "io/tags.py", "if tag.length > len(content)), None)", "if False), None)", NOTES),
    Mutant("tags of any type taken for bytes", "io/tags.py", "whole = tag.kind in BYTES and", "whole =", NOTES),
    Mutant("packets of any size", "io/xmp.py", "if len(xml) > LARGEST_PACKET:", "if False:", NOTES),
    Mutant("packets of any number of marks", "io/xmp.py", 'if xml.count(b"<") > 2 * MOST_ELEMENTS:', "if False:", NOTES),
    Mutant("types declared in a packet are read", "io/xmp.py", "forbid_dtd=True", "forbid_dtd=False, forbid_entities=False", NOTES),
    Mutant("a white a little off", "pixels/spaces.py", "D50 = (0.9642, 1.0, 0.8249)", "D50 = (0.96422, 1.0, 0.82521)", READERS),
    Mutant("titles in plain letters alone", "io/formats.py", "found[tag] = value.encode()", "found[tag] = value", READERS),
    Mutant("lines cut short of the grain", "geometry/lines.py", "round(float(part) * GRAIN)", "int(float(part) * GRAIN)", "tests/core/geometry/test_lines.py"),
    Mutant("pressure lost with a new version", "piece/migrations.py", "pressure if any(one != 1 for one in pressure) else []", "[]", "tests/core/piece/test_versions.py"),
    Mutant("names cut in the middle of a sign", "delivery/names.py", "or (left < len(stem) and (_joins(stem[left]) or stem[left - 1] == JOINER))", "", "tests/core/test_small_truths.py"),
    Mutant("an empty lowest slot has a frame of its own", "render/scene.py", "EmptyGround(None if named is None else self._ground(named, []))", "EmptyGround(None)", "tests/core/piece/test_recipe.py"),
    Mutant("a photo may be left out", "render/scene.py", 'if source.kind == "photo":', 'if source.kind == "none":', "tests/core/piece/test_recipe.py"),
    Mutant("an outline of a range of light", "piece/cutting.py", "if self.outline.looks_at_picture:", "if False:", "tests/studio/test_tones_and_figures.py"),
    Mutant("all read sharply at two sizes", "render/stage_node.py", "return self._trail.evened if twice else self._trail", "return self._trail", EVEN),
    Mutant("layers stand on what is not even", "render/scene.py", "return BelowGround(Composite(self.frame, list(below), self._context.quality).evened)", "return BelowGround(Composite(self.frame, list(below), self._context.quality))", EVEN),
    Mutant("even pictures kept as others", "render/trail.py", 'keys.source("even", self.ground.digest) if self.even else self.ground.digest', "self.ground.digest", EVEN),
    Mutant("a box stands on what is even", "render/scene.py", "return Trail(BelowGround(self.whole if of is None else of)", "return Trail(BelowGround((self.whole if of is None else of).evened)", EVEN),
    Mutant("what is pressed together grows without end", "render/trail.py", "found.append(min(stage.chain.longer_shown(before), max(before, stage.chain.longer_shown(holds))))", "found.append(stage.chain.longer_shown(before))", EVEN),
    Mutant("what is drawn is read as large as may be", "render/trail.py", "elif exact or not count:", "elif True:", EVEN),
)  # fmt: skip


def workplace(base: Path) -> Path:
    """Return a fresh copy of what tests need."""
    base.mkdir()
    for name in COPIED:
        source = ROOT / name
        if source.is_dir():
            shutil.copytree(source, base / name, ignore=shutil.ignore_patterns("__pycache__", "screenshots", "*.egg-info"))
        else:
            shutil.copy(source, base / name)
    return base


def run(mutant: Mutant, place: Path) -> tuple[str, float]:
    """Apply a fault, run its tests, take it back; return "caught", or what went wrong, and the seconds it took."""
    began = time.monotonic()
    path = place / CORE / mutant.file
    text = path.read_text(encoding="utf-8")
    if text.count(mutant.before) < 1:
        return "NOT FOUND in the source", 0.0
    environment = {**os.environ, "CARACOL_CORES": "1", "PYTHONDONTWRITEBYTECODE": "1"}
    if "numba" in text:  # the copy's own kernels, compiled for the tests alone
        environment["CARACOL_KERNELS"] = str(place / "kernels")
    path.write_text(text.replace(mutant.before, mutant.after), encoding="utf-8")
    try:
        command = [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:randomly", *mutant.tests.split()]
        done = subprocess.run(command, cwd=place, env=environment, capture_output=True, text=True, timeout=900)
    finally:
        path.write_text(text, encoding="utf-8")
    seconds = time.monotonic() - began
    if done.returncode == 1 and "error during collection" not in done.stdout and "\nERROR tests/" not in done.stdout:
        failed = next((line for line in done.stdout.splitlines() if line.startswith("FAILED")), "FAILED ?")
        return "caught by " + failed.removeprefix("FAILED ").split(" - ")[0], seconds
    return ("SURVIVED" if done.returncode == 0 else f"BROKEN\n{done.stdout[-800:]}{done.stderr[-400:]}"), seconds


def main() -> int:
    """Run all faults, or those whose name or file holds the words given, and print the table."""
    words = " ".join(sys.argv[1:])
    chosen = [mutant for mutant in MUTANTS if words in f"{mutant.name} {mutant.file}"]
    bad = 0
    with tempfile.TemporaryDirectory(prefix="caracol-mutants-") as base, ThreadPoolExecutor(WORKERS) as pool:
        places: SimpleQueue[Path] = SimpleQueue()
        for number in range(WORKERS):
            places.put(workplace(Path(base) / str(number)))

        def work(mutant: Mutant) -> tuple[Mutant, str, float]:
            place = places.get()
            try:
                return mutant, *run(mutant, place)
            finally:
                places.put(place)

        for mutant, end, seconds in pool.map(work, chosen):
            bad += not end.startswith("caught")
            print(f"{'ok ' if end.startswith('caught') else 'BAD'} {mutant.name}  [{mutant.file}]: {end} ({seconds:.0f} s)", flush=True)
    print(f"{len(chosen) - bad} of {len(chosen)} faults were caught.")
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
