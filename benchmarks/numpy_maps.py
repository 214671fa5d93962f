"""Each bend as one writes it in NumPy: the coordinates that `cv2.remap` then reads. What ours is measured against, and checked with."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import cv2
import numpy as np

from caracol.core.geometry.curves import SIZE, curve_table
from caracol.core.steps.bend.wave import wave_plan

Points = tuple[np.ndarray, np.ndarray]
TAU = 2 * np.pi
FORMULA = {"system": "polar", "first": "rad * (1 + 0.2 * wave(6 * ang))", "second": "ang + 0.3 * (1 - rad) ^ 2", "edge": "mirror"}

BENDS: dict[str, dict[str, Any]] = {
    "ring": {"edge": "stretch"},
    "twirl": {"turns": 0.8, "reach": 1.4},
    "pinch": {"amount": 0.5},
    "wave": {"length": 0.4, "height": 0.06, "number": 3},
    "ripple": {},
    "row-bend": {},
    "kaleidoscope": {"sectors": 6, "seek": False},
    "lens": {"form": "barrel", "amount": 0.4, "cover": False},
    "droste": {},
    "place": {"corners": ((0.3, 0.1), (-0.3, 0.1), (0.0, 0.0), (0.0, 0.0)), "edge": "mirror"},
    "displace": {"amount": 0.2, "softness": 0.2},
    "map": {"amount": 0.2, "coverage": False},
    "formula": FORMULA,
}
"""The settings that are measured."""


def _polar(x: np.ndarray, y: np.ndarray) -> Points:
    return np.hypot(x, y), np.arctan2(x, -y) / TAU


def _from_polar(rad: np.ndarray, ang: np.ndarray) -> Points:
    return rad * np.sin(TAU * ang), -rad * np.cos(TAU * ang)


def ring(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    rad, ang = _polar(x, y)
    u, v = np.mod(ang - 0.5, 1), np.clip(1 - rad, 0, 1)
    return (2 * u - 1) * ratio, 2 * v - 1


def twirl(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    rad, ang = _polar(x, y)
    return _from_polar(rad, ang - s["turns"] * np.maximum(1 - rad / s["reach"], 0) ** 2)


def pinch(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    rad, _ = _polar(x, y)
    k = np.where(rad < 1, np.maximum(rad, 1e-6) ** (2 ** -s["amount"] - 1), 1)
    return x * k, y * k


def wave(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    dx, dy = np.sin(TAU * s["heading"]), -np.cos(TAU * s["heading"])
    across = -dy * x + dx * y
    push = 0.0
    for length, height, phase in wave_plan(s["length"], s["height"], s["number"], s["variety"], s["seed"]):
        push = push + height * np.sin(TAU * (across / length + phase))
    return x - dx * push, y - dy * push


def ripple(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    rad = np.maximum(np.hypot(x, y), 1e-6)
    q = np.minimum(rad / s["reach"], 1)
    k = 1 - s["height"] * (1 - q * q * (3 - 2 * q)) * np.sin(TAU * rad / s["length"]) / rad
    return x * k, y * k


def row_bend(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    table = curve_table(s["curve"], s["smooth"])
    return x - np.interp((y + 1) / 2, np.linspace(0, 1, SIZE), table), y


def kaleidoscope(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    rad, ang = _polar(x, y)
    part = np.mod(ang * s["sectors"], 1)
    return _from_polar(rad, np.where(part > 0.5, 1 - part, part) / s["sectors"])


def lens(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    k = (1 + s["amount"] * (x * x + y * y)) / (1 + s["amount"])
    return x * k, y * k


def droste(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    depth = np.log(1 / s["inner"])
    rad, ang = _polar(x, y)
    rad = np.log(np.maximum(rad / s["reach"], 1e-6))
    lean = s["winding"] * depth / TAU
    wound = rad + lean * ang * TAU
    ang = ang - lean * rad / TAU
    return _from_polar(np.exp((wound / depth - np.ceil(wound / depth)) * depth) * s["reach"], ang)


def place(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    frame = np.float32([[-ratio, -1], [ratio, -1], [ratio, 1], [-ratio, 1]])
    m = np.linalg.inv(cv2.getPerspectiveTransform(frame, frame + np.float32(s["corners"])))
    w = m[2, 0] * x + m[2, 1] * y + m[2, 2]
    return (m[0, 0] * x + m[0, 1] * y + m[0, 2]) / w, (m[1, 0] * x + m[1, 1] * y + m[1, 2]) / w


def displace(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    guide = s["guide"]
    rows, cols = guide.shape
    col, row = ((x / ratio + 1) / 2 * cols - 0.5).astype(np.float32), ((y + 1) / 2 * rows - 0.5).astype(np.float32)
    light = cv2.remap(guide, col, row, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return x, y + (light - s["middle"]) * 2 * s["amount"]


def from_map(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    guide = s["guide"]
    rows, cols = guide.shape[:2]
    col, row = ((x / ratio + 1) / 2 * cols - 0.5).astype(np.float32), ((y + 1) / 2 * rows - 0.5).astype(np.float32)
    told = cv2.remap(guide, col, row, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    u, v = (2 * told[..., 0] - 1) * ratio, 2 * told[..., 1] - 1
    return x + s["amount"] * (u - x), y + s["amount"] * (v - y)


def formula(x: np.ndarray, y: np.ndarray, ratio: float, s: dict[str, Any]) -> Points:
    rad, ang = _polar(x, y)
    ang = np.mod(ang, 1)
    return _from_polar(rad * (1 + 0.2 * np.sin(TAU * 6 * ang)), ang + 0.3 * (1 - rad) ** 2)


RULES: dict[str, Callable[[np.ndarray, np.ndarray, float, dict[str, Any]], Points]] = {
    "ring": ring, "twirl": twirl, "pinch": pinch, "wave": wave, "ripple": ripple, "row-bend": row_bend, "kaleidoscope": kaleidoscope,
    "lens": lens, "droste": droste, "place": place, "displace": displace, "map": from_map, "formula": formula,
}  # fmt: skip


def numpy_map(key: str, settings: dict[str, Any], out: tuple[int, int], rows: int, cols: int) -> Points:
    """Return the columns and rows that a picture of `out` (rows, cols) pixels reads from a wide one, as float32."""
    ratio, half_w = cols / rows, max(out[1] / out[0], 1.0)
    x, y = np.meshgrid(((np.arange(out[1]) + 0.5) * 2 / out[1] - 1) * half_w, (np.arange(out[0]) + 0.5) * 2 / out[0] - 1)
    x, y = RULES[key](x, y, ratio, settings)
    return ((x / ratio + 1) / 2 * cols - 0.5).astype(np.float32), ((y + 1) / 2 * rows - 0.5).astype(np.float32)
