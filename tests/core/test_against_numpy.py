"""Each bend's compiled rule agrees with the same rule written a second time, in NumPy."""

from __future__ import annotations

import numpy as np
import pytest
from benchmarks.numpy_maps import BENDS, RULES

from caracol.core.catalogue.registry import get_kind
from caracol.core.geometry.edges import apply_edge
from caracol.core.geometry.frame import Frame
from caracol.core.kinds.kind import BendKind
from caracol.core.kinds.settings import as_arguments
from tests.pictures import smooth


@pytest.mark.parametrize("key", BENDS)
def test_rule_agrees(key: str) -> None:
    kind = get_kind(key)
    assert isinstance(kind, BendKind)
    settings = kind.settings(**BENDS[key])
    values = as_arguments(settings)
    before = Frame(2.0)
    after = kind.frame_after(before, settings)
    x, y = after.grid(90, round(90 * after.ratio))
    known = {}
    if kind.asks(settings):
        assert kind.guide is not None
        known["guide"] = values["guide"] = kind.guide(smooth(256, 512), **{name: values[name] for name in kind.guide_settings})
    expected = RULES[key](x.astype(np.float64), y.astype(np.float64), before.ratio, values)
    found = kind.pull(x, y, before, after, settings, **known)
    if values["edge"] == "stretch":
        apply_edge(*found, before, "stretch")
    for ours, theirs in zip(found, expected, strict=True):
        off = np.abs(np.clip(ours, -1e3, 1e3) - theirs)
        # A ray on which a rule jumps may fall to either side.
        assert np.quantile(off, 0.99) < (5e-3 if key in ("displace", "map") else 2e-4)
