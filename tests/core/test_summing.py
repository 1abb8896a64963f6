"""Sums and means against SciPy's, an independent library."""

from __future__ import annotations

import numpy as np
import pytest
import scipy
from bilge_core.loads.summing import moving_mean, summed
from hypothesis import given
from hypothesis import strategies as st


@given(st.integers(2, 60), st.integers(1, 25), st.integers(0, 10_000))
def test_as_scipy_has_them(count: int, width: int, seed: int) -> None:
    rng = np.random.default_rng(seed)
    values, time = rng.normal(size=count), np.cumsum(rng.uniform(0.1, 1.0, count))
    whole = scipy.integrate.cumulative_trapezoid(values, time, initial=0.0)
    assert summed(values, time) == pytest.approx(whole, abs=1e-12)
    nil = scipy.ndimage.uniform_filter1d(values, width, mode="constant")
    assert moving_mean(values, width, "nil") == pytest.approx(nil, abs=1e-12)
    mirrored = scipy.ndimage.uniform_filter1d(values, width, mode="reflect")
    assert moving_mean(values, width, "mirrored") == pytest.approx(mirrored, abs=1e-12)
